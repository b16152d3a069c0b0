import { framesPerSecond, type Range } from '#core/time';
import { applyCommand, type ReelCommand } from './commands';
import type { Sources } from './commands/edit';
import { framesLeft } from './commands/room';
import { fadeSeconds, fitToMusic, type MusicBeats } from './fitMusic';
import { itemsFrames, mainTrack, sourceFrames, speedOf, type Clip, type Reel } from './types';

/** What is known of the footage; stretches in seconds of a source. */
export interface KnownFootage {
  /** In which somebody speaks. */
  spokenIn(media: string): readonly Range[];
  /** That show one shot each; a source that nothing is known of is one shot. */
  shotsIn(media: string): readonly Range[];
}

/** A piece gets at most as long again as it is, so that none holds the reel up; common practice, no source. */
const mostLonger = 1;
/** A new end keeps so far from a word, in seconds. */
const wordMargin = 0.05;

/** Where what follows of the same source is shown by another piece, in frames of the source: nothing is seen twice. */
function nextShown(clip: Clip, reel: Reel): number | null {
  const end = clip.sourceIn + sourceFrames(clip, clip.frames);
  const later = mainTrack(reel).items.flatMap((item) =>
    item.kind === 'clip' && item.id !== clip.id && item.media === clip.media && item.sourceIn >= end - 1
      ? [item.sourceIn]
      : [],
  );
  return later.length > 0 ? Math.min(...later) : null;
}

/** Frames by which a piece can end later: within its shot, not inside a word, and not into what another piece shows. */
function roomOf(clip: Clip, reel: Reel, sources: Sources, material: KnownFootage): number {
  const source = sources.get(clip.media);
  if (!source) return 0;
  const fps = framesPerSecond(reel.rate);
  const most = Math.round(clip.frames * mostLonger);
  if (source.photo || speedOf(clip) === 0) return most;
  const secondsAt = (frames: number) => (clip.sourceIn + (frames * speedOf(clip)) / 100) / fps;
  const framesAt = (seconds: number) =>
    Math.floor(((seconds * fps - clip.sourceIn) * 100) / speedOf(clip) + 1e-6) - clip.frames;
  const shot = material
    .shotsIn(clip.media)
    .find((each) => secondsAt(clip.frames - 1) >= each.start - 1e-6 && secondsAt(clip.frames - 1) < each.end);
  const next = nextShown(clip, reel);
  const room = Math.min(
    most,
    framesLeft(clip, source, reel),
    shot ? framesAt(shot.end) : Infinity,
    next === null ? Infinity : framesAt(next / fps),
  );
  return Math.max(0, beforeWord(room, clip, secondsAt, framesAt, material.spokenIn(clip.media)));
}

/** As far as a piece can go on without ending in speech: where it would, it ends before the speech begins. */
function beforeWord(
  room: number,
  clip: Clip,
  secondsAt: (frames: number) => number,
  framesAt: (seconds: number) => number,
  spoken: readonly Range[],
): number {
  const end = secondsAt(clip.frames + room);
  const run = spoken.find(({ start, end: stop }) => end > start - wordMargin && end < stop + wordMargin);
  return run ? Math.min(room, framesAt(run.start - wordMargin)) : room;
}

/** How a reel was brought to the length of its music and onto its beats. */
export interface Fitted {
  command: ReelCommand;
  /** Pieces that became longer. */
  lengthened: number;
  /** Pieces that were taken out, or lost their end, because the music is over. */
  shortened: number;
  moved: number;
  stayed: number;
  /** Seconds by which the music is still longer: the pieces have no more to show. */
  shortSeconds: number;
}

/**
 * A reel fitted to its music: pieces get longer, all in proportion, until it lasts as long as the music, or lose what
 * goes beyond; then its cuts are rolled onto beats.
 * @returns one step; null when the reel has no music, or nothing has to change
 */
