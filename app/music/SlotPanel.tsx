import { Lock, LockOpen, RefreshCw, SplitSquareHorizontal, UnfoldHorizontal } from 'lucide-react';
import { decimal } from '#core/sentences';
import { demandOf, othersFor, type Slot } from '#core/montage';
import { beatBefore, placeOf } from '#core/sound';
import { formatClock } from '#core/time';
import { Poster } from '../drawing/Poster';
import { Button } from '../ui/controls';
import type { MontageDesk } from './useMontage';

/** One slot: where in the music it lies, what fills it, and what else could. */
export function SlotPanel({ desk, slot }: { desk: MontageDesk; slot: Slot | null }) {
  const { montage, features, heard, items, actions } = desk;
  if (!slot) return <p className="text-muted">Choose a slot, or play: the slot under the playhead is shown here.</p>;
  const number = montage.slots.indexOf(slot) + 1;
  const beat = beatBefore(montage.grid, slot.start + 0.03);
  const place = beat >= 0 ? placeOf(montage.grid, beat) : null;
  const onBeat = beat >= 0 && Math.abs(montage.grid.beats[beat]! - slot.start) < 0.03;
  const piece = slot.piece ? montage.pieces.find((each) => each.id === slot.piece!.piece) : undefined;
  const own = piece && features.get(piece.id);
  const item = piece && items.find((each) => each.id === piece.media);
  const length = slot.end - slot.start;
  const speed = slot.piece?.speed ?? 100;
  const demand = demandOf(slot, heard);
  const others = othersFor(montage.slots, slot.id, montage.pieces, features, montage.filling, heard).slice(0, 8);
  const latest = piece ? Math.max(0, (item?.probe?.durationSeconds ?? piece.end) - (length * speed) / 100) : 0;
  const why = [
    demand.drop
      ? 'the music breaks out here'
      : demand.strength > 0.7
        ? 'a strong place'
        : demand.strength < 0.3
          ? 'a calm place'
          : 'a middling place',
    own && !piece?.photo
      ? own.action > 0.5
        ? 'a lively piece'
        : own.action < 0.15
          ? 'a calm piece'
          : 'some action'
      : null,
    own?.whip && demand.opens ? 'a whip pan into a new part' : null,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <>
      <p className="tabular">
        Slot {number} of {montage.slots.length} · {formatClock(slot.start, true)} – {formatClock(slot.end, true)} ·{' '}
        {decimal(length, 2)} s
      </p>
      <p className="text-xs text-muted">
        {onBeat && place ? `begins on bar ${place.bar}, beat ${place.beat}` : 'begins between beats'}
      </p>
      {piece && item ? (
        <>
          <div className="mt-2 flex gap-3">
            <span className="shrink-0 overflow-hidden rounded">
              <Poster
                media={piece.media}
                sheets={item.sheets}
                kind={item.probe?.kind ?? null}
                seconds={slot.piece!.sourceStart}
                width={112}
                height={63}
              />
            </span>
            <div className="min-w-0">
              <p className="truncate font-semibold">{piece.name}</p>
              <p className="text-xs text-muted">
                {why}
                {speed !== 100 ? ` · runs at ${speed} %` : ''}
                {slot.piece!.byHand ? ' · start set by hand' : ''}
              </p>
            </div>
          </div>
          {!piece.photo && (
            <label className="mt-2 flex items-center gap-2 text-xs">
              <span className="w-20 text-muted">Starts in it at</span>
              <input
                type="range"
                aria-label="Where in its footage the piece starts"
                min={0}
                max={Math.max(0.01, latest)}
                step={0.02}
                value={slot.piece!.sourceStart}
                onChange={(event) =>
                  actions.place(
                    slot.id,
                    { ...slot.piece!, sourceStart: Number(event.target.value), byHand: true },
                    `start ${slot.id}`,
                  )
                }
                className="min-w-0 flex-1 accent-text"
              />
              <span className="tabular w-14 text-right">{formatClock(slot.piece!.sourceStart, true)}</span>
            </label>
          )}
        </>
      ) : (
        <p className="mt-2 text-muted">Nothing is shown here yet: black.</p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button className="!h-7 !px-2" command="swapSlot" onClick={() => actions.swap(slot.id, 1)}>
          <RefreshCw size={14} aria-hidden /> Next best
        </Button>
        <Button
          className="!h-7 !px-2"
          command="lockSlot"
          aria-pressed={slot.locked ?? false}
          onClick={() => actions.lock([slot.id])}
        >
          {slot.locked ? <LockOpen size={14} aria-hidden /> : <Lock size={14} aria-hidden />}{' '}
          {slot.locked ? 'Unlock' : 'Lock'}
        </Button>
        <Button
          className="!h-7 !px-2"
          command="splitSlot"
          onClick={() => actions.split(slot.id, middleBeat(desk, slot))}
        >
          <SplitSquareHorizontal size={14} aria-hidden /> Split
        </Button>
        <Button className="!h-7 !px-2" command="joinSlot" onClick={() => actions.join(slot.id)}>
          <UnfoldHorizontal size={14} aria-hidden /> Join
        </Button>
      </div>
      {others.length > 0 && <h2 className="mb-1 mt-4 text-xs text-muted">Others that suit it, the best first</h2>}
      <div className="grid grid-cols-4 gap-1.5">
        {others.map((placed) => {
          const other = montage.pieces.find((each) => each.id === placed.piece)!;
          const from = items.find((each) => each.id === other.media);
          return (
            <button
              key={placed.piece}
              type="button"
              title={other.name}
              aria-label={`Show “${other.name}” in this slot`}
              className="overflow-hidden rounded border border-line hover:border-text"
              onClick={() => actions.place(slot.id, placed)}
            >
              <Poster
                media={other.media}
                sheets={from?.sheets ?? null}
                kind={from?.probe?.kind ?? null}
                seconds={placed.sourceStart}
                width={86}
                height={48}
                className="!rounded-none"
              />
            </button>
          );
        })}
      </div>
    </>
  );
}

/** Where a slot is split: at the playhead when it lies inside, else at the beat nearest to its middle. */
export function middleBeat({ montage, time }: MontageDesk, slot: Slot): number {
  if (time > slot.start + 0.1 && time < slot.end - 0.1) return time;
  const middle = (slot.start + slot.end) / 2;
  const inside = montage.grid.beats
    .filter((beat) => beat > slot.start + 0.1 && beat < slot.end - 0.1)
    .sort((a, b) => Math.abs(a - middle) - Math.abs(b - middle));
  return inside[0] ?? middle;
}
