import { framesToSamples, framesToSeconds, type Rate } from '#core/time';
import { amplitude } from './level';
import { beforeCut } from './transitions';
import {
  isCross,
  itemsFrames,
  mainTrack,
  pictureTracks,
  reelFrames,
  soundTracks,
  speedOf,
  type Clip,
  type Reel,
  type ReelItem,
  type Track,
  type TransitionKind,
} from './types';

/** Samples a second of everything that is heard. */
export const soundRate = 48000;
/** Fade at each sound cut, in seconds, so that nothing clicks. Common practice (10 to 20 ms), no source. */
export const cutFadeSeconds = 0.015;

/** How a sound comes or goes, in frames of the reel. */
export interface Fade {
  frames: number;
  colour: 'black' | 'white';
}

/** One stretch as the player and the renderer play it; both use this and nothing else. */
export interface Segment {
  /** Of the clip; a clip that is covered in its middle makes two segments of the same id. */
  id: string;
  /** Null where there is nothing: black, or silence. */
  media: string | null;
  name: string;
  /** Track of the reel that it stands in; 0 is the main one. */
  track: number;
  /** In the reel. */
  startFrame: number;
  frames: number;
  startSeconds: number;
  endSeconds: number;
  /** In the source. */
  sourceSeconds: number;
  /** Seconds of the source that go by in one of the reel: 1 as filmed, 0 for a held frame. */
  speed: number;
  /** Sound samples of this piece; sums of them never drift from the frames. */
  samples: number;
  /** Level of its sound as an amplitude; 0 when it is muted. */
  gain: number;
  /** The clip, and how many frames of it lie before this stretch; less than none where a transition begins before the cut. */
  clip: Clip | null;
  into: number;
  /** From and to a colour, and silence, inside this stretch. */
  fadeIn?: Fade;
  fadeOut?: Fade;
  /** Two stretches seen, or heard, at once; this one is as long as both. */
  cross?: { kind: TransitionKind; from: Segment; to: Segment };
}

interface Placed {
  item: ReelItem;
  track: number;
  from: number;
  to: number;
}

function placed(items: readonly ReelItem[], track: number): Placed[] {
  let at = 0;
  return items.map((item) => ({ item, track, from: at, to: (at += item.frames) }));
}

function segment(rate: Rate, { item, track, from: itemFrom }: Placed, from: number, to: number, level = 1): Segment {
  const clip: Clip | null = item.kind === 'clip' ? item : null;
  const into = from - itemFrom;
  const speed = clip ? speedOf(clip) / 100 : 1;
  return {
    id: item.id,
    media: clip?.media ?? null,
    name: clip?.name ?? '',
    track,
    startFrame: from,
    frames: to - from,
    startSeconds: framesToSeconds(from, rate),
    endSeconds: framesToSeconds(to, rate),
    sourceSeconds: clip ? framesToSeconds(clip.sourceIn + into * speed, rate) : 0,
    speed,
    samples: framesToSamples(to, rate, soundRate) - framesToSamples(from, rate, soundRate),
    gain: !clip || clip.muted || speed === 0 ? 0 : amplitude(clip.levelDb ?? 0) * level,
    clip,
    into,
  };
}

/** What is seen, from the first frame to the last without gaps: of clips at the same time the topmost, else black. Every transition is a cut here. */
export function planSegments(reel: Reel): Segment[] {
  const total = reelFrames(reel);
  const layers = pictureTracks(reel).map((track, index) => placed(track.items, index));
  const edges = new Set([0, total]);
  for (const layer of layers) for (const { from, to } of layer) edges.add(from).add(to);
  const sorted = [...edges].sort((a, b) => a - b);
  const seen: Segment[] = [];
  let last: Placed | null = null;
  const nothing: Placed = { item: { kind: 'gap', id: 'gap', frames: total }, track: 0, from: 0, to: total };
  // In each layer, the item at the edge that is gone by; items lie one after another, so that it only goes forward.
  const at = layers.map(() => 0);
  for (let index = 0; index + 1 < sorted.length; index++) {
    const [from, to] = [sorted[index]!, sorted[index + 1]!];
    const here = layers.map((layer, which) => {
      while (at[which]! < layer.length && layer[at[which]!]!.to <= from) at[which]!++;
      return layer[at[which]!];
    });
    const top = here.findLast((each) => each?.item.kind === 'clip') ?? here[0] ?? nothing;
    const before = seen.at(-1);
    if (before && last === top) seen[seen.length - 1] = segment(reel.rate, top, before.startFrame, to);
    else seen.push(segment(reel.rate, top, from, to));
    last = top;
  }
  return seen;
}

const levelOf = (track: Track): number => (track.muted ? 0 : amplitude(track.levelDb ?? 0));

/** A track over all frames of the reel, silence where it holds nothing. What lies beyond the last picture is cut off. */
function wholeTrack(reel: Reel, track: Track, index: number): Segment[] {
  const total = reelFrames(reel);
  const items = placed(track.items, index).filter((each) => each.from < total);
  const length = itemsFrames(track.items);
  const rest: Placed[] =
    length < total
      ? [{ item: { kind: 'gap', id: 'silence', frames: total - length }, track: index, from: length, to: total }]
      : [];
  return [...items, ...rest].map((each) =>
    segment(reel.rate, each, each.from, Math.min(total, each.to), levelOf(track)),
  );
}

