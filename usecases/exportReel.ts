import { approximateCanvas, captionFonts, captionLines, captionRules, captionsAss } from '#core/captions';
import {
  captionCues,
  wordsInReel,
  writeAss,
  writeChapters,
  writeEdl,
  writeOtio,
  writePieces,
  writeSrt,
  writeVtt,
  type SourceInfo,
} from '#core/formats';
import { clipsOf, type Reel } from '#core/reel';
import { hasDropFrame } from '#core/time';
import type { Word } from '#core/words';
import { loadSpoken } from '#data/words';
import { openReelOf } from './openReel';
import { done, missing, type Result } from './result';
import { sourcesOf } from './sources';

/** What a document is written from. */
interface Written {
  reel: Reel;
  sources: SourceInfo[];
  /** Asked for only by documents with words. */
  words(): Promise<(media: string) => readonly Word[]>;
}
interface Writer {
  /** Media type. */
  type: string;
  /** Of the file; as the format is called when missing. */
  ending?: string;
  write(from: Written): string | Promise<string>;
}

/** Documents that a reel can be taken away as. */
const writers: Readonly<Record<string, Writer>> = {
  otio: { type: 'application/json', write: ({ reel, sources }) => writeOtio(reel, sources) },
  edl: {
    type: 'text/plain',
    write: ({ reel, sources }) => writeEdl(reel, sources, { drop: hasDropFrame(reel.rate) }),
  },
  csv: { type: 'text/csv', write: ({ reel, sources }) => writePieces(reel, sources) },
  chapters: { type: 'text/plain', ending: 'chapters.txt', write: ({ reel }) => writeChapters(reel) },
  srt: { type: 'text/plain', write: async (from) => writeSrt(await cuesOf(from)) },
  vtt: { type: 'text/vtt', write: async (from) => writeVtt(await cuesOf(from)) },
  ass: { type: 'text/plain', write: writeStyled },
};

const cuesOf = async ({ reel, words }: Written) =>
  captionCues(wordsInReel(reel, await words()), reel.captions?.letters);

/** With the look of the reel's captions, where it has any. */
async function writeStyled({ reel, words }: Written): Promise<string> {
  const heard = wordsInReel(reel, await words());
  if (!reel.captions) return writeAss(captionCues(heard), reel.size);
  const lines = captionLines(heard, { ...captionRules, letters: reel.captions.letters });
  return captionsAss(approximateCanvas(), lines, reel.captions, reel.size, captionFonts[reel.captions.font].family);
}

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
  const writer = Object.hasOwn(writers, format) ? writers[format]! : null;
  if (!writer) return missing(`A reel can be taken away as ${Object.keys(writers).join(', ')}.`, 'format');
  const text = await writer.write({
    reel,
    sources: [...(await sourcesOf(projectId)).values()],
    words: () => loadSpoken(clipsOf(reel).map((clip) => clip.media)),
  });
  return done({ name: `${reel.name}.${writer.ending ?? format}`, type: writer.type, text });
}
