import type { FaceSample } from '#core/picture';
import type { Trace } from '#core/signal';
import type { Range } from '#core/time';

/** Raised when a measurement changes its meaning; readings of another version are made again. */
export const readerVersion = 1;

/** Raw measurements: never re-decided, only re-measured when the reader's version changes. */
export const rawTraceNames = [
  'camera.dx', 'camera.dy', 'camera.rotation', 'camera.zoom', 'camera.confidence',
  'things.amount', 'things.share', 'things.x', 'frame.unmatched', 'frame.change',
  'frame.sharpness', 'light.mean', 'light.dark', 'light.bright', 'light.contrast',
  'sound.voice', 'sound.level', 'sound.peak', 'sound.loudness',
] as const;
export type RawTraceName = (typeof rawTraceNames)[number];

export interface RawReading {
  durationSeconds: number;
  hasPicture: boolean;
  hasSound: boolean;
  traces: Map<RawTraceName, Trace>;
  faces: FaceSample[];
  /** Cells of `lookColumns` × `lookRows` mean luma, `lookHz` grids a second, one after another. */
  look: Float32Array;
}

export const lookColumns = 6;
export const lookRows = 4;
export const lookHz = 2;

/** Readings as screens, scores and files use them; all at `displayHz`, each 0 to 1 unless said otherwise. */
export const displayHz = 10;
export const displayTraceNames = [
  /** Number of faces (not 0 to 1). */
  'faces',
  /** Share of the picture that the largest face's box covers. */
  'faceArea',
  'speech', 'motion', 'shake', 'moves', 'sharpness', 'exposure', 'bursts',
  /** Momentary loudness in LUFS, -70 at the least. */
  'loudness',
  /** Peak of the waveform. */
  'wave',
] as const;
export type DisplayTraceName = (typeof displayTraceNames)[number];
export type DisplayTraces = Record<DisplayTraceName, Float32Array>;

export type RunKind = 'scene' | 'speech' | 'silence' | 'still' | 'smooth' | 'shaky' | 'whip' | 'black' | 'frozen' | 'blurred';

export interface Run extends Range {
  kind: RunKind;
  label?: string;
}

export interface Derived {
  durationSeconds: number;
  hz: number;
  traces: DisplayTraces;
  runs: Run[];
}

export const runsOf = (runs: readonly Run[], ...kinds: RunKind[]): Run[] => runs.filter((run) => kinds.includes(run.kind));
