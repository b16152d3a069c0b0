import type { Framing, FramingKey, FramingSubject, PathPoint } from './types';
import type { FaceTrack, ObjectSample } from '#core/picture';

import { overlap, type Range } from '#core/time';
import { calmPath } from './calmPath';
import { cropWidth } from './crop';
import { boxAt, speakerIn, type MouthTrace } from './mouths';
import { pointedAt, thingTrack } from './things';
import type { Size } from './view';

/** What is known of a source's pictures, for following something in them. */
export interface Watched {
  size: Size;
  tracks: readonly FaceTrack[];
  objects: readonly ObjectSample[];
  /** Where things move: middle and amount, from frame to frame. */
  motion: { hz: number; x: ArrayLike<number>; y: ArrayLike<number>; amount: ArrayLike<number> } | null;
  /** Scene boundaries in seconds; only there a crop jumps. */
  cuts: readonly number[];
  /** Stretches in which one voice speaks. */
  turns: readonly Range[];
  mouths: readonly MouthTrace[];
}

/** Samples a second of a path. */
const pathHz = 5;
/** How far from the middle of the crop, in shares of its size, what is followed may wander before the crop goes after it. */
const comfort = 0.14;
/** Air at both sides of a face, in shares of its width. */
const air = 0.25;
/** Around a change of what is followed, and around a key, the crop is free to be under way for so long, in seconds. */
const underWay = 0.8;
/** Faces stand above the middle of a wide crop: eyes at the upper third. Common practice, no source. */
const headroom = 0.1;

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** What is looked at over a stretch of one shot. */
interface Look extends Range {
  what: string;
  boxAt(seconds: number): Box | null;
  /** The whole box has to be seen. */
  hold: boolean;
}

/**
 * The path of a crop over a stretch of a source: within each shot the calmest way that keeps what is followed in its
 * middle part and whole faces inside while a crop that holds them exists.
 * @param range seconds of the source
 * @param frame shape of the reel; only its proportions count
 */
export function followPath(
  watched: Watched,
  range: Range,
  frame: Size,
  subject: FramingSubject,
  zoom = 1,
  keys: readonly FramingKey[] = [],
): { path: PathPoint[]; follows: string } {
  // A jump lies a little before the first picture of its shot, so that no rounding puts it behind.
  const edges = [
    range.start,
    ...watched.cuts.filter((cut) => cut > range.start + 0.04 && cut < range.end - 0.04).map((cut) => cut - 0.008),
    range.end,
  ];
  const path: PathPoint[] = [];
  const seen = new Map<string, number>();
  for (let index = 0; index + 1 < edges.length; index++) {
    const shot = { start: edges[index]!, end: edges[index + 1]! };
    const looks = subject === 'fixed' ? [] : looksOf(watched, shot, subject, cropWidth(watched.size, frame, zoom));
    for (const look of looks) seen.set(look.what, (seen.get(look.what) ?? 0) + look.end - look.start);
    path.push(
      ...shotPath(
        looks,
        shot,
        watched.size,
        frame,
        zoom,
        keys.filter((key) => key.seconds >= shot.start && key.seconds < shot.end),
        path.at(-1),
      ),
    );
  }
  const most = [...seen].sort((a, b) => b[1] - a[1])[0]?.[0];
  return { path, follows: subject === 'fixed' ? 'nothing' : (most ?? 'the middle') };
}

/** A crop's path reaches so far beyond both ends of a piece, in seconds, so that a longer piece is framed too. */
const reachBefore = 4,
  reachAfter = 10;
/** The stretch that is framed for a piece: a little more at both ends, for trims and transitions. Seconds of the source; `duration` is its length. */
export const framedRange = ({ start, end }: Range, duration = Infinity): Range => ({
  start: Math.max(0, start - reachBefore),
  end: Math.min(duration, end + reachAfter),
});

