import { approximateCanvas, captionFonts, captionsAss } from '#core/captions';
import type { Reel } from '#core/reel';
import { hasDropFrame } from '#core/time';
import { captionCues, captionTracks, wordsInReel, type ReelTexts, writeAss, writeSrt, writeVtt } from './captions';
import { writeDescription } from './description';
import { writeEdl } from './edlWrite';
import { notInEdl } from './losses';
import { writeOtio } from './otio';
import type { SourceInfo } from './source';
import { writeChapters, writePieces } from './tables';

/** What a document is written from. */
interface Written {
  reel: Reel;
  sources: readonly SourceInfo[];
  /** Asked for by formats with words only. */
  texts: ReelTexts;
}

/** A kind of document that a reel can be taken away as. */
export interface ExportFormat {
  name: string;
  /** What it is for, in a few words. */
  says: string;
  /** Media type. */
  type: string;
  /** Of the file's name; as the format is called when missing. */
  ending?: string;
  withWords?: boolean;
  /** What of a reel it cannot hold, a few words each. */
  notHeld?: (reel: Reel) => string[];
  write: (from: Written) => string;
}

/** Every document that a reel can be taken away as, in the order in which they are offered. */
export const exportFormats: Readonly<Record<string, ExportFormat>> = {
  otio: {
    name: 'OpenTimelineIO',
    says: 'the whole edit, for other editing programs',
    type: 'application/json',
    write: ({ reel, sources }) => writeOtio(reel, sources),
  },
  edl: {
    name: 'CMX 3600 EDL',
    says: 'one track; what lies above covers',
    type: 'text/plain',
    notHeld: notInEdl,
    write: ({ reel, sources }) => writeEdl(reel, sources, { drop: hasDropFrame(reel.rate) }),
  },
  csv: {
    name: 'Table of pieces',
    says: 'CSV',
    type: 'text/csv',
    write: ({ reel, sources }) => writePieces(reel, sources),
  },
  srt: {
    name: 'Captions, SubRip',
    says: 'of the words that are heard',
    type: 'text/plain',
    withWords: true,
    write: (from) => writeSrt(cuesOf(from)),
  },
  vtt: {
    name: 'Captions, WebVTT',
    says: 'the same for web pages',
    type: 'text/vtt',
    withWords: true,
    write: (from) => writeVtt(cuesOf(from)),
  },
  ass: {
    name: 'Captions, ASS',
    says: 'the same with a style',
    type: 'text/plain',
    withWords: true,
    write: writeStyled,
  },
  chapters: {
    name: 'Chapters',
    says: 'for ffmpeg',
    type: 'text/plain',
    ending: 'chapters.txt',
    write: ({ reel }) => writeChapters(reel),
  },
  description: {
    name: 'Text below a video',
    says: 'its chapters, a line each',
    type: 'text/plain',
    ending: 'description.txt',
    write: ({ reel }) => writeDescription(reel),
  },
};

const cuesOf = ({ reel, texts }: Written) =>
  captionCues(wordsInReel(reel, texts.wordsOf, texts.speakerOf), reel.captions?.letters);

/** With the look of the reel's captions, where it has any. */
function writeStyled(from: Written): string {
  const { reel, texts } = from;
  const tracks = captionTracks(reel, texts);
  return reel.captions && tracks.length > 0
    ? captionsAss(approximateCanvas(), tracks, reel.size, captionFonts[reel.captions.font].family)
    : writeAss(cuesOf(from), reel.size);
}
