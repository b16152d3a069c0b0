import type { FramingSubject } from './types';
import type { ObjectBox, ObjectSample } from '#core/picture';

import type { Range } from '#core/time';

/** A thing as somebody pointed at it: its kind, and its middle at a second of the source, in shares of the picture. */
export interface PointedAt {
  label: string;
  seconds: number;
  x: number;
  y: number;
}

/** The subject that follows a thing pointed at; `seconds` of the source, x and y in shares of the picture. */
export const thingSubject = ({ label, seconds, x, y }: PointedAt): FramingSubject =>
  `thing:${seconds.toFixed(2)}:${x.toFixed(3)}:${y.toFixed(3)}:${label}`;

/** What a subject points at; null for other subjects. */
export function pointedAt(subject: FramingSubject): PointedAt | null {
  const [kind, seconds, x, y, label] = subject.split(':');
  return kind === 'thing' && label ? { label, seconds: Number(seconds), x: Number(x), y: Number(y) } : null;
}

/** Further from a sample than this, in seconds, nobody knows what is in the picture. */
const near = 1.5;
/** From one sample to the next the middle of a thing moves by less than its larger side. */
const stride = 1;
/** After so many samples without it, it has left. */
const patience = 3;

const middle = ({ x, y, width, height }: ObjectBox) => ({ x: x + width / 2, y: y + height / 2 });
const apart = (a: { x: number; y: number }, b: { x: number; y: number }) => Math.hypot(a.x - b.x, a.y - b.y);
const closest = (boxes: readonly ObjectBox[], to: { x: number; y: number }) =>
  boxes.reduce<ObjectBox | null>(
    (best, box) => (!best || apart(middle(box), to) < apart(middle(best), to) ? box : best),
    null,
  );
const sampleAt = (objects: readonly ObjectSample[], seconds: number): number =>
  objects.reduce(
    (best, sample, index) =>
      Math.abs(sample.time - seconds) < Math.abs((objects[best]?.time ?? Infinity) - seconds) ? index : best,
    -1,
  );

/** Things in the picture at a second. */
export function thingsAt(objects: readonly ObjectSample[], seconds: number): readonly ObjectBox[] {
  const sample = objects[sampleAt(objects, seconds)];
  return sample && Math.abs(sample.time - seconds) <= near ? sample.boxes : [];
}

/**
 * One thing from sample to sample, both ways from where it was pointed at, as long as a box of its kind lies near enough.
 * @param shot in seconds; null when it was pointed at elsewhere, or nothing of its kind is there
 */
export function thingTrack(
  objects: readonly ObjectSample[],
  thing: PointedAt,
  shot: Range,
): (Range & { boxes: { time: number; box: ObjectBox }[] }) | null {
  if (thing.seconds < shot.start || thing.seconds > shot.end) return null;
  const samples = objects
    .filter(({ time }) => time >= shot.start && time < shot.end)
    .map(({ time, boxes }) => ({ time, boxes: boxes.filter((box) => box.label === thing.label) }));
  const from = sampleAt(samples, thing.seconds);
  const first = from < 0 ? null : closest(samples[from]!.boxes, thing);
  if (!first) return null;
  const boxes = [{ time: samples[from]!.time, box: first }];
  for (const step of [-1, 1]) {
    let last = first;
    let missed = 0;
    for (let index = from + step; index >= 0 && index < samples.length && missed < patience; index += step) {
      const box = closest(samples[index]!.boxes, middle(last));
      if (!box || apart(middle(box), middle(last)) > stride * Math.max(last.width, last.height) * (missed + 1)) {
        missed++;
        continue;
      }
      boxes.push({ time: samples[index]!.time, box });
      last = box;
      missed = 0;
    }
  }
  boxes.sort((a, b) => a.time - b.time);
  return { ...shot, boxes };
}
