import { runsOf } from '#core/readings';
import type { Footage } from '#core/moments';
import { overlap } from '#core/time';
import type { MontagePiece } from './types';

type SizeClass = 'close' | 'medium' | 'wide';

/** What the filling must know of a piece; every number 0 to 1. */
export interface PieceFeatures {
  /** Mean amount of action. */
  action: number;
  /** Where the action is greatest, in seconds of the source, and how great. */
  peak: { seconds: number; strength: number };
  size: SizeClass;
  /** Where the picture goes: the camera, when it moves. */
  direction: string | null;
  /** Rough look of its middle; tells places apart. */
  look: Float32Array | null;
  /** Share of it that is shaky. */
  shaky: number;
  whip: boolean;
  /** Sharpness and light. */
  quality: number;
}

/** A photo, or footage that was not read. */
export const plainFeatures = (piece: MontagePiece): PieceFeatures => ({
  action: piece.photo ? 0.1 : 0.3,
  peak: { seconds: piece.action ?? piece.start, strength: 0 },
  size: 'wide',
  direction: null,
  look: null,
  shaky: 0,
  whip: false,
  quality: 0.6,
});

/** Half a second around each instant is one action. */
const actionSeconds = 0.5;
/** A face that covers so much of the picture makes it close, or medium. Common practice, no source. */
const closeArea = 0.08,
  mediumArea = 0.015;

/** What a piece shows, from the readings of its footage. */
export function pieceFeatures(piece: MontagePiece, footage: Footage | null): PieceFeatures {
  if (!footage || piece.photo) return plainFeatures(piece);
  const { hz, traces, runs } = footage;
  const from = Math.max(0, Math.floor(piece.start * hz));
  const to = Math.max(from + 1, Math.min(traces.motion.length, Math.ceil(piece.end * hz)));
  const mean = (values: ArrayLike<number>) => {
    let sum = 0;
    for (let index = from; index < to; index++) sum += values[index] ?? 0;
    return sum / (to - from);
  };
  // Action is what moves, and what bursts out in the sound, over half a second.
  const half = Math.round((actionSeconds * hz) / 2);
  let peak = { seconds: (piece.start + piece.end) / 2, strength: 0 };
  for (let index = from; index < to; index++) {
    let sum = 0,
      count = 0;
    for (let near = Math.max(from, index - half); near <= Math.min(to - 1, index + half); near++) {
      sum += (traces.motion[near] ?? 0) + 0.6 * (traces.bursts[near] ?? 0);
      count++;
    }
    if (sum / count > peak.strength + 1e-6) peak = { seconds: index / hz, strength: sum / count };
  }
  if (piece.action !== undefined) peak = { ...peak, seconds: piece.action };
  const length = piece.end - piece.start;
  const share = (kind: 'shaky' | 'whip' | 'smooth') =>
    runsOf(runs, kind).reduce((sum, run) => sum + overlap(run, piece), 0) / Math.max(0.01, length);
  const move = runsOf(runs, 'smooth').filter((run) => overlap(run, piece) > length * 0.4)[0];
  const area = mean(traces.faceArea);
  const { look } = footage;
  const grid = look
    ? Math.min(Math.floor(look.values.length / look.cells) - 1, Math.round(((piece.start + piece.end) / 2) * look.hz))
    : -1;
  return {
    action: Math.min(1, mean(traces.motion) + 0.4 * mean(traces.bursts)),
    peak: { ...peak, strength: Math.min(1, peak.strength) },
    size: area > closeArea ? 'close' : area > mediumArea ? 'medium' : 'wide',
    direction: move?.label ?? null,
    look: look && grid >= 0 ? look.values.slice(grid * look.cells, (grid + 1) * look.cells) : null,
    shaky: share('shaky'),
    whip: share('whip') > 0.1 || runsOf(runs, 'whip').some((run) => overlap(run, piece) > 0.15),
    quality: Math.min(1, 0.6 * mean(traces.sharpness) + 0.4 * mean(traces.exposure)),
  };
}

/** How alike two pieces are to look at, 0 to 1: the place, how close, and where the camera goes. */
export function likeness(a: PieceFeatures, b: PieceFeatures): number {
  return (
    0.5 * lookLikeness(a.look, b.look) +
    (a.size === b.size ? 0.3 : 0) +
    (a.direction !== null && a.direction === b.direction ? 0.2 : 0)
  );
}

/** Of two rough looks, 0 to 1; unknown looks are half alike. */
export function lookLikeness(a: Float32Array | null, b: Float32Array | null): number {
  if (!a || !b) return 0.5;
  let sum = 0;
  for (let index = 0; index < a.length; index++) sum += Math.abs(a[index]! - b[index]!);
  return Math.max(0, 1 - (4 * sum) / a.length);
}
