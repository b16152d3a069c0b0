import { SlidersHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { decimal } from '#core/sentences';
import type { Filling, Order, Pattern } from '#core/montage';
import { formatClock } from '#core/time';
import { Slider } from '../ui/controls';
import { colours } from '../drawing/inks';
import type { MontageDesk } from './useMontage';

const orderWords: Record<Order, string> = {
  matched: 'matched to the music',
  sorted: 'as the list stands',
  time: 'as filmed',
  shuffled: 'shuffled',
};
const shortWords: Record<Filling['tooShort'], string> = {
  other: 'another piece is taken',
  slow: 'it runs slower',
  share: 'the slot is shared',
};

/** How slots are made and filled. */
export function FillMenu({ desk }: { desk: MontageDesk }) {
  const { montage, actions } = desk;
  const { filling, pattern } = montage;
  const select = 'h-7 max-w-44 rounded border border-line bg-ground px-1';
  const line = 'flex items-center justify-between gap-3 py-1';
  const tick = (label: string, checked: boolean, set: (on: boolean) => void, hint?: string) => (
    <label className={line} title={hint}>
      <span>{label}</span>
      <input
        type="checkbox"
        checked={checked}
        onChange={(event) => set(event.target.checked)}
        className="accent-text"
      />
    </label>
  );
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button
          type="button"
          className="inline-flex h-[30px] items-center gap-2 rounded-md border border-line px-3 hover:bg-line/60"
        >
          <SlidersHorizontal size={14} aria-hidden /> Filling
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="How slots are made and filled"
          side="top"
          align="start"
          sideOffset={6}
          className="z-50 w-80 rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <label className={line}>
            <span>Order</span>
            <select
              className={select}
              value={filling.order}
              onChange={(event) => actions.filling({ order: event.target.value as Order })}
            >
              {Object.entries(orderWords).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <label className={line}>
            <span>A piece begins</span>
            <select
              className={select}
              value={filling.start}
              onChange={(event) => actions.filling({ start: event.target.value as Filling['start'] })}
            >
              <option value="action">action on the beat</option>
              <option value="in">at its in point</option>
            </select>
          </label>
          <label className={line}>
            <span>A piece too short</span>
            <select
              className={select}
              value={filling.tooShort}
              onChange={(event) => actions.filling({ tooShort: event.target.value as Filling['tooShort'] })}
            >
              {Object.entries(shortWords).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <label className={line}>
            <span>Camera sound</span>
            <select
              className={select}
              value={filling.cameraSound}
              onChange={(event) => actions.filling({ cameraSound: event.target.value as Filling['cameraSound'] })}
            >
              <option value="none">not heard</option>
              <option value="low">low under the music</option>
            </select>
          </label>
          {tick(
            'Only steady pieces',
            filling.steadyOnly,
            (steadyOnly) => actions.filling({ steadyOnly }),
            'Whip pans are meant, and may be used',
          )}
          {tick('Two places take turns', filling.alternate, (alternate) => actions.filling({ alternate }))}
          {tick('The last slot ends on the last stroke', pattern.end === 'hit', (on) =>
            actions.pattern({ end: on ? 'hit' : 'music' }),
          )}
          <Slider
            label="Shortest slot"
            colour={colours.sound}
            value={pattern.shortest}
            min={0.15}
            max={4}
            step={0.05}
            shown={(seconds) => `${decimal(seconds, 2)} s`}
            onRest={(shortest) => actions.pattern(within({ shortest }, pattern))}
          />
          <Slider
            label="Longest slot"
            colour={colours.sound}
            value={pattern.longest}
            min={0.5}
            max={20}
            step={0.5}
            shown={(seconds) => `${seconds} s`}
            onRest={(longest) => actions.pattern(within({ longest }, pattern))}
          />
          <Slider
            label="Fade out over"
            colour={colours.sound}
            value={montage.span.fadeSeconds}
            min={0}
            max={8}
            step={0.5}
            shown={(seconds) => `${seconds} s`}
            onRest={(fadeSeconds) => actions.span(montage.span.start, montage.span.end, fadeSeconds)}
          />
          <p className="tabular mt-1 text-xs text-muted">
            Music from {formatClock(montage.span.start, true)} to {formatClock(montage.span.end, true)}; I and O set
            both at the playhead. Shuffle number {filling.seed}.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The shortest is never longer than the longest. */
function within(change: Partial<Pattern>, pattern: Pattern): Partial<Pattern> {
  const { shortest = pattern.shortest, longest = pattern.longest } = change;
  return change.shortest === undefined
    ? { longest, shortest: Math.min(shortest, longest / 2) }
    : { shortest, longest: Math.max(longest, shortest * 2) };
}
