import { formatClock, framesPerSecond, framesToSeconds } from '#core/time';
import { mainTrack, type Clip, type Reel, type Source } from './types';

/** One edit; plain data, so that it can be stored, sent and shown. */
export type ReelCommand =
  | { type: 'rename'; name: string }
  | { type: 'remove'; clip: string }
  | { type: 'move'; clip: string; to: number }
  | { type: 'trim'; clip: string; edge: 'in' | 'out'; frames: number }
  | { type: 'split'; clip: string; at: number; newId: string };

export type EditResult = { ok: true; reel: Reel } | { ok: false; reason: string };

const refuse = (reason: string): EditResult => ({ ok: false, reason });
const withItems = (reel: Reel, items: Clip[]): EditResult => ({ ok: true, reel: { ...reel, tracks: [{ ...mainTrack(reel), items }, ...reel.tracks.slice(1)] } });

/**
 * Applies an edit. The reel given stays as it is. What does not fit is refused with a sentence.
 * Everything ripples: pieces after the edit move up or back.
 */
export function applyCommand(reel: Reel, command: ReelCommand, sources: ReadonlyMap<string, Source>): EditResult {
  if (command.type === 'rename') {
    const name = command.name.trim();
    return name ? { ok: true, reel: { ...reel, name } } : refuse('A reel needs a name.');
  }
  const { items } = mainTrack(reel);
  const index = items.findIndex((clip) => clip.id === command.clip);
  const clip = items[index];
  if (!clip) return refuse('This piece is not in the reel any more.');
  switch (command.type) {
    case 'remove':
      return withItems(reel, items.toSpliced(index, 1));
    case 'move': {
      const to = Math.max(0, Math.min(items.length - 1, Math.round(command.to)));
      return withItems(reel, items.toSpliced(index, 1).toSpliced(to, 0, clip));
    }
    case 'trim':
      return trim(reel, index, clip, command.edge, Math.round(command.frames), sources.get(clip.media));
    case 'split': {
      const at = Math.round(command.at);
      if (at < 1 || at >= clip.frames) return refuse('The cut lies at the edge of the piece; there is nothing to split.');
      return withItems(reel, items.toSpliced(index, 1, { ...clip, frames: at }, { ...clip, id: command.newId, sourceIn: clip.sourceIn + at, frames: clip.frames - at }));
    }
  }
}

/** Moves one end by `frames`: positive is later in the source, for both ends. */
function trim(reel: Reel, index: number, clip: Clip, edge: 'in' | 'out', frames: number, source: Source | undefined): EditResult {
  if (!source) return refuse(`The footage of “${clip.name}” is missing, so it cannot be trimmed.`);
  const next = edge === 'in' ? { ...clip, sourceIn: clip.sourceIn + frames, frames: clip.frames - frames } : { ...clip, frames: clip.frames + frames };
  if (next.frames < 1) return refuse('A piece keeps at least one frame. Take it out instead.');
  if (next.sourceIn < 0 && !source.photo) return refuse(`“${source.name}” begins here; there is nothing before its first frame.`);
  const last = Math.floor(source.durationSeconds * framesPerSecond(reel.rate) + 1e-6);
  if (!source.photo && next.sourceIn + next.frames > last)
    return refuse(`“${source.name}” ends at ${formatClock(source.durationSeconds, true)}; ${Math.max(0, last - clip.sourceIn - clip.frames)} more frames are left.`);
  if (source.photo) next.sourceIn = 0;
  return withItems(reel, mainTrack(reel).items.toSpliced(index, 1, next));
}

/** A sentence for the history: what an edit did. */
export function describeCommand(command: ReelCommand, before: Reel): string {
  const name = 'clip' in command ? (mainTrack(before).items.find((clip) => clip.id === command.clip)?.name ?? 'a piece') : '';
  if (command.type === 'rename') return `renamed to “${command.name}”`;
  if (command.type === 'remove') return `took out “${name}”`;
  if (command.type === 'move') return `moved “${name}” to place ${command.to + 1}`;
  if (command.type === 'split') return `split “${name}”`;
  const seconds = framesToSeconds(Math.abs(command.frames), before.rate).toFixed(2);
  return `trimmed the ${command.edge === 'in' ? 'start' : 'end'} of “${name}” by ${seconds} s`;
}
