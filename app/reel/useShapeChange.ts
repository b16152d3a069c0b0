import { useState } from 'react';
import { toast } from 'sonner';
import { applyCommand, piecesToFrame, type CommandOf, type Reel, type ReelCommand } from '#core/reel';
import { fetchFramings } from '../player/fetchFramings';
import type { ReelDesk } from './useReelDesk';

type Wish = CommandOf<'format'> | CommandOf<'fit'>;

/**
 * Gives the reel another size, or another way to fill it. Where pictures fill a frame of another shape, they follow what
 * matters, in the same step.
 */
export function useShapeChange(projectId: string, { document, live, items, sources }: ReelDesk) {
  const [busy, setBusy] = useState(false);
  const pictureOf = (media: string) => {
    const probe = items.find(({ id }) => id === media)?.probe;
    return probe?.kind === 'video' ? probe : null;
  };

  const withFramings = async (reel: Reel, wish: Wish): Promise<ReelCommand> => {
    const shaped = applyCommand(reel, wish, sources);
    const wanted = shaped.ok ? piecesToFrame(shaped.reel, pictureOf) : [];
    if (!shaped.ok || wanted.length === 0) return wish;
    const framings = await fetchFramings(
      projectId,
      wanted.map(({ stretch }) => stretch),
      shaped.reel.size,
    );
    return {
      type: 'several',
      name: 'changed the shape',
      commands: [
        wish,
        { type: 'framing', framings: wanted.map(({ clip }, index) => ({ clip, framing: framings[index] ?? null })) },
      ],
    };
  };

  const change = async (wish: Wish): Promise<void> => {
    if (!document || busy) return;
    setBusy(true);
    const command = await withFramings(document, wish).catch(() => null);
    setBusy(false);
    if (command && live.edit(command)) return;
    live.edit(wish);
    if (!command) toast.warning('The server did not answer, so the crops stay in the middle of the pictures.');
  };
  return { busy, change };
}
