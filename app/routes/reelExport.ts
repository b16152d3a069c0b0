import {
  approximateCanvas,
  captionFonts,
  captionLines,
  captionRules,
  captionsAss,
  type HeardWord,
} from '#core/captions';
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
import { loadSpoken } from '#data/words';
import type { Word } from '#core/words';
import { documentSources, requireReel } from '../server/reel.server';
import type { Route } from './+types/reelExport';

/** Documents a reel can be taken away as, by their ending. */
const writers: Record<
  string,
  {
    type: string;
    write(
      reel: Reel,
      sources: SourceInfo[],
      words: () => Promise<(media: string) => readonly Word[]>,
    ): string | Promise<string>;
  }
> = {
  otio: { type: 'application/json', write: writeOtio },
  edl: { type: 'text/plain', write: (reel, sources) => writeEdl(reel, sources, { drop: hasDropFrame(reel.rate) }) },
  csv: { type: 'text/csv', write: writePieces },
  chapters: { type: 'text/plain', write: writeChapters },
  srt: {
    type: 'text/plain',
    write: async (reel, _, words) => writeSrt(captionCues(wordsInReel(reel, await words()), reel.captions?.letters)),
  },
  vtt: {
    type: 'text/vtt',
    write: async (reel, _, words) => writeVtt(captionCues(wordsInReel(reel, await words()), reel.captions?.letters)),
  },
  ass: { type: 'text/plain', write: async (reel, _, words) => assOf(reel, wordsInReel(reel, await words())) },
};

/** With the look of the reel's captions, where it has any. */
const assOf = (reel: Reel, words: HeardWord[]): string =>
  reel.captions
    ? captionsAss(
        approximateCanvas(),
        captionLines(words, { ...captionRules, letters: reel.captions.letters }),
        reel.captions,
        reel.size,
        captionFonts[reel.captions.font].family,
      )
    : writeAss(captionCues(words), reel.size);

export async function loader({ params }: Route.LoaderArgs) {
  const reel = await requireReel(params.projectId, params.reelId);
  const writer = writers[params.format];
  if (!writer) return new Response(`A reel can be taken away as ${Object.keys(writers).join(', ')}.`, { status: 404 });
  const text = await writer.write(reel.document, await documentSources(reel.projectId), () =>
    loadSpoken(clipsOf(reel.document).map((clip) => clip.media)),
  );
  const name = `${reel.document.name}.${params.format === 'chapters' ? 'chapters.txt' : params.format}`;
  return new Response(text, {
    headers: {
      'Content-Type': `${writer.type}; charset=utf-8`,
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
    },
  });
}
