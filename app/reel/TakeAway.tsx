import { FileOutput } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { exportFormats } from '#core/formats';
import type { Reel } from '#core/reel';
import { listOf } from '#core/sentences';
import { FileLink } from '../history/FileLink';

/** The reel in open formats, and what each of them cannot hold of it. */
export function TakeAway({ address, reel }: { address: string; reel: Reel }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="inline-flex h-[30px] items-center gap-2 whitespace-nowrap rounded-md border border-line px-3 text-sm hover:bg-line/60">
        <FileOutput size={15} aria-hidden /> Take away
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-80 rounded-md border border-line bg-raised p-1 shadow-xl"
        >
          {Object.entries(exportFormats).map(([format, { name, says, notHeld }]) => (
            <DropdownMenu.Item key={format} asChild>
              <FileLink
                href={`${address}/export/${format}`}
                className="block rounded px-2.5 py-1.5 text-sm outline-none data-[highlighted]:bg-line"
              >
                <span className="flex items-baseline justify-between gap-3">
                  <span className="whitespace-nowrap">{name}</span>
                  <span className="truncate text-xs text-muted">{says}</span>
                </span>
                <NotHeld what={notHeld?.(reel) ?? []} />
              </FileLink>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function NotHeld({ what }: { what: readonly string[] }) {
  return what.length === 0 ? null : <span className="mt-0.5 block text-xs text-muted">Without {listOf(what)}.</span>;
}
