import { framesPerSecond, type Range } from '#core/time';
import type { ReelCommand } from './commands';
import type { Sources } from './commands/edit';
import { locate } from './commands/found';
import { rollCut } from './commands/roll';
import { itemsFrames, mainTrack, reelFrames, speedOf, type Clip, type Reel } from './types';

/** A picture goes out together with the music. Common practice, no source. */
export const fadeSeconds = 1.5;

/**
 * Ends a reel where its music ends: what stands beyond is taken out, the piece across the end is trimmed and fades.
 * @param musicSeconds length of the music's file
 * @param bars first beats of the music's bars; the reel ends with the last one that it reaches, without a fade, when given
 * @returns one step, or null when the music is as long as the reel or nothing would be left
 */
export function endWithMusic(reel: Reel, musicSeconds: number, bars: readonly number[] = []): ReelCommand | null {
  if (!reel.music) return null;
  const fps = framesPerSecond(reel.rate);
  const { startSeconds } = reel.music;
  const reach = Math.min(musicSeconds - startSeconds, itemsFrames(mainTrack(reel).items) / fps);
  const bar = bars.findLast((seconds) => seconds - startSeconds <= reach - 0.5 / fps && seconds > startSeconds);
  const end = Math.floor(
    (bars.length ? (bar ?? musicSeconds) - startSeconds : musicSeconds - startSeconds) * fps +
      (bars.length ? 0.5 : 1e-6),
  );
  const items = mainTrack(reel).items;
  if (end < 1 || itemsFrames(items) <= end) return null;
  const commands: ReelCommand[] = [];
  let at = 0;
  let last: { id: string; frames: number } | null = null;
  for (const item of items) {
    const start = at;
    at += item.frames;
    if (item.kind === 'gap') continue;
    // From the end, so that what is left keeps its place.
    if (start >= end) commands.unshift({ type: 'remove', clip: item.id });
    else if (at > end) {
      commands.push({ type: 'trim', clip: item.id, edge: 'out', frames: end - at });
      last = { id: item.id, frames: end - start };
    } else last = { id: item.id, frames: item.frames };
  }
  if (!last) return null;
  if (bars.length === 0)
    commands.push({
      type: 'fade',
      clip: last.id,
      edge: 'out',
      frames: Math.min(last.frames, Math.round(fadeSeconds * fps)),
    });
  return {
    type: 'several',
    name: bars.length ? 'ended the reel with a bar of the music' : 'ended the reel with the music',
    commands,
  };
}

/** A word is not cut when the cut keeps so far from it, in seconds. */
const wordMargin = 0.05;
/** Cuts are moved by at most so many seconds; further and another piece would be shown. */
const farthestSeconds = 0.6;

/** What fitting must know of the music. */
export interface MusicBeats {
  /** Seconds of the music. */
  beats: readonly number[];
  durationSeconds: number;
}

/** Frames of the reel at which the music under it beats. */
export function beatFrames(reel: Reel, beats: readonly number[]): number[] {
  const { music } = reel;
  if (!music) return [];
  const end = reelFrames(reel);
  return beats
    .map((beat) => Math.round((beat - music.startSeconds) * framesPerSecond(reel.rate)))
    .filter((frame) => frame >= 0 && frame <= end);
}

/**
 * A highlight reel fitted to its music: every cut of the main track is rolled to the nearest beat, where no word is
 * cut and the footage reaches, and the reel ends with the music.
 * @param spokenIn stretches in which somebody speaks, in seconds of a source
 * @returns one step and how many cuts moved and how many stayed; null when there is nothing to do
 */
export function fitToMusic(
  reel: Reel,
  { beats, durationSeconds }: MusicBeats,
  sources: Sources,
  spokenIn: (media: string) => readonly Range[],
): { command: ReelCommand; moved: number; stayed: number } | null {
  const frames = beatFrames(reel, beats);
  const fps = framesPerSecond(reel.rate);
  const items = mainTrack(reel).items;
  const commands: ReelCommand[] = [];
  let now = reel,
    moved = 0,
    stayed = 0,
    at = 0;
  const cuts = (clip: Clip, frame: number): boolean => {
    const seconds = (clip.sourceIn + (frame * speedOf(clip)) / 100) / fps;
    return spokenIn(clip.media).some((run) => seconds > run.start + wordMargin && seconds < run.end - wordMargin);
  };
  for (const [index, item] of items.entries()) {
    const start = at;
    at += item.frames;
    const before = items[index - 1];
    if (item.kind !== 'clip' || before?.kind !== 'clip') continue;
    const wanted = frames
      .map((frame) => frame - start)
      .filter((by) => Math.abs(by) <= farthestSeconds * fps)
      .sort((a, b) => Math.abs(a) - Math.abs(b));
    if (wanted[0] === 0) continue;
    const fits = wanted.slice(0, 2).find((by) => {
      const [left, right] = [locate(now, before.id)?.clip, locate(now, item.id)?.clip];
      return left && right && !cuts(left, left.frames + by) && !cuts(right, by) && applyRoll(now, item.id, by, sources);
    });
    if (fits === undefined) {
      stayed++;
      continue;
    }
    now = applyRoll(now, item.id, fits, sources)!;
    commands.push({ type: 'roll', clip: item.id, frames: fits });
    moved++;
  }
  const ending = endWithMusic(now, durationSeconds);
  if (ending?.type === 'several') commands.push(...ending.commands);
  return commands.length === 0
    ? null
    : { command: { type: 'several', name: 'fitted the reel to the music', commands }, moved, stayed };
}

function applyRoll(reel: Reel, clip: string, frames: number, sources: Sources): Reel | null {
  const found = locate(reel, clip);
  const result = found && rollCut(reel, found, { type: 'roll', clip, frames }, sources);
  return result?.ok ? result.reel : null;
}