/** A framing anew: of a stretch, for a shape, with what was chosen by hand kept. Two are stacked only where two faces are. */
export function frameStretch(
  watched: Watched,
  range: Range,
  frame: Size,
  wanted: Pick<Framing, 'subject' | 'zoom' | 'keys'>,
): Framing {
  const { subject, zoom, keys } = wanted;
  if (subject !== 'stack') return { subject, zoom, keys, ...followPath(watched, range, frame, subject, zoom, keys) };
  const two = pairIn(watched, range);
  if (!two)
    return {
      subject,
      zoom,
      keys,
      ...followPath(watched, range, frame, 'auto', zoom, keys),
      follows: 'the speaker; there are no two faces to stack',
    };
  const half = { width: frame.width, height: frame.height / 2 };
  const near = zoom > 1 ? zoom : zoomApart(watched, two, half);
  const [path, below] = two.map((id) => followPath(watched, range, half, `face:${id}`, near).path);
  return { subject, zoom: near, keys: [], path: path!, below: below!, follows: 'two faces' };
}

/** The two faces that are longest together in a stretch, the left one first. */
function pairIn({ tracks }: Watched, range: Range): [string, string] | null {
  const within = tracks.filter((track) => overlap(track, range) > 0);
  const scored = within
    .flatMap((a, index) =>
      within.slice(index + 1).map((b) => ({
        a,
        b,
        together:
          overlap({ start: Math.max(a.start, b.start), end: Math.min(a.end, b.end) }, range) *
          Math.min(faceSize(a), faceSize(b)),
      })),
    )
    .filter((pair) => pair.together > 0);
  const best = scored.sort((one, other) => other.together - one.together)[0];
  if (!best) return null;
  const [left, right] = best.a.boxes[0]!.box.x <= best.b.boxes[0]!.box.x ? [best.a, best.b] : [best.b, best.a];
  return [left.id, right.id];
}

/** How close each half comes, so that it shows its own face with room around it and not the other one. */
function zoomApart({ tracks, size }: Watched, two: readonly string[], half: Size): number {
  const [a, b] = two.map((id) => tracks.find((track) => track.id === id)!.boxes[0]!.box);
  const apart = Math.abs(a!.x + a!.width / 2 - b!.x - b!.width / 2);
  const face = Math.max(a!.width, b!.width);
  // Twice the way to the other face's near edge, less what a crop may wander; never closer than four faces.
  const widest = Math.max(4 * face, (2 * apart - face) / (1 + 2 * comfort));
  return Math.min(2.5, Math.max(1, Number((cropWidth(size, half, 1) / widest).toFixed(2))));
}

const faceSize = (track: FaceTrack): number =>
  track.boxes.reduce((sum, { box }) => sum + box.width * box.height, 0) / Math.max(1, track.boxes.length);

function looksOf(watched: Watched, shot: Range, subject: FramingSubject, width: number): Look[] {
  const faces = watched.tracks.filter((track) => overlap(track, shot) > 0.2);
  if (subject.startsWith('face:')) {
    const chosen = faces.find((track) => `face:${track.id}` === subject);
    if (chosen) return [faceLook(chosen, shot, 'one face')];
  }
  const pointed = pointedAt(subject);
  if (pointed) {
    const track = thingTrack(watched.objects, pointed, shot);
    const look = track ? thingLook(track, pointed.label) : thingIn(watched.objects, shot, pointed.label);
    if (look) return [look];
  }
  if (faces.length === 1) return [faceLook(faces[0]!, shot, 'the face')];
  if (faces.length > 1) {
    // All of them, where the crop is wide enough.
    const all = (seconds: number) => unionOf(faces.flatMap((track) => boxAt(track, seconds) ?? []));
    const widest = Math.max(...samplesOf(shot).map((seconds) => all(seconds)?.width ?? 0));
    if (widest > 0 && widest * 1.1 < width)
      return [{ ...shot, what: faces.length === 2 ? 'both faces' : 'all faces', boxAt: all, hold: true }];
    const turns = watched.turns.filter((turn) => overlap(turn, shot) > 0.15);
    const mouths = watched.mouths.filter(({ track }) => faces.some((face) => face.id === track));
    const largest = faces.reduce((best, track) =>
      faceSize(track) * overlap(track, shot) > faceSize(best) * overlap(best, shot) ? track : best,
    );
    const speaks = turns.flatMap((turn) => {
      const id = speakerIn(turn, mouths);
      return id === null ? [] : [{ ...turn, id }];
    });
    if (speaks.length === 0) return [faceLook(largest, shot, 'the largest face')];
    // From one speaker's first word to the next one's; the first and the last have the rest of the shot.
    const looks: Look[] = [];
    for (const [index, turn] of speaks.entries()) {
      const before = looks.at(-1);
      const track = faces.find((face) => face.id === turn.id)!;
      if (before && speaks[index - 1]!.id === turn.id) continue;
      const start = before ? Math.max(shot.start, turn.start - 0.2) : shot.start;
      if (before) before.end = start;
      looks.push({ ...faceLook(track, { start, end: shot.end }, 'the speaker') });
    }
    return looks;
  }
  const thing = thingIn(watched.objects, shot);
  if (thing) return [thing];
  return motionLook(watched.motion, shot);
}

