import { Replace } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Clip } from '#core/reel';
import { formatClock, framesToSeconds, secondsToFrames } from '#core/time';
import { Poster } from '../drawing/Poster';
import { Button } from '../ui/controls';
import type { ReelDesk } from './useReelDesk';

/** Other footage in the place of a piece, as long as it is: another camera at the same moment, or any other item. */
export function SwapMenu({ desk, clip }: { desk: ReelDesk; clip: Clip }) {
  const [open, setOpen] = useState(false);
  const { rate, live, items } = desk;
  const own = items.find((item) => item.id === clip.media);
  const at = framesToSeconds(clip.sourceIn, rate);
  const others = items.filter(
    (item) => item.id !== clip.media && item.probe && item.probe.kind !== 'sound' && !item.problem,
  );
  // Cameras of a synced group show the same moment; the sound of the first one runs on.
  const cameras =
    own?.syncOffset == null
      ? []
      : others
          .filter((item) => item.binId === own.binId && item.syncOffset !== null)
          .map((item) => ({ item, start: own.syncOffset! + at - item.syncOffset! }))
          .filter(({ item, start }) => start >= 0 && start < item.probe!.durationSeconds);
  const take = (media: string, name: string, start: number, keepSound: boolean) => {
    setOpen(false);
    live.edit({
      type: 'replace',
      clip: clip.id,
      with: { media, name, sourceIn: secondsToFrames(start, rate) },
      ...(keepSound ? { keepSound } : {}),
    });
  };
  const row = (item: (typeof others)[number], start: number, keepSound: boolean) => (
    <button
      key={item.id}
      type="button"
      className="flex w-full items-center gap-2 rounded px-1.5 py-1 text-left hover:bg-line"
      onClick={() => take(item.id, item.name.replace(/\.\w+$/, ''), start, keepSound)}
    >
      <span className="h-7 w-12 shrink-0 overflow-hidden rounded bg-ground">
        <Poster media={item.id} sheets={item.sheets} kind={item.probe!.kind} seconds={start} width={48} height={28} />
      </span>
      <span className="min-w-0 flex-1 truncate">{item.name}</span>
      <span className="tabular text-xs text-muted">
        {item.probe!.kind === 'photo' ? 'photo' : `from ${formatClock(start, true)}`}
      </span>
    </button>
  );
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button className="!h-7 !px-2">
          <Replace size={14} aria-hidden /> Swap
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Swap"
          align="end"
          sideOffset={4}
          className="z-50 max-h-80 w-80 overflow-y-auto rounded-md border border-line bg-raised p-1.5 text-sm shadow-xl"
        >
          {cameras.length > 0 && (
            <p className="px-1.5 py-1 text-xs text-muted">The same moment from another camera; the sound stays</p>
          )}
          {cameras.map(({ item, start }) => row(item, start, true))}
          <p className="px-1.5 py-1 text-xs text-muted">Other footage, as long as this piece</p>
          {others.map((item) => row(item, item.defaultIn ?? 0, false))}
          {others.length === 0 && <p className="px-1.5 py-1 text-muted">There is no other footage in this project.</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
