import { GripVertical, X } from 'lucide-react';
import type { MontagePiece } from '#core/montage';
import { formatClock } from '#core/time';
import type { Item } from '#usecases/projects';
import { Poster } from '../drawing/Poster';
import { landedAt } from '../hands/landedAt';
import { Movable } from '../hands/Movable';
import { Button, IconButton } from '../ui/controls';
import { photoSeconds } from './pieceSources';
import type { MontageDesk } from './useMontage';

interface PieceRowProps {
  desk: MontageDesk;
  piece: MontagePiece;
  index: number;
  /** In how many slots it lies. */
  count: number;
  open: boolean;
  onChoose(id: string | null): void;
  /** Moves what lies at one place of the list to another. */
  onMoveFrom(from: number, to: number): void;
}

/** A piece of the list: what it is, how often it is used; opened, its in and out point and its action. */
export function PieceRow({ desk, piece, index, count, open, onChoose, onMoveFrom }: PieceRowProps) {
  const item = desk.items.find((each) => each.id === piece.media);
  const own = desk.features.get(piece.id);
  const onMove = (to: number) => onMoveFrom(index, to);
  return (
    <Movable
      as="div"
      data-piece-row={piece.id}
      kind="piece of a montage"
      id={String(index)}
      along="column"
      onLand={(moved, { side }) => onMoveFrom(Number(moved), landedAt(Number(moved), index, side))}
      className={`border-b border-line/60 py-1.5 ${piece.off ? 'opacity-50' : ''}`}
    >
      <div className="flex items-center gap-2.5">
        <button
          type="button"
          className="flex min-w-0 flex-1 items-center gap-2.5 text-left"
          aria-expanded={open}
          onClick={() => onChoose(open ? null : piece.id)}
          onKeyDown={(event) => {
            if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
              event.preventDefault();
              event.stopPropagation();
              onMove(index + (event.key === 'ArrowUp' ? -1 : 1));
            }
          }}
        >
          <span className="shrink-0 overflow-hidden rounded">
            <Poster
              media={piece.media}
              sheets={item?.sheets ?? null}
              kind={item?.probe?.kind ?? null}
              seconds={own && !piece.photo ? own.peak.seconds : piece.start}
              width={64}
              height={36}
            />
          </span>
          <span className="min-w-0 flex-1">
            <span className="block truncate">{piece.name}</span>
            <span className="block truncate text-xs text-muted">
              {piece.photo ? 'photo' : `${formatClock(piece.start, true)} – ${formatClock(piece.end, true)}`} ·{' '}
              {piece.off ? 'not used' : count === 0 ? 'unused' : `used ${count}×`}
              {own && own.shaky >= 0.25 ? ' · shaky' : ''}
            </span>
          </span>
        </button>
        <span className="cursor-grab text-muted" title="Drag to another place; Alt ↑ ↓ with the keys" aria-hidden>
          <GripVertical size={14} />
        </span>
      </div>
      {open && <PieceTimes desk={desk} piece={piece} item={item} own={own} />}
    </Movable>
  );
}

interface PieceTimesProps {
  desk: MontageDesk;
  piece: MontagePiece;
  item: Item | undefined;
  own: ReturnType<MontageDesk['features']['get']>;
}

/** Where a piece begins and ends, where its action lies, and whether it is used at all. */
function PieceTimes({ desk: { montage, actions }, piece, item, own }: PieceTimesProps) {
  const full = item?.probe?.kind === 'photo' ? photoSeconds : (item?.probe?.durationSeconds ?? piece.end);
  return (
    <div className="mt-1.5 space-y-1 pl-1">
      {!piece.photo && (
        <Scrub
          label="Begins"
          value={piece.start}
          max={Math.max(0, piece.end - 0.3)}
          onChange={(start) => {
            actions.piece(piece.id, { start }, `in ${piece.id}`);
          }}
          piece={piece}
          item={item}
        />
      )}
      {!piece.photo && (
        <Scrub
          label="Ends"
          value={piece.end}
          min={piece.start + 0.3}
          max={full}
          onChange={(end) => {
            actions.piece(piece.id, { end }, `out ${piece.id}`);
          }}
          piece={piece}
          item={item}
        />
      )}
      {!piece.photo && own && (
        <Scrub
          label="Action"
          value={own.peak.seconds}
          min={piece.start}
          max={piece.end}
          onChange={(action) => {
            actions.piece(piece.id, { action }, `action ${piece.id}`);
          }}
          piece={piece}
          item={item}
          hint={piece.action === undefined ? 'found' : 'by hand'}
        />
      )}
      <div className="flex gap-2 pt-1">
        <Button
          className="!h-7 !px-2"
          onClick={() =>
            actions.pieces(
              montage.pieces.map((each) =>
                each.id === piece.id ? (each.off ? withoutOff(each) : { ...each, off: true }) : each,
              ),
            )
          }
        >
          {piece.off ? 'Use it again' : 'Do not use'}
        </Button>
        <IconButton
          label={`Remove “${piece.name}” from the list`}
          onClick={() => actions.pieces(montage.pieces.filter((each) => each.id !== piece.id))}
        >
          <X size={15} />
        </IconButton>
      </div>
    </div>
  );
}

const withoutOff = ({ off: _, ...piece }: MontagePiece): MontagePiece => piece;

/** A time of a source on a slider, with its frame beside it while it moves. */
function Scrub({
  label,
  value,
  min = 0,
  max,
  onChange,
  piece,
  item,
  hint,
}: {
  label: string;
  value: number;
  min?: number;
  max: number;
  onChange(seconds: number): void;
  piece: MontagePiece;
  item: MontageDesk['items'][number] | undefined;
  hint?: string;
}) {
  return (
    <label className="flex items-center gap-2 text-xs">
      <span className="w-12 shrink-0 text-muted">{label}</span>
      <input
        type="range"
        min={min}
        max={Math.max(min + 0.01, max)}
        step={0.04}
        value={Math.min(max, Math.max(min, value))}
        onChange={(event) => onChange(Number(event.target.value))}
        className="min-w-0 flex-1 accent-text"
        aria-label={`${label} of ${piece.name}`}
      />
      <span className="shrink-0 overflow-hidden rounded-sm">
        <Poster
          media={piece.media}
          sheets={item?.sheets ?? null}
          kind={item?.probe?.kind ?? null}
          seconds={value}
          width={50}
          height={28}
        />
      </span>
      <span className="tabular w-14 text-right">{formatClock(value, true)}</span>
      {hint && <span className="w-11 text-muted">{hint}</span>}
    </label>
  );
}
