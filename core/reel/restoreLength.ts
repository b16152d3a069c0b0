import { framesPerSecond, framesToSeconds, secondsToFrames, type Range, type Rate } from '#core/time';
import type { CommandOf, ReelCommand } from './commands';
import { sourceFrames, speedOf, type Clip, type Source } from './types';

/** What a piece shows of its source, in seconds; a photo, which has no time, is as long as it stands. */
export const stretchShown = (clip: Clip, rate: Rate): Range => ({
  start: framesToSeconds(clip.sourceIn, rate),
  end: framesToSeconds(clip.sourceIn + sourceFrames(clip, clip.frames), rate),
});

/**
 * The trims that bring a piece to a stretch of its source; null when it shows just that, or holds one frame.
 * @param stretch in seconds; beyond the ends of the source it is what there is
 */
export function trimsTo(clip: Clip, stretch: Range, source: Source, rate: Rate): ReelCommand | null {
  const speed = speedOf(clip);
  if (speed === 0) return null;
  const inReel = (frames: number) => Math.round((frames * 100) / speed);
  const whole = source.photo ? Infinity : source.durationSeconds * framesPerSecond(rate);
  const from = source.photo ? 0 : Math.max(0, secondsToFrames(stretch.start, rate));
  const to = Math.min(secondsToFrames(stretch.end, rate), Math.floor(whole + 1e-6));
  const start = inReel(from - clip.sourceIn);
  const frames = Math.max(1, Math.floor(((to - clip.sourceIn - sourceFrames(clip, start)) * 100) / speed + 1e-6));
  const end = start + frames - clip.frames;
  const trim = (edge: 'in' | 'out', by: number): CommandOf<'trim'>[] =>
    by === 0 ? [] : [{ type: 'trim', clip: clip.id, edge, frames: by }];
  // What gets longer goes first, so that the piece is never shorter than a frame in between.
  const commands =
    start > 0 ? [...trim('out', end), ...trim('in', start)] : [...trim('in', start), ...trim('out', end)];
  if (commands.length === 0) return null;
  return commands.length === 1
    ? commands[0]!
    : { type: 'several', name: `gave “${clip.name}” another length`, commands };
}
