import { exportFormats } from '#core/formats';
import { clipsOf } from '#core/reel';
import { loadSpoken } from '#data/words';
import { openReelOf } from './openReel';
import { done, missing, type Result } from './result';
import { sourcesOf } from './sources';

export interface ExportedDocument {
  name: string;
  /** Media type. */
  type: string;
  text: string;
}

/** A reel as a document that other programs read. */
export async function exportReel(projectId: string, reelId: string, format: string): Promise<Result<ExportedDocument>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const { document: reel } = opened.value;
  const known = Object.hasOwn(exportFormats, format) ? exportFormats[format]! : null;
  if (!known) return missing(`A reel can be taken away as ${Object.keys(exportFormats).join(', ')}.`, 'format');
  const text = known.write({
    reel,
    sources: [...(await sourcesOf(projectId)).values()],
    words: known.withWords ? await loadSpoken(clipsOf(reel).map((clip) => clip.media)) : () => [],
  });
  return done({ name: `${reel.name}.${known.ending ?? format}`, type: known.type, text });
}
