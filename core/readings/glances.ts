import type { Exposure, FaceBox } from '#core/picture';
import type { Trace } from '#core/signal';
import type { Range } from '#core/time';
import { lookColumns, lookHz, lookRows, type RawReading, type RawTraceName } from './types';

/** What was seen and heard at one point of a file. */
export interface Glance {
  /** Seconds from the beginning of the file. */
  time: number;
  seen: { sharpness: number; light: Exposure; look: Float32Array; faces: FaceBox[] } | null;
  /** Mean probability of a voice; level in dBFS; highest sample, 0 to 1. */
  heard: { voice: number; level: number; peak: number } | null;
}

/** Of short stretches a point in so many seconds is looked at, of longer ones so many points at first. */
const firstSeconds = 10;
const firstPoints = 24;
const fewestPoints = 2;
/** Closer than this is left to the reading of key frames. In seconds. */
const closeEnough = 45;
/** A third of the distance, so that a point that lies in the middle of its part stays in the middle of a smaller one. */
const closer = 3;

/**
 * From coarse to fine: points of a stretch in steps, each step those that the ones before it left out. All points of the
 * steps so far lie in the middles of parts of one length.
 * @returns for each step the length of a part and the new points, in seconds
 */
export function glanceSteps({ start, end }: Range): { partSeconds: number; points: number[] }[] {
  const length = end - start;
  const steps: { partSeconds: number; points: number[] }[] = [];
  let parts = Math.min(firstPoints, Math.max(fewestPoints, Math.ceil(length / firstSeconds)));
  for (;;) {
    const partSeconds = length / parts;
    const isFirst = steps.length === 0;
    const points = Array.from({ length: parts }, (_, part) => part)
      .filter((part) => isFirst || part % closer !== 1)
      .map((part) => start + (part + 0.5) * partSeconds);
    steps.push({ partSeconds, points });
    if (partSeconds <= closeEnough) return steps;
    parts *= closer;
  }
}

/** Of pictures between points it is only known what they look like at the next ones. */
const pictureHz = 0.5;
const levelHz = 5;
/** A voice is taken to go on for so long around the point where it was heard; of the rest nothing is known. In seconds. */
const voiceReach = 4;
/** Less than anything counts as a voice. */
const perhaps = 0.3;

/**
 * What points tell of the whole: light, focus and level go over from one to the next; looks and faces are those of the
 * nearest; voices are where they were heard. Nothing is said about motion and camera.
 * @param glances in order of time
 * @param voiceHz samples a second of the trace of voices
 */
export function readingOfGlances(
  glances: readonly Glance[],
  { durationSeconds, range, voiceHz }: { durationSeconds: number; range?: Range | undefined; voiceHz: number },
): RawReading {
  const seen = glances.flatMap(({ time, seen }) => (seen ? [{ time, ...seen }] : []));
  const heard = glances.flatMap(({ time, heard }) => (heard ? [{ time, ...heard }] : []));
  const end = range?.end ?? durationSeconds;
  const trace = (name: RawTraceName, hz: number, valueAt: (seconds: number) => number): Trace => ({
    name,
    hz,
    start: 0,
    values: Float32Array.from({ length: Math.max(1, Math.round(end * hz)) }, (_, at) => valueAt((at + 0.5) / hz)),
  });
  const traces: Trace[] = [];
  if (seen.length > 0) {
    const light = (of: keyof Exposure) =>
      trace(
        `light.${of}`,
        pictureHz,
        between(seen, ({ light }) => light[of]),
      );
    traces.push(
      trace(
        'frame.sharpness',
        pictureHz,
        between(seen, ({ sharpness }) => sharpness),
      ),
      ...(['mean', 'dark', 'bright', 'contrast'] as const).map(light),
    );
  }
  if (heard.length > 0) {
    const level = between(heard, ({ level }) => level);
    traces.push(
      trace('sound.voice', voiceHz, voiceNear(heard)),
      trace('sound.level', levelHz, level),
      trace('sound.loudness', levelHz, level),
      trace(
        'sound.peak',
        levelHz,
        between(heard, ({ peak }) => peak),
      ),
    );
  }
  return {
    durationSeconds,
    hasPicture: seen.length > 0,
    hasSound: heard.length > 0,
    objects: [],
    faces: seen.map(({ time, faces }) => ({ time, boxes: faces })),
    look: looksOf(seen, end),
    fine: new Float32Array(),
    ...(range ? { range } : {}),
    traces: new Map(traces.map((each) => [each.name as RawTraceName, each])),
  };
}

/** Goes along a list in order of time; times may only grow from call to call, or begin anew. */
function nearest<Point extends { time: number }>(points: readonly Point[]): (seconds: number) => number {
  let at = 0;
  return (seconds) => {
    if (seconds < points[at]!.time) at = 0;
    while (at + 1 < points.length && points[at + 1]!.time - seconds <= seconds - points[at]!.time) at++;
    return at;
  };
}

function between<Point extends { time: number }>(
  points: readonly Point[],
  valueOf: (point: Point) => number,
): (seconds: number) => number {
  const near = nearest(points);
  return (seconds) => {
    const at = near(seconds);
    const point = points[at]!;
    const other = points[seconds < point.time ? at - 1 : at + 1];
    if (!other) return valueOf(point);
    const share = Math.abs(seconds - point.time) / Math.max(1e-9, Math.abs(other.time - point.time));
    return valueOf(point) * (1 - share) + valueOf(other) * share;
  };
}

function voiceNear(points: readonly { time: number; voice: number }[]): (seconds: number) => number {
  const near = nearest(points);
  return (seconds) => {
    const at = near(seconds);
    const { time, voice } = points[at]!;
    return Math.abs(seconds - time) <= voiceReach ? voice : voice * perhaps;
  };
}

function looksOf(seen: readonly { time: number; look: Float32Array }[], end: number): Float32Array {
  const cells = lookColumns * lookRows;
  const looks = new Float32Array(seen.length > 0 ? Math.max(1, Math.round(end * lookHz)) * cells : 0);
  const near = nearest(seen);
  for (let at = 0; at * cells < looks.length; at++) looks.set(seen[near((at + 0.5) / lookHz)]!.look, at * cells);
  return looks;
}