const faceLook = (track: FaceTrack, range: Range, what: string): Look => ({
  ...range,
  what,
  hold: true,
  boxAt: (seconds) => boxAt(track, seconds),
});

const unionOf = (boxes: readonly Box[]): Box | null => {
  if (boxes.length === 0) return null;
  const [x, y] = [Math.min(...boxes.map((box) => box.x)), Math.min(...boxes.map((box) => box.y))];
  return {
    x,
    y,
    width: Math.max(...boxes.map((box) => box.x + box.width)) - x,
    height: Math.max(...boxes.map((box) => box.y + box.height)) - y,
  };
};

const samplesOf = (range: Range): number[] => {
  const count = Math.max(2, Math.round((range.end - range.start) * pathHz) + 1);
  return Array.from({ length: count }, (_, index) => range.start + ((range.end - range.start) * index) / (count - 1));
};

const thingLook = (track: Pick<FaceTrack, 'boxes' | 'start' | 'end'>, label: string): Look => ({
  start: track.start,
  end: track.end,
  what: label === 'person' ? 'a person' : `a ${label}`,
  hold: false,
  boxAt: (seconds) => boxAt(track, seconds),
});

/** The kind of thing that covers most of the picture over a shot, or a kind that is asked for; its largest one in every sample. */
function thingIn(objects: readonly ObjectSample[], shot: Range, wanted?: string): Look | null {
  const within = objects.filter(({ time }) => time >= shot.start && time < shot.end);
  const weight = new Map<string, number>();
  for (const { boxes } of within)
    for (const box of boxes)
      if (wanted === undefined || box.label === wanted)
        weight.set(box.label, (weight.get(box.label) ?? 0) + Math.sqrt(box.width * box.height) * box.score);
  const label = [...weight].sort((a, b) => b[1] - a[1])[0]?.[0];
  const boxes =
    label === undefined
      ? []
      : within.flatMap(({ time, boxes: all }) => {
          const own = all
            .filter((box) => box.label === label)
            .sort((a, b) => b.width * b.height - a.width * a.height)[0];
          return own ? [{ time, box: own }] : [];
        });
  return label === undefined || boxes.length === 0 || boxes.length < within.length / 3
    ? null
    : thingLook({ ...shot, boxes }, label);
}

/** Where the motion is, smoothed over two seconds, where there is any. */
function motionLook(motion: Watched['motion'], shot: Range): Look[] {
  if (!motion) return [];
  const at = (seconds: number): Box | null => {
    const from = Math.max(0, Math.floor((seconds - 1) * motion.hz)),
      to = Math.min(motion.amount.length, Math.ceil((seconds + 1) * motion.hz));
    let [sum, x, y] = [0, 0, 0];
    for (let index = from; index < to; index++) {
      const amount = motion.amount[index]!;
      if (!(amount > 0)) continue;
      sum += amount;
      x += amount * motion.x[index]!;
      y += amount * motion.y[index]!;
    }
    return sum / Math.max(1, to - from) > 2e-5 ? { x: x / sum, y: y / sum, width: 0, height: 0 } : null;
  };
  return samplesOf(shot).some((seconds) => at(seconds))
    ? [{ ...shot, what: 'the motion', hold: false, boxAt: at }]
    : [];
}

interface Zones {
  low: Float64Array;
  high: Float64Array;
}

