import { exportFormats } from '#core/formats';
import { openReelOf } from './openReel';
import { loadReelTexts } from './reelTexts';
import { done, missing, type Result } from './result';
import { sourcesOf } from './sources';

export interface ExportedDocument {
  name: string;
  /** Media type. */
  type: string;
  text: string;
}

/** What subtitles are to be. */
interface SubtitleWishes {
  /** Whether they name who speaks, as far as that is known. */
  speakers?: boolean;
  /** Whether they are in the second language of the reel's captions. */
  second?: boolean;
}

/** A reel as a document that other programs read. */
export async function exportReel(
  projectId: string,
  reelId: string,
  format: string,
  { speakers = false, second = false }: SubtitleWishes = {},
): Promise<Result<ExportedDocument>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const { document: reel } = opened.value;
  const known = Object.hasOwn(exportFormats, format) ? exportFormats[format]! : null;
  if (!known) return missing(`A reel can be exported as ${Object.keys(exportFormats).join(', ')}.`, 'format');
  const language = second ? reel.captions?.second : undefined;
  const texts = known.withWords ? await loadReelTexts(projectId, reel, speakers) : { wordsOf: () => [] };
  const text = known.write({
    reel,
    sources: [...(await sourcesOf(projectId)).values()],
    texts: language && texts.secondOf ? { ...texts, wordsOf: texts.secondOf } : texts,
  });
  const name = language && known.withWords ? `${reel.name}.${language}` : reel.name;
  return done({ name: `${name}.${known.ending ?? format}`, type: known.type, text });
}
