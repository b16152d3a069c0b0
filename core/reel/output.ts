import { framesPerSecond, framesToSeconds } from '#core/time';
import { mainTrack, reelFrames, type Reel } from './types';

/** What a reel can be rendered as. */
export const outputFormats = ['mp4', 'webm', 'gif', 'wav', 'png'] as const;
/** One of the formats of a render. */
export type OutputFormat = (typeof outputFormats)[number];
/** How carefully is encoded. */
export const qualities = ['draft', 'good', 'best'] as const;
/** One of the qualities. */
export type Quality = (typeof qualities)[number];

/** For the screens: what each is. */
export const formatNames: Readonly<Record<OutputFormat, string>> = {
  mp4: 'MP4, H.264 and AAC',
  webm: 'WebM, VP9 and Opus',
  gif: 'GIF, moving, without sound',
  wav: 'WAV, sound only',
  png: 'PNG, one frame',
};

/** Shapes that reels are made in, width : height. Common practice, no source. */
export const shapes = { '16:9': [16, 9], '9:16': [9, 16], '1:1': [1, 1], '4:5': [4, 5] } as const;
/** One of the shapes of a frame. */
export type Shape = keyof typeof shapes;
/** Lines of the shorter side. */
export const lineCounts = [720, 1080, 2160] as const;

/** Pixels of a shape: its shorter side has so many. */
export function sizeOf(shape: Shape, lines: number): Reel['size'] {
  const [width, height] = shapes[shape];
  const even = (value: number) => Math.round(value / 2) * 2;
  return width >= height
    ? { width: even((lines * width) / height), height: even(lines) }
    : { width: even(lines), height: even((lines * height) / width) };
}

/** The shape of a size, or null for another one. */
export const shapeOf = ({ width, height }: Reel['size']): Shape | null =>
  (Object.keys(shapes) as Shape[]).find(
    (shape) => Math.abs(width / height - shapes[shape][0] / shapes[shape][1]) < 0.01,
  ) ?? null;

/** Bits of H.264 and VP9 a pixel of footage takes by quality, measured on handheld footage of ours; scenes differ by a factor of two. */
const bitsPerPixel: Record<'mp4' | 'webm', Record<Quality, number>> = {
  mp4: { draft: 0.11, good: 0.1, best: 0.17 },
  webm: { draft: 0.025, good: 0.05, best: 0.09 },
};
/** Seconds of one core that a million pixels take, by format; for a first guess before anything was rendered here. */
const secondsPerMegapixel: Record<OutputFormat, Record<Quality, number>> = {
  mp4: { draft: 0.006, good: 0.011, best: 0.022 },
  webm: { draft: 0.03, good: 0.055, best: 0.1 },
  gif: { draft: 0.01, good: 0.01, best: 0.01 },
  wav: { draft: 0, good: 0, best: 0 },
  png: { draft: 0.01, good: 0.01, best: 0.01 },
};

/** What a colour table adds: ffmpeg looks every pixel up. And what a moving view adds, of a crop, a steadied piece, a photo. */
const secondsPerGraded = 0.033,
  secondsPerMoved = 0.025;

/** Frames of the main track that are seen through a view that moves. */
const movingFrames = (reel: Reel): number =>
  mainTrack(reel).items.reduce((sum, item) => {
    if (item.kind !== 'clip') return sum;
    const { framing, steady, move } = item;
    const crops =
      framing !== undefined &&
      (framing.below !== undefined ||
        framing.path.some(([, x, y]) => x !== framing.path[0]![1] || y !== framing.path[0]![2]));
    return steady || move || crops ? sum + item.frames : sum;
  }, 0);

/** What becomes of the captions: in the picture, a file beside it, or left away. */
export const captionWays = ['burnt', 'beside', 'none'] as const;
/** One of the ways. */
export type CaptionWay = (typeof captionWays)[number];

/** As what a file is made. */
export interface Coding {
  format: OutputFormat;
  quality: Quality;
  /** Of the shorter side; null for those of the reel. */
  lines: number | null;
  captions: CaptionWay;
}

/** The same shape with so many lines at the shorter side, in even numbers as encoders want them. */
export function scaledSize({ width, height }: Reel['size'], lines: number | null | undefined): Reel['size'] {
  const scale = lines ? lines / Math.min(width, height) : 1;
  const even = (value: number) => Math.round((value * scale) / 2) * 2;
  return { width: even(width), height: even(height) };
}

/** Whether two ways make the same file of a reel. @param own lines of its shorter side */
export const sameCoding = (a: Coding, b: Coding, own: number): boolean =>
  a.format === b.format &&
  (a.format === 'wav' ||
    (a.quality === b.quality && (a.lines ?? own) === (b.lines ?? own) && a.captions === b.captions));

