import { runsOf, type Run } from '#core/readings';
import { framesPerSecond } from '#core/time';
import type { FoundClip } from './commands/found';
import { sourceFrames, speedOf, type Reel } from './types';

/** What an edge or a piece can be drawn to. */
export type SnapKind = 'playhead' | 'markers' | 'cuts' | 'pauses' | 'beats';
/** Everything that an edge can be drawn to. */
export const snapKinds: readonly SnapKind[] = ['playhead', 'markers', 'cuts', 'beats', 'pauses'];

/** What lies around an edge. */
export interface Surround {
  playhead: number;
  /** Frames of the reel at which the music under it beats. */
  beats?: readonly number[];
  /** Speech of the piece's footage. */
  runs: readonly Run[];
}

/** Frames of the reel at which cuts of the main track and the ends of what lies above and beside lie. */
function cutFrames(reel: Reel, except?: string): number[] {
  const frames = new Set<number>();
  for (const track of reel.tracks) {
    let at = 0;
    for (const item of track.items) {
      if (item.kind === 'clip' && item.id !== except) frames.add(at).add(at + item.frames);
      at += item.frames;
    }
  }
  return [...frames].sort((a, b) => a - b);
}

const nearest = (wanted: number, candidates: readonly { at: number; kind: SnapKind }[], within: number) =>
  candidates
    .filter(({ at }) => Math.abs(at - wanted) <= within)
    .sort((a, b) => Math.abs(a.at - wanted) - Math.abs(b.at - wanted))[0] ?? null;

/** Frames by which an edge is trimmed, drawn to what lies near. In a pause means: half-way into it, so that no word is cut. */
export function snapTrim(
  reel: Reel,
  found: FoundClip,
  edge: 'in' | 'out',
  frames: number,
  around: Surround,
  kinds: ReadonlySet<SnapKind>,
  within: number,
): { frames: number; kind: SnapKind | null } {
  const { clip, start, end } = found;
  const candidates: { at: number; kind: SnapKind }[] = [];
  const place = edge === 'in' ? start : end;
  if (kinds.has('playhead')) candidates.push({ at: around.playhead - place, kind: 'playhead' });
  if (kinds.has('markers'))
    for (const marker of reel.markers ?? []) candidates.push({ at: marker.frame - place, kind: 'markers' });
  if (kinds.has('beats')) for (const beat of around.beats ?? []) candidates.push({ at: beat - place, kind: 'beats' });
  // In the main track what comes after moves along; only cuts of other tracks stand still to be met.
  if (kinds.has('cuts'))
    for (const other of cutFrames({ ...reel, tracks: reel.tracks.filter((track) => track !== found.track) }))
      candidates.push({ at: other - place, kind: 'cuts' });
  if (kinds.has('pauses') && speedOf(clip) > 0) {
    const fps = framesPerSecond(reel.rate);
    const edgeFrame = clip.sourceIn + (edge === 'in' ? 0 : sourceFrames(clip, clip.frames));
    const speech = runsOf(around.runs, 'speech');
    for (let index = 0; index <= speech.length; index++) {
      const [from, to] = [speech[index - 1]?.end, speech[index]?.start];
      const middle =
        from !== undefined && to !== undefined
          ? (from + to) / 2
          : from !== undefined
            ? from + 0.3
            : to !== undefined
              ? to - 0.3
              : null;
      if (middle !== null && middle >= 0)
        candidates.push({ at: Math.round(((middle * fps - edgeFrame) * 100) / speedOf(clip)), kind: 'pauses' });
    }
  }
  const hit = nearest(frames, candidates, within);
  return hit ? { frames: hit.at, kind: hit.kind } : { frames, kind: null };
}

/** Where a piece above or beside goes when it is drawn near something with either of its ends. */
export function snapPlace(
  reel: Reel,
  found: FoundClip,
  to: number,
  around: Pick<Surround, 'playhead' | 'beats'>,
  kinds: ReadonlySet<SnapKind>,
  within: number,
): { frame: number; kind: SnapKind | null } {
  const points: { at: number; kind: SnapKind }[] = [];
  if (kinds.has('playhead')) points.push({ at: around.playhead, kind: 'playhead' });
  if (kinds.has('markers')) for (const marker of reel.markers ?? []) points.push({ at: marker.frame, kind: 'markers' });
  if (kinds.has('beats')) for (const at of around.beats ?? []) points.push({ at, kind: 'beats' });
  if (kinds.has('cuts')) for (const at of cutFrames(reel, found.clip.id)) points.push({ at, kind: 'cuts' });
  const both = points
    .flatMap((point) => [point, { at: point.at - found.clip.frames, kind: point.kind }])
    .filter(({ at }) => at >= 0);
  const hit = nearest(to, both, within);
  return hit ? { frame: hit.at, kind: hit.kind } : { frame: Math.max(0, to), kind: null };
}
