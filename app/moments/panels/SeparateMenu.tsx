import { SplitSquareHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { counted, decimal } from '#core/sentences';
import { formatClock } from '#core/time';
import { useShownKey } from '../../keys';
import { colours } from '../../drawing/inks';
import { Button, inputLook, Slider } from '../../ui/controls';
import type { SeparationDesk } from '../useSeparation';

/** Shake of 1 is so much of the picture's width, as its trace says. */
const widthShare = 2;
const amount = ({ pieces, seconds }: SeparationDesk['steady']) =>
  `${counted(pieces, 'piece')}, ${formatClock(seconds)}`;

/** Parts the steady from the shaky: what counts as shaky, what that comes to, and the two reels. */
export function SeparateMenu({ separation }: { separation: SeparationDesk }) {
  const { open, setOpen } = separation;
  const shown = useShownKey();
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label="Separate steady from shaky"
        title={`Separate steady from shaky (${shown('separate')})`}
        className="inline-flex h-7 w-7 items-center justify-center rounded-md text-text hover:bg-line/60"
      >
        <SplitSquareHorizontal size={15} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Steady and shaky"
          className="z-50 w-[372px] rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <Rule separation={separation} />
          <Outcome separation={separation} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Rule({ separation: { choice, change, inPlace, canKeep } }: { separation: SeparationDesk }) {
  const row = 'flex h-9 items-center justify-between';
  return (
    <>
      <Slider
        label="Shaky from"
        colour={colours.shake}
        value={choice.shakyFrom}
        min={0.1}
        max={1}
        step={0.05}
        shown={`${decimal(choice.shakyFrom * widthShare, 1)} %`}
        hint="How far the picture trembles, in per cent of its width; less is let through"
        onChange={(shakyFrom) => change({ shakyFrom })}
      />
      <Slider
        label="More at its ends"
        colour={colours.muted}
        value={choice.padSeconds}
        min={0}
        max={2}
        step={0.05}
        shown={`${decimal(choice.padSeconds, 2)} s`}
        hint="So much more goes before and after what shakes"
        onChange={(padSeconds) => change({ padSeconds })}
      />
      <Slider
        label="Steady, at least"
        colour={colours.muted}
        value={choice.minSteadySeconds}
        min={0}
        max={10}
        step={0.5}
        shown={`${decimal(choice.minSteadySeconds, 1)} s`}
        hint="A shorter steady piece goes with the shaky ones"
        onChange={(minSteadySeconds) => change({ minSteadySeconds })}
      />
      <label className={row}>
        Whip pans are
        <select
          className={`${inputLook} !h-7 w-44`}
          value={choice.whips}
          onChange={(event) => change({ whips: event.target.value as 'steady' | 'shaky' })}
        >
          <option value="steady">meant: steady</option>
          <option value="shaky">shaky</option>
        </select>
      </label>
      <label className={row}>
        Gaps
        <select
          className={`${inputLook} !h-7 w-44`}
          value={inPlace ? 'kept' : 'closed'}
          onChange={(event) => change({ inPlace: event.target.value === 'kept' })}
        >
          <option value="closed">close up</option>
          <option value="kept" disabled={!canKeep}>
            {canKeep ? 'stay: all in step' : 'stay (one file, or synced)'}
          </option>
        </select>
      </label>
    </>
  );
}

function Outcome({ separation: { steady, shaky, hasLast, choice, making, make } }: { separation: SeparationDesk }) {
  const nothing = steady.pieces + shaky.pieces === 0;
  return (
    <>
      <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 border-t border-line pt-2" data-testid="parted">
        <dt>Steady</dt>
        <dd className="tabular text-right">{amount(steady)}</dd>
        <dt>Shaky</dt>
        <dd className="tabular text-right">{amount(shaky)}</dd>
      </dl>
      <p className="mt-1 text-xs text-muted">
        {nothing
          ? 'There is no video here to part.'
          : shaky.pieces === 0
            ? 'Nothing here shakes so much; all of it goes into the steady reel.'
            : steady.pieces === 0
              ? 'Nothing here is steady for so long; all of it goes into the shaky reel.'
              : 'Together they are all that is shown on the page.'}
      </p>
      <div className="mt-2.5 flex gap-2">
        <Button look="lamp" className="flex-1" disabled={nothing || making} onClick={() => make(false)}>
          {steady.pieces > 0 && shaky.pieces > 0 ? 'Make two reels' : 'Make a reel'}
        </Button>
        {hasLast && (
          <Button
            disabled={nothing || making}
            title="The pieces take the place of those of the last time, as one step that can be taken back there"
            onClick={() => make(true)}
          >
            Instead of number {Math.max(1, choice.times)}
          </Button>
        )}
      </div>
    </>
  );
}