/** A file as it is asked for. */
export interface Wanted {
  format: OutputFormat;
  quality: Quality;
  size: Reel['size'];
  /** In frames; the whole reel when missing. */
  range?: { start: number; end: number };
}

/** A guess of how large a file gets and how long it takes, in bytes and seconds. @param pace how much slower this machine was than the table, 1 at first */
export function estimateOutput(
  reel: Reel,
  { format, quality, size, range }: Wanted,
  pace = 1,
): { bytes: number; seconds: number } {
  const frames = format === 'png' ? 1 : Math.max(0, (range?.end ?? reelFrames(reel)) - (range?.start ?? 0));
  const length = framesToSeconds(frames, reel.rate);
  const pixels = size.width * size.height;
  const graded =
    format !== 'wav' &&
    (reel.look !== undefined ||
      reel.tracks.some((track) => track.items.some((item) => item.kind === 'clip' && item.look)));
  const moving = format === 'wav' ? 0 : movingFrames(reel) / Math.max(1, reelFrames(reel));
  const seconds =
    ((pixels * frames) / 1e6) *
      (secondsPerMegapixel[format][quality] + (graded ? secondsPerGraded : 0) + moving * secondsPerMoved) *
      pace +
    length * 0.01 +
    1;
  const sound = { mp4: 24_000, webm: 16_000, gif: 0, wav: 192_000, png: 0 }[format] * length;
  const picture =
    format === 'mp4' || format === 'webm'
      ? (pixels * framesPerSecond(reel.rate) * length * bitsPerPixel[format][quality]) / 8
      : format === 'gif'
        ? pixels * Math.min(12, framesPerSecond(reel.rate)) * length * 0.35
        : format === 'png'
          ? pixels * 1.6
          : 0;
  return { bytes: Math.round(picture + sound + 2000), seconds };
}

/** How this machine compares with the table of estimates, from files that it made: 1 is the same, 2 takes twice as long. @param done guesses with a pace of 1, and what it took, in seconds */
export function paceOf(done: readonly { guess: number; tookSeconds: number }[]): number {
  const ratios = done
    .filter((each) => each.tookSeconds > 2 && each.guess > 0)
    .map((each) => each.tookSeconds / each.guess)
    .sort((a, b) => a - b);
  return ratios[ratios.length >> 1] ?? 1;
}

/** What a file is for. */
export const purposes = ['web', 'master', 'mail', 'proof', 'sound'] as const;
/** One of the purposes. */
export type Purpose = (typeof purposes)[number];
/** For the screens: what each is called, and what it gives. */
export const purposeNames: Readonly<Record<Purpose, { name: string; says: string }>> = {
  web: { name: 'Web and phones', says: 'plays everywhere' },
  master: { name: 'Master', says: 'the full picture, as good as can be; captions beside it' },
  mail: { name: 'Mail and chat', says: 'at most 20 MB' },
  proof: { name: 'Proof', says: 'quick and small, to look at' },
  sound: { name: 'Sound only', says: 'uncompressed' },
};

/** What mail servers commonly let through, in bytes, with its coding as text taken off. Common practice, no source. */
const mostMailed = 20e6;
/** Lines of the shorter side that are tried for a small file, from the largest. */
const mailedLines = [1080, 720, 480, 360, 240] as const;

/** As what a reel is made for a purpose. Common practice, no source. */
export function outputFor(purpose: Purpose, reel: Reel): Coding {
  const own = Math.min(reel.size.width, reel.size.height);
  const atMost = (lines: number) => (lines < own ? lines : null);
  switch (purpose) {
    case 'web':
      return { format: 'mp4', quality: 'good', lines: atMost(1080), captions: 'burnt' };
    case 'master':
      return { format: 'mp4', quality: 'best', lines: null, captions: 'beside' };
    case 'proof':
      return { format: 'mp4', quality: 'draft', lines: atMost(480), captions: 'burnt' };
    case 'sound':
      return { format: 'wav', quality: 'good', lines: null, captions: 'none' };
    case 'mail': {
      const bytes = (lines: number) => {
        const scale = Math.min(1, lines / own);
        const size = { width: reel.size.width * scale, height: reel.size.height * scale };
        return estimateOutput(reel, { format: 'mp4', quality: 'good', size }).bytes;
      };
      return {
        format: 'mp4',
        quality: 'good',
        lines: atMost(mailedLines.find((lines) => bytes(lines) <= mostMailed) ?? 240),
        captions: 'burnt',
      };
    }
  }
}