/** The main track's own sound over all frames of the reel, silence in its gaps and after its end. Every transition is a cut here. */
export const planSound = (reel: Reel): Segment[] => wholeTrack(reel, mainTrack(reel), 0);

/** Clips that lie above the main track, each whole, lowest track first. */
export const clipsAbove = (reel: Reel): Segment[] =>
  pictureTracks(reel)
    .slice(1)
    .flatMap((track, index) => clipsIn(reel, track, index + 1));
/** Clips of the sound tracks, each whole. */
export const clipsBeside = (reel: Reel): Segment[] =>
  reel.tracks.flatMap((track, index) => (track.kind === 'sound' ? clipsIn(reel, track, index) : []));
const clipsIn = (reel: Reel, track: Track, index: number): Segment[] =>
  placed(track.items, index)
    .filter(({ item }) => item.kind === 'clip')
    .map((each) => segment(reel.rate, each, each.from, each.to, levelOf(track)));

/** What is seen with all transitions and fades; see `planSegments`. */
export const planPictures = (reel: Reel): Segment[] => dressed(reel, planSegments(reel));
/** What is heard, one list a track: the main track's own sound first. Sounds cross over where pictures do. */
export const planHeard = (reel: Reel): Segment[][] => [
  dressed(reel, planSound(reel)),
  ...soundTracks(reel).map((track) => dressed(reel, wholeTrack(reel, track, reel.tracks.indexOf(track)))),
];

/** Part of a segment's clip, from a frame of the reel on; may lie before or after the segment itself. */
function part(rate: Rate, of: Segment, from: number, frames: number): Segment {
  const start: Placed = { item: of.clip!, track: of.track, from: of.startFrame - of.into, to: 0 };
  return { ...segment(rate, start, from, from + frames), gain: of.gain };
}

function dressed(reel: Reel, segments: readonly Segment[]): Segment[] {
  const out: Segment[] = [];
  for (const [index, now] of segments.entries()) {
    const own = { ...now };
    const before = out.at(-1);
    const { clip } = now;
    if (clip && now.into === 0 && clip.fadeIn)
      own.fadeIn = { frames: Math.min(clip.fadeIn, now.frames), colour: 'black' };
    if (clip?.fadeOut && now.into + now.frames === clip.frames)
      own.fadeOut = { frames: Math.min(clip.fadeOut, now.frames), colour: 'black' };
    out.push(own);
    const cut = segments[index - 1];
    const touches =
      cut?.clip && clip?.into && cut.track === now.track && now.into === 0 && cut.into + cut.frames === cut.clip.frames;
    if (!before || !touches || !clip.into) continue;
    const { kind, frames } = clip.into;
    const early = beforeCut(frames);
    const late = frames - early;
    if (early >= before.frames || late >= now.frames) continue;
    if (!isCross(kind)) {
      const colour = kind === 'white' ? 'white' : 'black';
      if (early > 0) before.fadeOut = { frames: early, colour };
      own.fadeIn = { frames: late, colour };
      continue;
    }
    const start = now.startFrame - early;
    const from = part(reel.rate, cut, start, frames);
    const to = part(reel.rate, now, start, frames);
    out.splice(
      -2,
      2,
      shortened(reel.rate, before, before.frames - early),
      { ...to, gain: 1, cross: { kind, from, to } },
      lateBegun(reel.rate, own, late),
    );
  }
  return out;
}

const shortened = (rate: Rate, of: Segment, frames: number): Segment => {
  const { fadeOut: _, ...rest } = of;
  return { ...rest, ...timesOf(rate, of.startFrame, frames) };
};
const lateBegun = (rate: Rate, of: Segment, frames: number): Segment => {
  const { fadeIn: _, ...rest } = of;
  return {
    ...rest,
    ...timesOf(rate, of.startFrame + frames, of.frames - frames),
    into: of.into + frames,
    sourceSeconds: of.sourceSeconds + framesToSeconds(frames, rate) * of.speed,
  };
};
function timesOf(rate: Rate, startFrame: number, frames: number) {
  const end = startFrame + frames;
  return {
    startFrame,
    frames,
    startSeconds: framesToSeconds(startFrame, rate),
    endSeconds: framesToSeconds(end, rate),
    samples: framesToSamples(end, rate, soundRate) - framesToSamples(startFrame, rate, soundRate),
  };
}

/** Index of the segment that shows at `seconds`; the last one at and after the end, -1 for an empty reel. */
export function segmentAt(segments: readonly Segment[], seconds: number): number {
  let low = 0;
  let high = segments.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (segments[middle]!.endSeconds <= seconds) low = middle + 1;
    else high = middle;
  }
  return segments.length ? low : -1;
}

/** How far a fade lets the picture, or the sound, through at a frame of a segment, and to which colour. */
export function fadeAt(
  { fadeIn, fadeOut, frames }: Segment,
  frame: number,
): { share: number; colour: 'black' | 'white' } {
  const out = fadeOut ? (frames - frame) / fadeOut.frames : 1;
  const inward = fadeIn ? frame / fadeIn.frames : 1;
  const share = Math.max(0, Math.min(1, out, inward));
  return { share, colour: (out < inward ? fadeOut : fadeIn)?.colour ?? 'black' };
}

/** What is seen or heard during a segment: one piece, or both over a transition. Black and silence count. */
export const leavesOf = <Piece extends { cross?: { from: Piece; to: Piece } }>(segment: Piece): Piece[] =>
  segment.cross ? [segment.cross.from, segment.cross.to] : [segment];