export function fitReelToMusic(reel: Reel, music: MusicBeats, sources: Sources, material: KnownFootage): Fitted | null {
  if (!reel.music) return null;
  const fps = framesPerSecond(reel.rate);
  const wanted = Math.floor((music.durationSeconds - reel.music.startSeconds) * fps + 1e-6);
  const { commands, reel: longer } = lengthened(reel, wanted, sources, material);
  const before = mainTrack(longer).items.length;
  const onBeats = fitToMusic(longer, music, sources, (media) => material.spokenIn(media));
  commands.push(...(onBeats?.command.type === 'several' ? onBeats.command.commands : []));
  const command: ReelCommand = { type: 'several', name: 'fitted the reel to the music', commands };
  const after = applyCommand(reel, command, sources);
  if (!after.ok || commands.length === 0) return null;
  const items = mainTrack(after.reel).items;
  const over = itemsFrames(mainTrack(longer).items) - wanted;
  return {
    command,
    lengthened: commands.filter((each) => each.type === 'trim' && each.frames > 0).length,
    shortened: over > 0 ? before - items.length + 1 : 0,
    moved: onBeats?.moved ?? 0,
    stayed: onBeats?.stayed ?? 0,
    shortSeconds: Math.max(0, wanted - itemsFrames(items)) / fps,
  };
}

/** Makes the pieces of the main track longer in proportion to their lengths, as far as each can, up to a length in frames. */
function lengthened(
  reel: Reel,
  wanted: number,
  sources: Sources,
  material: KnownFootage,
): { commands: ReelCommand[]; reel: Reel } {
  const clips = mainTrack(reel).items.filter((item) => item.kind === 'clip');
  let missing = wanted - itemsFrames(mainTrack(reel).items);
  if (missing <= 0 || mainTrack(reel).locked) return { commands: [], reel };
  const room = new Map(clips.map((clip) => [clip.id, roomOf(clip, reel, sources, material)]));
  const given = new Map(clips.map((clip) => [clip.id, 0]));
  // What one cannot take is shared among the others, until all is given or nobody can take more.
  for (;;) {
    const open = clips.filter((clip) => given.get(clip.id)! < room.get(clip.id)!);
    const weight = open.reduce((sum, clip) => sum + clip.frames, 0);
    if (open.length === 0 || missing <= 0) break;
    const round = missing;
    for (const clip of open) {
      const share = Math.min(
        room.get(clip.id)! - given.get(clip.id)!,
        Math.max(1, Math.floor((round * clip.frames) / weight)),
        missing,
      );
      given.set(clip.id, given.get(clip.id)! + share);
      missing -= share;
    }
  }
  const commands: ReelCommand[] = [];
  let now = reel;
  for (const clip of clips) {
    const frames = endOutsideWords(clip, given.get(clip.id)!, reel, sources, material);
    if (frames < 1) continue;
    const command: ReelCommand = { type: 'trim', clip: clip.id, edge: 'out', frames };
    const result = applyCommand(now, command, sources);
    if (!result.ok) continue;
    now = result.reel;
    commands.push(command);
  }
  const last = clips.at(-1);
  if (last && commands.length > 0 && itemsFrames(mainTrack(now).items) >= wanted) {
    const fade: ReelCommand = {
      type: 'fade',
      clip: last.id,
      edge: 'out',
      frames: Math.min(last.frames, Math.round(fadeSeconds * framesPerSecond(reel.rate))),
    };
    const result = applyCommand(now, fade, sources);
    if (result.ok) {
      now = result.reel;
      commands.push(fade);
    }
  }
  return { commands, reel: now };
}

/** A share of the room may end inside a word where the whole room does not; then less is taken. */
function endOutsideWords(clip: Clip, frames: number, reel: Reel, sources: Sources, material: KnownFootage): number {
  if (frames < 1 || sources.get(clip.media)?.photo || speedOf(clip) === 0) return frames;
  const fps = framesPerSecond(reel.rate);
  const secondsAt = (count: number) => (clip.sourceIn + (count * speedOf(clip)) / 100) / fps;
  const framesAt = (seconds: number) =>
    Math.floor(((seconds * fps - clip.sourceIn) * 100) / speedOf(clip) + 1e-6) - clip.frames;
  return Math.max(0, beforeWord(frames, clip, secondsAt, framesAt, material.spokenIn(clip.media)));
}
