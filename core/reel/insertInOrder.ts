import { applyCommand, type ReelCommand } from './commands';
import { clipFor, type WantedPiece } from './assemble';
import { mainTrack, startOf, type Reel, type Source } from './types';
import { framesToSeconds } from '#core/time';

/**
 * The edits that put pieces into the main track where they stood in the footage: before the first piece that comes later
 * than they do. The last piece stays the last, since it was chosen as an ending. What is not there is passed over.
 * @param sources in the order of the footage
 */
export function insertInOrder(
  reel: Reel,
  pieces: readonly WantedPiece[],
  sources: ReadonlyMap<string, Source>,
  makeId: () => string,
): ReelCommand[] {
  const order = new Map([...sources.keys()].map((media, index) => [media, index]));
  const isLater = (media: string, start: number, than: WantedPiece): boolean => {
    const [own, other] = [order.get(media) ?? Infinity, order.get(than.media) ?? Infinity];
    return own > other || (own === other && start > than.start);
  };
  const commands: ReelCommand[] = [];
  let now = reel;
  for (const piece of pieces) {
    const clip = clipFor(piece, sources.get(piece.media), reel.rate, makeId());
    if (!clip) continue;
    const track = mainTrack(now);
    const clips = track.items.filter((item) => item.kind === 'clip');
    const next =
      clips.find(({ media, sourceIn }) => isLater(media, framesToSeconds(sourceIn, reel.rate), piece)) ?? clips.at(-1);
    const { kind: _, ...own } = clip;
    const command: ReelCommand = {
      type: 'put',
      how: next ? 'insert' : 'append',
      at: next ? startOf(track, next.id) : 0,
      clips: [own],
    };
    const result = applyCommand(now, command, sources);
    if (!result.ok) continue;
    now = result.reel;
    commands.push(command);
  }
  return commands;
}
