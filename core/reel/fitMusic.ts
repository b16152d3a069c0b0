import { framesPerSecond } from '#core/time';
import type { ReelCommand } from './command';
import { itemsFrames, mainTrack, type Reel } from './types';

/** A picture goes out together with the music. Common practice, no source. */
const fadeSeconds = 1.5;

/**
 * Ends a reel where its music ends: what stands beyond is taken out, the piece across the end is trimmed and fades.
 * @param musicSeconds length of the music's file
 * @returns one step, or null when the music is as long as the reel or nothing would be left
 */
export function endWithMusic(reel: Reel, musicSeconds: number): ReelCommand | null {
  if (!reel.music) return null;
  const end = Math.floor((musicSeconds - reel.music.startSeconds) * framesPerSecond(reel.rate) + 1e-6);
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
  commands.push({ type: 'fade', clip: last.id, edge: 'out', frames: Math.min(last.frames, Math.round(fadeSeconds * framesPerSecond(reel.rate))) });
  return { type: 'several', name: 'ended the reel with the music', commands };
}
