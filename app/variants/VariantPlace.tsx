import { ChevronLeft, ChevronRight, Repeat2, X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { clipsOf, reelFrames } from '#core/reel';
import { formatClock, framesToSeconds, parseClock } from '#core/time';
import { partName, type VariantGroup, type VariantPart } from '#core/variants';
import { Poster } from '../drawing/Poster';
import { Button, IconButton, inputLook } from '../ui/controls';
import { AddPart } from './AddPart';
import type { Variants } from './useVariants';

interface VariantPlaceProps {
  variants: Variants;
  group: VariantGroup;
  place: number;
}

/** A group at its place: the pieces of which each variant has one there. */
export function VariantPlace({ variants, group, place }: VariantPlaceProps) {
  const { set, changeGroup, move, again, remove } = variants;
  const times = set.order.filter((id) => id === group.id).length;
  return (
    <li
      className="flex min-w-52 max-w-80 flex-1 flex-col rounded-md border border-line bg-raised"
      data-group={place}
      aria-label={group.name}
    >
      <div className="flex min-h-9 items-center gap-1 border-b border-line pl-2.5 pr-1">
        <GroupName
          key={group.name}
          name={group.name}
          label={`Name of group ${place + 1}`}
          onName={(name) => changeGroup(group.id, { name })}
        />
        <span className="tabular shrink-0 text-xs text-muted" title={times > 1 ? `Used ${times} times` : undefined}>
          {group.parts.length}
          {times > 1 && ` · ${times}×`}
        </span>
        <span className="flex">
          {place > 0 && (
            <IconButton label="Earlier" className="!h-6 !w-5 !text-muted" onClick={() => move(place, -1)}>
              <ChevronLeft size={14} />
            </IconButton>
          )}
          {place < set.order.length - 1 && (
            <IconButton label="Later" className="!h-6 !w-5 !text-muted" onClick={() => move(place, 1)}>
              <ChevronRight size={14} />
            </IconButton>
          )}
          <IconButton
            label={`Use “${group.name}” once more, at the end`}
            className="!h-6 !w-6 !text-muted"
            onClick={() => again(group)}
          >
            <Repeat2 size={14} />
          </IconButton>
          <IconButton label={`Remove “${group.name}”`} className="!h-6 !w-6 !text-muted" onClick={() => remove(place)}>
            <X size={14} />
          </IconButton>
        </span>
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto py-1">
        {group.parts.map((part) => (
          <PartRow key={part.id} variants={variants} group={group} part={part} />
        ))}
        {group.parts.length === 0 && <li className="px-2.5 py-1.5 text-muted">Nothing to choose from yet.</li>}
      </ul>
      <AddPart variants={variants} group={group} />
    </li>
  );
}

/** Said when it is left, so that each letter is no step of its own. */
function GroupName({ name, label, onName }: { name: string; label: string; onName(name: string): void }) {
  const [typed, setTyped] = useState(name);
  return (
    <input
      aria-label={label}
      value={typed}
      maxLength={60}
      onChange={(event) => setTyped(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      onBlur={() => {
        if (!typed.trim()) setTyped(name);
        else if (typed.trim() !== name) onName(typed.trim());
      }}
      className="min-w-0 flex-1 truncate rounded bg-transparent font-semibold hover:bg-line/40 focus:bg-line/40"
    />
  );
}

function PartRow({ variants, group, part }: { variants: Variants; group: VariantGroup; part: VariantPart }) {
  const { footage, reels, items, changeGroup } = variants;
  const name = partName(part, footage);
  const reel = reels.get(part.id);
  const clip = reel && clipsOf(reel)[0];
  const item = clip && items.find((each) => each.id === clip.media);
  const isComing = !reel && part.kind === 'reel' && variants.data.reels.some(({ id }) => id === part.reel);
  const length = reel && formatClock(framesToSeconds(reelFrames(reel), reel.rate), true);
  const gone = name === null ? 'not there any more' : 'nothing to show in it';
  return (
    <li className="group flex min-h-9 items-center gap-2 px-2.5">
      <span className="h-[27px] w-12 shrink-0 overflow-hidden rounded bg-ground">
        {clip && (
          <Poster
            media={clip.media}
            sheets={item?.sheets ?? null}
            kind={item?.probe?.kind ?? null}
            seconds={framesToSeconds(clip.sourceIn + clip.frames / 2, reel.rate)}
            width={48}
            height={27}
          />
        )}
      </span>
      <span className={`min-w-0 flex-1 truncate ${reel || isComing ? '' : 'text-shake'}`} title={name ?? undefined}>
        {name ?? 'A piece'}
        {!reel && !isComing && `: ${gone}`}
      </span>
      {part.kind === 'footage' && reel ? (
        <Stretch
          part={part}
          length={length!}
          onChange={(start, end) =>
            changeGroup(group.id, {
              parts: group.parts.map((each) => (each.id === part.id ? { ...part, start, end } : each)),
            })
          }
        />
      ) : (
        <span className="tabular text-xs text-muted">{length}</span>
      )}
      <IconButton
        label={`Remove “${name ?? 'it'}” from the group`}
        className="-mr-1.5 !h-6 !w-5 !text-muted opacity-0 focus:opacity-100 group-hover:opacity-100"
        onClick={() => changeGroup(group.id, { parts: group.parts.filter(({ id }) => id !== part.id) })}
      >
        <X size={13} />
      </IconButton>
    </li>
  );
}

interface StretchProps {
  part: VariantPart & { kind: 'footage' };
  length: string;
  onChange(start: number | null, end: number | null): void;
}

/** The length of a piece of footage; a press opens where it begins and ends. */
function Stretch({ part, length, onChange }: StretchProps) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className="tabular text-xs text-muted underline decoration-dotted underline-offset-4 hover:text-text"
        title="From where to where"
      >
        {length}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="From where to where"
          sideOffset={4}
          className="z-50 w-52 rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <StretchForm
            part={part}
            onChange={(start, end) => {
              setOpen(false);
              onChange(start, end);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const written = (seconds: number | null) => (seconds === null ? '' : formatClock(seconds, true));

function StretchForm({ part, onChange }: Pick<StretchProps, 'part' | 'onChange'>) {
  const [from, setFrom] = useState(written(part.start));
  const [to, setTo] = useState(written(part.end));
  const read = (text: string) => (text.trim() ? parseClock(text.trim()) : undefined);
  const [start, end] = [read(from), read(to)];
  const isWrong = start === null || end === null || (end !== undefined && end <= (start ?? 0));
  const field = (label: string, value: string, empty: string, set: (text: string) => void) => (
    <label className="mb-2 flex items-center justify-between">
      {label}
      <input
        className={`${inputLook} tabular !h-7 w-28`}
        value={value}
        placeholder={empty}
        onChange={(event) => set(event.target.value)}
      />
    </label>
  );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!isWrong) onChange(start ?? null, end ?? null);
      }}
    >
      {field('From', from, 'its beginning', setFrom)}
      {field('To', to, 'its end', setTo)}
      {isWrong && <p className="mb-2 text-xs text-shake">Times like 0:12.5, the end after the beginning.</p>}
      <Button type="submit" className="w-full" disabled={isWrong}>
        Use this part
      </Button>
    </form>
  );
}
