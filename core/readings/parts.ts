import type { Trace } from '#core/signal';
import { overlap, type Range } from '#core/time';
import {
  fineColumns,
  fineHz,
  fineRows,
  lookColumns,
  lookHz,
  lookRows,
  type RawReading,
  type RawTraceName,
} from './types';

/** A stretch whose pictures were read whole; all that was measured begins and ends with it, see `cropReading`. */
export interface ReadStretch {
  range: Range;
  raw: RawReading;
}

/**
 * Of a reading whose measurements begin with the file, what lies in a range. Traces say where they begin; looks begin with
 * the range.
 */
export function cropReading(raw: RawReading, { start, end }: Range): RawReading {
  const cut = (values: Float32Array, hz: number, each: number) =>
    values.slice(Math.round(start * hz) * each, Math.round(end * hz) * each);
  const within = <Sample extends { time: number }>(samples: readonly Sample[]) =>
    samples.filter(({ time }) => time >= start && time < end);
  return {
    ...raw,
    faces: within(raw.faces),
    objects: within(raw.objects),
    look: cut(raw.look, lookHz, lookColumns * lookRows),
    fine: cut(raw.fine, fineHz, fineColumns * fineRows),
    traces: new Map(
      [...raw.traces].map(([name, trace]) => [
        name,
        { ...trace, start: Math.round(start * trace.hz) / trace.hz, values: cut(trace.values, trace.hz, 1) },
      ]),
    ),
  };
}

/** Cuts a range into parts of a length; a last one that would be shorter than half of it goes to the one before. */
export function partsWithin({ start, end }: Range, seconds: number): Range[] {
  const count = Math.max(1, Math.round((end - start) / seconds));
  return Array.from({ length: count }, (_, part) => ({
    start: start + part * seconds,
    end: part === count - 1 ? end : start + (part + 1) * seconds,
  }));
}

/** What tells which part of a file matters most. */
export interface PartInterest {
  /** Where the editor looks just now, in seconds; null while elsewhere. */
  focus: number | null;
  /** Stretches with marks or decisions of the editor. */
  marked: readonly Range[];
  /** What would be picked by what is known so far, with scores. */
  picked: readonly (Range & { score: number })[];
}

/**
 * Parts in the order in which they are best read: where the editor looks and what comes next there, then what was marked,
 * then what ranks high, then the rest in order of time.
 */
export function orderParts(parts: readonly Range[], { focus, marked, picked }: PartInterest): Range[] {
  const at = focus === null ? -1 : parts.findIndex(({ start, end }) => focus >= start && focus < end);
  const inFocus = at < 0 ? [] : parts.slice(at, at + 2);
  const merit = (part: Range) =>
    picked.reduce((sum, each) => sum + Math.max(0, overlap(each, part)) * each.score, 0) / (part.end - part.start);
  const isMarked = (part: Range) => marked.some((mark) => mark.start < part.end && mark.end >= part.start);
  const rest = parts
    .filter((part) => !inFocus.includes(part))
    .map((part) => ({ part, isMarked: isMarked(part), merit: merit(part) }))
    .sort((a, b) => Number(b.isMarked) - Number(a.isMarked) || b.merit - a.merit || a.part.start - b.part.start);
  return [...inFocus, ...rest.map(({ part }) => part)];
}

/** What is true of a frame of which nothing is known: no more than that it is not like the one before. */
const unknown = (name: string): number => (name === 'frame.change' ? 255 : 0);

/**
 * One reading out of stretches that were read whole, the sound of all of it, and what a rough reading said about the rest.
 * @param rough what is known of all of it; null where everything was read whole
 * @param sound a reading of the sound of all of it; null while there is none, and where there is no sound
 */
export function mergeStretches(
  stretches: readonly ReadStretch[],
  {
    durationSeconds,
    range,
    rough,
    sound,
  }: { durationSeconds: number; range?: Range | undefined; rough: RawReading | null; sound: RawReading | null },
): RawReading {
  const traces = new Map<RawTraceName, Trace>();
  for (const [name, trace] of rough?.traces ?? []) traces.set(name, trace);
  for (const [name, trace] of sound?.traces ?? []) if (isOfSound(name)) traces.set(name, trace);
  const names = new Set(stretches.flatMap(({ raw }) => [...raw.traces.keys()].filter((name) => !isOfSound(name))));
  for (const name of names)
    traces.set(name, mergedTrace(name, stretches, rough?.traces.get(name) ?? null, durationSeconds));
  const outside = <Sample extends { time: number }>(samples: readonly Sample[]) =>
    samples.filter(({ time }) => !stretches.some(({ range: own }) => time >= own.start && time < own.end));
  const byTime = (a: { time: number }, b: { time: number }) => a.time - b.time;
  return {
    durationSeconds,
    hasPicture: Boolean(rough?.hasPicture) || stretches.some(({ raw }) => raw.hasPicture),
    hasSound: sound?.hasSound ?? rough?.hasSound ?? false,
    faces: [...outside(rough?.faces ?? []), ...stretches.flatMap((each) => each.raw.faces)].sort(byTime),
    objects: [...outside(rough?.objects ?? []), ...stretches.flatMap((each) => each.raw.objects)].sort(byTime),
    look: mergedGrids('look', lookHz, lookColumns * lookRows, stretches, rough, durationSeconds),
    fine: mergedGrids('fine', fineHz, fineColumns * fineRows, stretches, rough, durationSeconds),
    ...(range ? { range } : {}),
    traces,
  };
}

const isOfSound = (name: string): boolean => name.startsWith('sound.');

function mergedTrace(
  name: RawTraceName,
  stretches: readonly ReadStretch[],
  rough: Trace | null,
  durationSeconds: number,
): Trace {
  const hz = stretches.find(({ raw }) => raw.traces.has(name))!.raw.traces.get(name)!.hz;
  const values = new Float32Array(Math.max(1, Math.round(durationSeconds * hz)));
  if (rough)
    for (let at = 0; at < values.length; at++)
      values[at] = rough.values[Math.floor((at / hz - rough.start) * rough.hz + 1e-6)] ?? rough.values.at(-1) ?? 0;
  else values.fill(unknown(name));
  for (const { range, raw } of stretches) put(values, raw.traces.get(name)?.values, Math.round(range.start * hz));
  return { name, hz, start: 0, values };
}

function put(values: Float32Array, own: Float32Array | undefined, at: number): void {
  if (own && at < values.length) values.set(own.subarray(0, values.length - at), at);
}

/** Looks; where none is known the one before stands, so that no cut is seen there. */
function mergedGrids(
  which: 'look' | 'fine',
  hz: number,
  cells: number,
  stretches: readonly ReadStretch[],
  rough: RawReading | null,
  durationSeconds: number,
): Float32Array {
  const count = Math.max(1, Math.round(durationSeconds * hz));
  const known = rough?.[which].length ? rough[which] : null;
  if (!known && !stretches.some(({ raw }) => raw[which].length)) return new Float32Array();
  const values = new Float32Array(count * cells);
  if (known) values.set(known.subarray(0, values.length));
  let before = 0;
  for (const { range, raw } of [...stretches].sort((a, b) => a.range.start - b.range.start)) {
    const from = Math.round(range.start * hz);
    put(values, raw[which], from * cells);
    const first = raw[which].subarray(0, cells);
    if (!known && first.length === cells)
      for (let at = before; at < Math.min(from, count); at++) values.set(first, at * cells);
    before = from + raw[which].length / cells;
  }
  if (!known && before > 0)
    for (let at = before; at < count; at++) values.copyWithin(at * cells, (at - 1) * cells, at * cells);
  return values;
}
