import { GripVertical, Plus, RefreshCw, X } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState, type DragEvent } from 'react';
import type { MontagePiece } from '#core/montage';
import { clipsOf, speedOf, type Reel } from '#core/reel';
import { formatClock, framesToSeconds } from '#core/time';
import { Poster } from '../drawing/Poster';
import { Button, IconButton } from '../ui/controls';
import type { MontageDesk } from './useMontage';

/** What the slots are filled with: order by hand, in points, action, and where more comes from. */
export function PiecesPanel({
  desk,
  projectId,
  reels,
  chosen,
  onChoose,
}: {
  desk: MontageDesk;
  projectId: string;
  reels: { id: string; name: string }[];
  chosen: string | null;
  onChoose(id: string | null): void;
}) {
  const { montage, actions, features, items, gathering, fit, shaky } = desk;
  const used = new Map<string, number>();
  for (const slot of montage.slots) if (slot.piece) used.set(slot.piece.piece, (used.get(slot.piece.piece) ?? 0) + 1);
  const [over, setOver] = useState<number | null>(null);
  const move = (from: number, to: number) => {
    if (from === to || from < 0 || to < 0 || to >= montage.pieces.length) return;
    const pieces = [...montage.pieces];
    const [piece] = pieces.splice(from, 1);
    pieces.splice(to, 0, piece!);
    // The order matters only where it is asked for.
    actions.pieces(pieces);
  };
  const add = (more: MontagePiece[]) => {
    if (more.length > 0) actions.pieces([...montage.pieces, ...more]);
  };
  const fromReel = async (id: string) => {
    const answer = await fetch(`/projects/${projectId}/reels/${id}/edits`).catch(() => null);
    if (!answer?.ok) return desk.setProblem('This reel could not be opened. Try again.');
    const { reel } = (await answer.json()) as { reel: { document: Reel } };
    const { rate } = reel.document;
    add(
      clipsOf(reel.document)
        .filter((clip) => items.find((item) => item.id === clip.media)?.probe?.kind !== 'sound')
        .map((clip) => {
          const photo = items.find((item) => item.id === clip.media)?.probe?.kind === 'photo';
          const start = framesToSeconds(clip.sourceIn, rate);
          return {
            id: crypto.randomUUID(),
            media: clip.media,
            name: clip.name,
            start,
            end: photo ? 4 : start + framesToSeconds((clip.frames * speedOf(clip)) / 100, rate),
            ...(photo ? { photo: true } : {}),
          };
        }),
    );
  };
  const whole = (bin: string | null) =>
    add(
      items
        .filter(
          (item) => item.probe && item.probe.kind !== 'sound' && !item.problem && (bin === null || item.binId === bin),
        )
        .map((item) => ({
          id: crypto.randomUUID(),
          media: item.id,
          name: item.name.replace(/\.\w+$/, ''),
          start: item.defaultIn ?? 0,
          end: item.probe!.kind === 'photo' ? 4 : (item.defaultOut ?? item.probe!.durationSeconds),
          ...(item.probe!.kind === 'photo' ? { photo: true } : {}),
        })),
    );
  const row = 'flex cursor-default items-center rounded px-2 py-1.5 text-sm outline-none data-[highlighted]:bg-line';
  return (
    <>
      <div className="mb-1 flex items-center gap-2">
        <span className="text-muted" role="status">
          {gathering
            ? 'Looking for pieces…'
            : `${fit.length} ${fit.length === 1 ? 'piece' : 'pieces'}${shaky && montage.filling.steadyOnly ? `, ${shaky} shaky left out` : ''}`}
        </span>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button className="ml-auto !h-7 !px-2">
              <Plus size={14} aria-hidden /> Bring in
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              sideOffset={4}
              className="z-50 max-h-80 w-64 overflow-y-auto rounded-md border border-line bg-raised p-1 shadow-xl"
            >
              <DropdownMenu.Item className={row} onSelect={actions.gather}>
                <RefreshCw size={14} className="mr-2" aria-hidden />
                The best of the footage, anew
              </DropdownMenu.Item>
              <DropdownMenu.Item className={row} onSelect={() => whole(null)}>
                Every file, whole
              </DropdownMenu.Item>
              {reels.length > 0 && (
                <DropdownMenu.Label className="px-2 pt-1.5 text-xs text-muted">Pieces of a reel</DropdownMenu.Label>
              )}
              {reels.map((reel) => (
                <DropdownMenu.Item key={reel.id} className={row} onSelect={() => void fromReel(reel.id)}>
                  {reel.name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      <ul aria-label="Pieces">
        {montage.pieces.map((piece, index) => {
          const item = items.find((each) => each.id === piece.media);
          const own = features.get(piece.id);
          const count = used.get(piece.id) ?? 0;
          const open = chosen === piece.id;
          const full = item?.probe?.kind === 'photo' ? 4 : (item?.probe?.durationSeconds ?? piece.end);
          return (
            <li
              key={piece.id}
              data-piece-row={piece.id}
              draggable
              onDragStart={(event: DragEvent) => {
                event.dataTransfer.setData('text/plain', String(index));
                event.dataTransfer.effectAllowed = 'move';
              }}
              onDragOver={(event) => {
                event.preventDefault();
                setOver(index);
              }}
              onDragLeave={() => setOver(null)}
              onDrop={(event) => {
                event.preventDefault();
                setOver(null);
                move(Number(event.dataTransfer.getData('text/plain')), index);
              }}
              className={`border-b border-line/60 py-1.5 ${over === index ? 'border-t-2 border-t-lamp' : ''} ${piece.off ? 'opacity-50' : ''}`}
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
                      move(index, index + (event.key === 'ArrowUp' ? -1 : 1));
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
                <span
                  className="cursor-grab text-muted"
                  title="Draw to another place; Alt ↑ ↓ with the keys"
                  aria-hidden
                >
                  <GripVertical size={14} />
                </span>
              </div>
              {open && (
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
                      label={`Take “${piece.name}” off the list`}
                      onClick={() => actions.pieces(montage.pieces.filter((each) => each.id !== piece.id))}
                    >
                      <X size={15} />
                    </IconButton>
                  </div>
                </div>
              )}
            </li>
          );
        })}
      </ul>
      {montage.pieces.length === 0 && !gathering && (
        <p className="text-muted">Bring in pieces: the best of the footage, a reel, or whole files.</p>
      )}
    </>
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
