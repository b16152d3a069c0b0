import { Lock } from 'lucide-react';
import type { HTMLAttributes } from 'react';
import type { MontagePiece } from '#core/montage';
import { formatClock } from '#core/time';
import type { Item } from '#usecases/projects';
import { Poster } from '../drawing/Poster';
import { tickHeight, waveHeight } from './drawMusic';
import type { MontageDesk } from './useMontage';

/** In pixels: names of sections, and slots. */
export const sectionHeight = 18;
export const slotHeight = 52;

interface SectionButtonProps {
  index: number;
  name: string;
  /** How often is cut there, in words, and how often it would be. */
  every: string;
  brush: string;
  /** From the edge of the line, in pixels. */
  left: number;
  width: number;
  /** A stroke over several, and a press. */
  stroke: HTMLAttributes<HTMLElement>;
  onPaint(): void;
}

/** A section of the music: a press, or a stroke over several, paints how often is cut there. */
export const SectionButton = ({ index, name, every, brush, left, width, stroke, onPaint }: SectionButtonProps) => (
  <button
    type="button"
    data-section={index}
    title={`${name}: press to cut ${brush} here`}
    onClick={onPaint}
    {...stroke}
    className="absolute top-0 flex h-4 touch-none items-center gap-1 overflow-hidden whitespace-nowrap border-l-2 border-line pl-1.5 text-left text-xs leading-4 hover:border-text"
    style={{ left, width }}
  >
    <span className="font-semibold">{name}</span>
    <span className="text-muted">{every}</span>
  </button>
);

interface SlotBoxProps {
  slot: MontageDesk['montage']['slots'][number];
  /** Counted from 1. */
  number: number;
  piece: MontagePiece | null;
  item: Item | null;
  chosen: boolean;
  left: number;
  right: number;
  onPick(): void;
  /** Draws its first edge; null where that does not lie on this line. */
  onEdge: HTMLAttributes<HTMLElement> | null;
}

/** A slot and what fills it. */
export function SlotBox({ slot, number, piece, item, chosen, left, right, onPick, onEdge }: SlotBoxProps) {
  return (
    <div className="absolute" style={{ left, width: right - left, top: sectionHeight, height: slotHeight }}>
      <button
        type="button"
        data-slot={slot.id}
        data-filled={slot.piece?.piece}
        aria-pressed={chosen}
        onClick={onPick}
        aria-label={`Slot ${number}, ${formatClock(slot.start, true)} to ${formatClock(slot.end, true)}, ${piece ? piece.name : 'empty'}${slot.locked ? ', locked' : ''}`}
        className={`absolute inset-y-0 left-0 overflow-hidden rounded-[3px] ${piece ? 'bg-raised' : 'border border-dashed border-line'} ${chosen ? 'z-10 outline outline-2 outline-lampline' : ''}`}
        style={{ width: Math.max(1, right - left - 1.5) }}
      >
        {piece && item && (
          <Poster
            media={piece.media}
            sheets={item.sheets}
            kind={item.probe?.kind ?? null}
            seconds={slot.piece!.sourceStart + Math.min(0.4, (slot.end - slot.start) / 2)}
            width={Math.max(2, right - left - 1.5)}
            height={slotHeight}
            className="!rounded-none"
          />
        )}
        {slot.locked && (
          <Lock size={11} className="absolute right-1 top-1 text-text drop-shadow-[0_0_2px_#000]" aria-hidden />
        )}
        {slot.piece?.speed !== undefined && (
          <span className="tabular absolute bottom-0.5 left-0.5 rounded bg-black/70 px-0.5 text-[11px] leading-3">
            {slot.piece.speed} %
          </span>
        )}
      </button>
      {onEdge && (
        <span
          data-edge={slot.id}
          title="Drag to move this cut; with Shift freely"
          {...onEdge}
          className="absolute inset-y-0 -left-1.5 z-20 w-2.5 cursor-ew-resize touch-none"
        />
      )}
    </div>
  );
}

interface MarkHandleProps {
  /** Seconds of the music. */
  mark: number;
  chosen: boolean;
  /** In pixels. */
  left: number;
  onDraw: HTMLAttributes<HTMLElement>;
  onChoose(): void;
}

/** A mark by hand, over waveform and beats. */
export const MarkHandle = ({ mark, chosen, left, onDraw, onChoose }: MarkHandleProps) => (
  <button
    type="button"
    data-mark={mark}
    aria-label={`Mark at ${formatClock(mark, true)}`}
    aria-pressed={chosen}
    title="Drag to move; Del deletes it"
    {...onDraw}
    onKeyDown={(event) => event.key === 'Enter' && onChoose()}
    className={`absolute z-10 w-2.5 cursor-ew-resize touch-none ${chosen ? 'outline outline-2 outline-lampline' : ''}`}
    style={{ left: left - 5, top: sectionHeight + slotHeight, height: waveHeight + tickHeight }}
  >
    <span className="mx-auto block h-full w-px bg-motion" />
    <span className="absolute left-0.5 top-0 h-1.5 w-1.5 rotate-45 bg-motion" />
  </button>
);
