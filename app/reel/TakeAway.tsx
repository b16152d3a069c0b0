import { Check, FileOutput } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { exportFormats } from '#core/formats';
import type { Reel } from '#core/reel';
import { listOf } from '#core/sentences';
import { FileLink } from '../history/FileLink';

/** The reel in open formats, and what each of them cannot hold of it. */
export function TakeAway({ address, reel }: { address: string; reel: Reel }) {
  const [speakers, setSpeakers] = useState(false);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="inline-flex h-[30px] items-center gap-2 whitespace-nowrap rounded-md border border-line px-3 text-sm hover:bg-line/60">
        <FileOutput size={15} aria-hidden /> Export
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-50 w-80 rounded-md border border-line bg-raised p-1 shadow-xl"
        >
          {Object.entries(exportFormats).map(([format, { name, says, notHeld, withWords }]) => (
            <DropdownMenu.Item key={format} asChild>
              <FileLink
                href={`${address}/export/${format}${withWords && speakers ? '?speakers' : ''}`}
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
          <DropdownMenu.CheckboxItem
            checked={speakers}
            onCheckedChange={setSpeakers}
            onSelect={(event) => event.preventDefault()}
            className="mt-1 flex items-center gap-2 border-t border-line px-2.5 py-1.5 text-sm outline-none data-[highlighted]:bg-line"
            title="People that were given a name under Footage, where it can be told that they speak"
          >
            <span className="flex h-4 w-4 items-center justify-center rounded border border-muted" aria-hidden>
              <DropdownMenu.ItemIndicator>
                <Check size={12} />
              </DropdownMenu.ItemIndicator>
            </span>
            Captions name who speaks
          </DropdownMenu.CheckboxItem>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function NotHeld({ what }: { what: readonly string[] }) {
  return what.length === 0 ? null : <span className="mt-0.5 block text-xs text-muted">Without {listOf(what)}.</span>;
}
