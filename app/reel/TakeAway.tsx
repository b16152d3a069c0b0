import { Check, FileOutput } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { exportFormats } from '#core/formats';
import type { Reel } from '#core/reel';
import { listOf } from '#core/sentences';
import { FileLink } from '../history/FileLink';
import { languageName } from '../words/OtherTexts';

/** The reel in open formats, and what each of them cannot hold of it. */
export function TakeAway({ address, reel }: { address: string; reel: Reel }) {
  const [speakers, setSpeakers] = useState(false);
  const [inSecond, setInSecond] = useState(false);
  const second = reel.captions?.second;
  const wishes = [...(speakers ? ['speakers'] : []), ...(second && inSecond ? ['second'] : [])].join('&');
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
                href={`${address}/export/${format}${withWords && wishes ? `?${wishes}` : ''}`}
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
          <Wish
            label="Captions name who speaks"
            title="Speakers that were named under Words, and people that were named under Footage, where it can be told that they speak"
            checked={speakers}
            onChange={setSpeakers}
          />
          {second && (
            <Wish
              label={`Captions in ${languageName(second)}`}
              title="The text that stands below the other one in the picture"
              checked={inSecond}
              onChange={setInSecond}
            />
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function NotHeld({ what }: { what: readonly string[] }) {
  return what.length === 0 ? null : <span className="mt-0.5 block text-xs text-muted">Without {listOf(what)}.</span>;
}

function Wish({
  label,
  title,
  checked,
  onChange,
}: {
  label: string;
  title: string;
  checked: boolean;
  onChange(checked: boolean): void;
}) {
  return (
    <DropdownMenu.CheckboxItem
      checked={checked}
      onCheckedChange={onChange}
      onSelect={(event) => event.preventDefault()}
      className="mt-1 flex items-center gap-2 border-t border-line px-2.5 py-1.5 text-sm outline-none data-[highlighted]:bg-line"
      title={title}
    >
      <span className="flex h-4 w-4 items-center justify-center rounded border border-muted" aria-hidden>
        <DropdownMenu.ItemIndicator>
          <Check size={12} />
        </DropdownMenu.ItemIndicator>
      </span>
      {label}
    </DropdownMenu.CheckboxItem>
  );
}