function shotPath(
  looks: readonly Look[],
  shot: Range,
  source: Size,
  frame: Size,
  zoom: number,
  keys: readonly FramingKey[],
  last: PathPoint | undefined,
): PathPoint[] {
  const times = samplesOf(shot);
  const width = cropWidth(source, frame, zoom);
  const height = (width * source.width * frame.height) / (frame.width * source.height);
  const axes = [
    { extent: width, of: (box: Box) => [box.x, box.width] as const, up: 0 },
    { extent: height, of: (box: Box) => [box.y, box.height] as const, up: headroom },
  ];
  const [x, y] = axes.map(({ extent, of, up }, axis) => {
    const [least, most] = [extent / 2, 1 - extent / 2];
    if (most - least < 1e-6) return new Float64Array(times.length).fill(0.5);
    const zones: Zones = {
      low: new Float64Array(times.length).fill(least),
      high: new Float64Array(times.length).fill(most),
    };
    let bound = false;
    for (const [index, seconds] of times.entries()) {
      const key = keys.find((each) => Math.abs(each.seconds - seconds) <= 0.5 / pathHz + 1e-9);
      if (key) {
        const value = Math.min(most, Math.max(least, axis === 0 ? key.x : key.y));
        [zones.low[index], zones.high[index]] = [value, value];
        bound = true;
        continue;
      }
      const look = looks.find((each) => seconds >= each.start && seconds < each.end) ?? looks.at(-1);
      const box = look?.boxAt(seconds);
      if (!look || !box) continue;
      if (keys.some((each) => Math.abs(each.seconds - seconds) < underWay)) continue;
      const changes =
        looks.length > 1 && looks.some((each, at) => at > 0 && Math.abs(each.start - seconds) < underWay / 2);
      if (changes) continue;
      const [from, size] = of(box);
      const middle = from + size / 2 + up * extent;
      let [low, high] = [middle - comfort * extent, middle + comfort * extent];
      if (look.hold) {
        const room = axis === 0 ? air * (box.width > 0.5 * extent ? 0.3 : 1) * Math.min(size, 0.2) : 0;
        const [holdLow, holdHigh] = [from + size + room - extent / 2, from - room + extent / 2];
        if (holdLow <= holdHigh) [low, high] = [Math.max(low, holdLow), Math.min(high, holdHigh)];
        if (low > high) low = high = Math.min(holdHigh, Math.max(holdLow, middle));
      }
      const clamp = (value: number) => Math.min(most, Math.max(least, value));
      [zones.low[index], zones.high[index]] = [clamp(low), clamp(high)];
      bound = true;
    }
    // With nothing to go by it stays where it was, else in the middle.
    if (!bound)
      return new Float64Array(times.length).fill(Math.min(most, Math.max(least, last ? last[axis + 1]! : 0.5)));
    return calmPath(zones.low, zones.high);
  }) as [Float64Array, Float64Array];
  return simplify(times.map((seconds, index): PathPoint => [seconds, x[index]!, y[index]!]));
}

/** Off the computed path by no more than this, in shares of the picture: a third of a pixel of 720 lines. */
const tolerance = 0.0003;

/** Fewer points for the same path (Ramer 1972, Douglas & Peucker 1973); what hardly moves stands still. */
function simplify(points: readonly PathPoint[]): PathPoint[] {
  const keep = new Set([0, points.length - 1]);
  const split = (from: number, to: number) => {
    let [far, at] = [tolerance, -1];
    for (let index = from + 1; index < to; index++) {
      const share = (points[index]![0] - points[from]![0]) / (points[to]![0] - points[from]![0]);
      const off = Math.max(
        ...[1, 2].map((axis) =>
          Math.abs(
            points[index]![axis]! - (points[from]![axis]! + (points[to]![axis]! - points[from]![axis]!) * share),
          ),
        ),
      );
      if (off > far) [far, at] = [off, index];
    }
    if (at < 0) return;
    keep.add(at);
    split(from, at);
    split(at, to);
  };
  split(0, points.length - 1);
  const kept = [...keep].sort((a, b) => a - b).map((index): PathPoint => [...points[index]!]);
  for (let index = 1; index < kept.length; index++)
    for (const axis of [1, 2] as const)
      if (Math.abs(kept[index]![axis] - kept[index - 1]![axis]) < 2 * tolerance)
        kept[index]![axis] = kept[index - 1]![axis];
  return kept.map(([seconds, x, y]) => [Number(seconds.toFixed(3)), Number(x.toFixed(5)), Number(y.toFixed(5))]);
}
