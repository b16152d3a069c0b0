import { coveredSeconds, type Range } from '#core/time';
import { intersectionOverUnion, type FaceBox, type FaceSample } from './faces';

/** One face followed through time, from entry to exit, inside one scene. */
export interface FaceTrack extends Range {
  /** Stays the same for the same reading and scenes. */
  id: string;
  boxes: { time: number; box: FaceBox }[];
  /** Mean of the descriptors taken along the way, or null when the face was never large and clear enough. */
  descriptor: number[] | null;
  /** Strongest smile, 0 to 1. */
  smile: number;
  size: SizeClass;
}

/** How near somebody is. */
export type SizeClass = 'close' | 'medium' | 'wide';

/** By the height of the face in the picture: over a quarter close, over a tenth medium. Common practice, no source. */
export const sizeClass = (faceHeight: number): SizeClass =>
  faceHeight > 0.26 ? 'close' : faceHeight > 0.1 ? 'medium' : 'wide';

/** Pictures without the face that do not end a track: a blink of the detector, a hand before the face. */
const longestGap = 1.1;
/** Descriptors further apart belong to two persons. */
const anotherPerson = 0.6;

interface Open {
  id: string;
  boxes: { time: number; box: FaceBox }[];
}

/**
 * Follows faces from sample to sample by the overlap of their boxes, or by nearness when they move fast; a cut, or a
 * face of other looks at the same place, ends a track. Tracks begin and end half way to the samples without the face.
 * @param cuts scene boundaries in seconds
 */
export function faceTracks(samples: readonly FaceSample[], cuts: readonly number[], duration: number): FaceTrack[] {
  const done: FaceTrack[] = [];
  let open: Open[] = [];
  const sorted = [...cuts].sort((a, b) => a - b);
  const close = (track: Open) => done.push(finish(track, samples, sorted, duration));
  for (const [index, { time, boxes }] of samples.entries()) {
    const before = samples[index - 1]?.time ?? -1;
    const cutBetween = sorted.some((cut) => cut > before && cut <= time);
    const going: Open[] = [];
    for (const track of open) {
      if (cutBetween || time - track.boxes.at(-1)!.time > longestGap) close(track);
      else going.push(track);
    }
    const pairs = going
      .flatMap((track) => boxes.map((box, at) => ({ track, at, nearness: nearness(track.boxes.at(-1)!.box, box) })))
      .filter((pair) => pair.nearness > 0)
      .sort((a, b) => b.nearness - a.nearness);
    const taken = new Set<number>();
    const moved = new Set<Open>();
    for (const { track, at } of pairs) {
      if (taken.has(at) || moved.has(track) || looksLikeAnother(track, boxes[at]!)) continue;
      taken.add(at);
      moved.add(track);
      track.boxes.push({ time, box: boxes[at]! });
    }
    open = [
      ...going,
      ...boxes.flatMap((box, at) => (taken.has(at) ? [] : [{ id: `${index}.${at}`, boxes: [{ time, box }] }])),
    ];
  }
  open.forEach(close);
  return done.sort((a, b) => a.start - b.start);
}

/** How well one box follows another, 0 (not at all) to 1. */
function nearness(a: FaceBox, b: FaceBox): number {
  const shared = intersectionOverUnion(a, b);
  if (shared > 0.15) return shared;
  const ratio = b.height / a.height;
  if (ratio < 0.6 || ratio > 1.7) return 0;
  const away = Math.hypot(
    (a.x + a.width / 2 - b.x - b.width / 2) / a.width,
    (a.y + a.height / 2 - b.y - b.height / 2) / a.height,
  );
  return away < 1.2 ? 0.15 * (1 - away / 1.2) : 0;
}

function looksLikeAnother(track: Open, box: FaceBox): boolean {
  const known = track.boxes.findLast((each) => each.box.descriptor)?.box.descriptor;
  return Boolean(known && box.descriptor && descriptorDistance(known, box.descriptor) > anotherPerson);
}

/** Euclidean distance of two descriptors. */
export function descriptorDistance(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let index = 0; index < a.length; index++) sum += (a[index]! - b[index]!) ** 2;
  return Math.sqrt(sum);
}

function finish(
  { id, boxes }: Open,
  samples: readonly FaceSample[],
  cuts: readonly number[],
  duration: number,
): FaceTrack {
  const first = boxes[0]!.time;
  const last = boxes.at(-1)!.time;
  const step = samples.length > 1 ? samples[1]!.time - samples[0]!.time : 0.5;
  const cutBefore = cuts.findLast((cut) => cut <= first && cut > first - step);
  const cutAfter = cuts.find((cut) => cut > last && cut <= last + step);
  const toTheEnd = last === samples.at(-1)!.time;
  const descriptors = boxes.flatMap(({ box }) => (box.descriptor ? [box.descriptor] : []));
  const heights = boxes.map(({ box }) => box.height).sort((a, b) => a - b);
  return {
    id,
    boxes,
    start: Math.max(0, cutBefore ?? first - step / 2),
    end: toTheEnd ? duration : Math.min(duration, cutAfter ?? last + step / 2),
    descriptor: descriptors.length ? meanOf(descriptors) : null,
    smile: boxes.reduce((most, { box }) => Math.max(most, box.smile ?? 0), 0),
    size: sizeClass(heights[heights.length >> 1]!),
  };
}

function meanOf(lists: readonly (readonly number[])[]): number[] {
  return lists[0]!.map((_, index) => lists.reduce((sum, list) => sum + list[index]!, 0) / lists.length);
}

/** Whether a track shows well enough who it is: looks were taken, and not in a picture out of focus. */
export function showsWho(track: FaceTrack, blurred: readonly Range[]): boolean {
  if (!track.descriptor || isPassing(track)) return false;
  return coveredSeconds(track, blurred) < 0.5 * (track.end - track.start);
}

/** A track short and weak enough to be a mistake of the detector: real faces persist, false ones flicker. */
export const isPassing = (track: FaceTrack): boolean => track.boxes.length < 2 && track.boxes[0]!.box.score < 0.9;
