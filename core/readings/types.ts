import type { FaceSample, ObjectSample } from '#core/picture';
import type { Trace } from '#core/signal';
import type { Range } from '#core/time';

/** Raised when a measurement or what is decided from it changes its meaning; then the changed parts (perhaps none) are read again, and all is decided anew. */
export const readerVersion = 6;

/** Parts of a reading that can be renewed alone. */
export const readingParts = ['picture', 'faces', 'sound'] as const;
/** What can be read by itself: picture (camera, motion, light, looks, thumbnails), faces (and objects), sound. */
export type ReadingPart = (typeof readingParts)[number];

/** The reader's version since which each part means what it means now; raised with `readerVersion` when the part changes. */
export const partSince: Record<ReadingPart, number> = { picture: 2, faces: 6, sound: 6 };

/** What of a reading by an earlier reader has to be read again. */
export const changedParts = (version: number, since: Record<ReadingPart, number> = partSince): ReadingPart[] =>
  readingParts.filter((part) => since[part] > version);

/** Raw measurements: never re-decided, only re-measured when the reader's version changes. */
export type RawTraceName =
  | 'camera.dx'
  | 'camera.dy'
  | 'camera.rotation'
  | 'camera.zoom'
  | 'camera.confidence'
  | 'things.amount'
  | 'things.share'
  | 'things.x'
  | 'things.y'
  | 'frame.unmatched'
  | 'frame.change'
  | 'frame.mean'
  | 'frame.sharpness'
  | 'frame.noise'
  | 'light.mean'
  | 'light.dark'
  | 'light.bright'
  | 'light.contrast'
  | 'sound.voice'
  | 'sound.level'
  | 'sound.peak'
  | 'sound.loudness'
  | 'sound.onset'
  | 'sound.tonal'
  | 'sound.centroid';

/** Loudness of a whole file; null where there is nothing to measure. */
export interface LoudnessSummary {
  /** ITU-R BS.1770, gated. */
  integratedLufs: number | null;
  /** EBU Tech 3342. */
  rangeLu: number | null;
  truePeakDb: number | null;
}

/** Everything that was measured in a file; nothing is decided yet. */
export interface RawReading {
  durationSeconds: number;
  hasPicture: boolean;
  hasSound: boolean;
  traces: Map<RawTraceName, Trace>;
  faces: FaceSample[];
  objects: ObjectSample[];
  /** The stretch that was read; the whole file when missing. */
  range?: Range;
  /** Cells of `lookColumns` × `lookRows` mean luma, `lookHz` grids a second, one after another. */
  look: Float32Array;
  /** The same in `fineColumns` × `fineRows`, `fineHz` a second; shows dissolves. */
  fine: Float32Array;
}

/** Fine levels of a picture: mean lumas of so many columns … */
export const fineColumns = 8;
/** … and rows, */
export const fineRows = 6;
/** so many pictures a second. */
export const fineHz = 10;
/** Colourfulness of a picture, see `tintOf`: so many pictures a second. */
export const tintHz = 1;
/** Looks of a picture: mean lumas of so many columns … */
export const lookColumns = 6;
/** … and rows, */
export const lookRows = 4;
/** so many pictures a second. */
export const lookHz = 2;

/** Readings as screens, scores and files use them; all at `displayHz`, each 0 to 1 unless said otherwise. */
export const displayHz = 10;
/** Traces that the page draws and moments are chosen by; 0 to 1 where nothing else is said. */
export const displayTraceNames = [
  /** Number of faces (not 0 to 1). */
  'faces',
  /** Share of the picture that the largest face's box covers. */
  'faceArea',
  /** The strongest smile or laugh in the picture. */
  'smile',
  'speech',
  'motion',
  'shake',
  'moves',
  'sharpness',
  'exposure',
  /** Standard deviation of luma. */
  'contrast',
  /** Share of the picture that is pure white. */
  'white',
  'noise',
  'bursts',
  /** Momentary loudness in LUFS, -70 at the least. */
  'loudness',
  /** Peak of the waveform. */
  'wave',
] as const;
/** One of the traces for display. */
export type DisplayTraceName = (typeof displayTraceNames)[number];
/** All traces for display, sampled alike. */
export type DisplayTraces = Record<DisplayTraceName, Float32Array>;

/** What a stretch is called. */
export type RunKind =
  | 'scene'
  | 'dissolve'
  | 'fade'
  | 'flash'
  | 'speech'
  | 'silence'
  | 'music'
  | 'still'
  | 'smooth'
  | 'shaky'
  | 'whip'
  | 'black'
  | 'frozen'
  | 'blurred'
  | 'focus'
  | 'object'
  /** Something of a colour, see `colouredRuns`. */
  | 'coloured'
  /** Sound that reaches full scale again and again. */
  | 'clipped'
  /** Wind in the microphone. */
  | 'wind'
  | 'unread';

/** A stretch of one kind, in seconds. */
export interface Run extends Range {
  kind: RunKind;
  /** Where a camera move goes; what an object is. */
  label?: string;
  /** Severity of a shaky run (0 to 1), speed of a move (picture widths a second), how many objects at once. */
  amount?: number;
  /** Share of the picture that the largest of the objects covers. */
  size?: number;
}

/** What is decided of a reading under some sensitivities. */
export interface Derived {
  durationSeconds: number;
  hz: number;
  traces: DisplayTraces;
  runs: Run[];
  /** Colourfulness of the picture, `tintHz` grids a second, see `tintOf`; empty where it was not read. */
  tint: Float32Array;
}

/** The runs of some kinds, in their order. */
export const runsOf = (runs: readonly Run[], ...kinds: RunKind[]): Run[] =>
  runs.filter((run) => kinds.includes(run.kind));
