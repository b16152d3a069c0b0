import { Metronome, SlidersHorizontal } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { nearestBeat, placeOf, tempoOf } from '#core/sound';
import { formatClock } from '#core/time';
import { Button, IconButton, Key } from '../ui/controls';
import type { MontageDesk } from './useMontage';

/** Puts the beats right: half and twice the tempo at once, the rest in a panel of its own. */
export function BeatsMenu({
  desk,
  clicks,
  onClicks,
}: {
  desk: MontageDesk;
  clicks: boolean;
  onClicks(on: boolean): void;
}) {
  const { montage, hearing, actions, time } = desk;
  const { grid } = montage;
  const [held, setHeld] = useState<{ index: number; seconds: number } | null>(null);
  const here = nearestBeat(grid, time);
  const place = here >= 0 ? placeOf(grid, here) : null;
  const bpm = tempoOf(grid);
  const asHeard = Math.abs(bpm / (hearing.tempo || 1) - 1) < 0.02;
  const pin = () => {
    if (here < 0) return;
    if (!held) return setHeld({ index: here, seconds: time });
    actions.correct({
      type: 'stretch',
      from: held,
      to: { index: here === held.index ? here + 1 : here, seconds: time },
    });
    setHeld(null);
  };
  const seg = (on: boolean) =>
    `h-[30px] px-2.5 text-sm ${on ? 'bg-text text-ground font-semibold' : 'text-muted hover:text-text'} disabled:opacity-40`;
  const small = '!h-7 !px-2';
  return (
    <>
      <div className="flex overflow-hidden rounded-md border border-line" role="group" aria-label="Tempo">
        <button
          type="button"
          className={seg(bpm < hearing.tempo * 0.75)}
          disabled={grid.beats.length < 4}
          onClick={() => actions.correct({ type: 'half' })}
        >
          Half
        </button>
        <button
          type="button"
          className={seg(asHeard)}
          disabled={hearing.grid.beats.length === 0}
          title="As it was heard"
          onClick={() => actions.setGrid(hearing.grid)}
        >
          Beat
        </button>
        <button
          type="button"
          className={seg(bpm > hearing.tempo * 1.5)}
          disabled={grid.beats.length < 2}
          onClick={() => actions.correct({ type: 'double' })}
        >
          Double
        </button>
      </div>
      <IconButton
        label={clicks ? 'No clicks on the beats' : 'Click on every beat'}
        command="clickTrack"
        aria-pressed={clicks}
        className={clicks ? 'bg-line' : ''}
        onClick={() => onClicks(!clicks)}
      >
        <Metronome size={16} />
      </IconButton>
      <Popover.Root>
        <Popover.Trigger asChild>
          <button
            type="button"
            aria-label="Put the beats right"
            title="Put the beats right"
            className="inline-flex h-7 w-7 items-center justify-center rounded-md hover:bg-line/60"
          >
            <SlidersHorizontal size={16} />
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            aria-label="Put the beats right"
            align="end"
            sideOffset={4}
            className="z-50 w-80 rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
          >
            <h2 className="mb-2 font-semibold">Put the beats right</h2>
            <div className="flex flex-wrap gap-1.5">
              <Button className={small} onClick={() => actions.correct({ type: 'shift', seconds: -0.01 })}>
                10 ms earlier
              </Button>
              <Button className={small} onClick={() => actions.correct({ type: 'shift', seconds: 0.01 })}>
                10 ms later
              </Button>
              <Button className={small} onClick={() => actions.correct({ type: 'turn', beats: -1 })}>
                Bars a beat earlier
              </Button>
              <Button className={small} onClick={() => actions.correct({ type: 'turn', beats: 1 })}>
                Bars a beat later
              </Button>
              <Button
                className={small}
                command="barHere"
                disabled={here < 0}
                onClick={() => actions.correct({ type: 'downbeat', index: here })}
              >
                A bar begins at the playhead
              </Button>
              <Button className={small} disabled={here < 0} onClick={pin}>
                {held
                  ? `And a beat here: stretch from ${formatClock(held.seconds, true)}`
                  : 'A beat lies at the playhead'}
              </Button>
            </div>
            <label className="mt-3 flex items-center gap-2">
              Beats a bar
              <select
                className="h-7 rounded border border-line bg-ground px-1"
                value={grid.bar}
                onChange={(event) => actions.correct({ type: 'bar', beats: Number(event.target.value) })}
              >
                {[2, 3, 4, 5, 6, 7, 8].map((beats) => (
                  <option key={beats}>{beats}</option>
                ))}
              </select>
              {place && (
                <span className="tabular ml-auto text-xs text-muted">
                  bar {place.bar}, beat {place.beat}
                </span>
              )}
            </label>
            <p className="mt-3 text-xs text-muted">
              Play it and tap <Key command="tapBeat" /> on four beats: that settles how this part is counted.{' '}
              <Key command="hearCount" /> plays the next way to count it, with clicks.
            </p>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </>
  );
}
