import { Trash2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { formatClock } from '#core/time';
import type { Marker, MarkerKind } from '#usecases/moments';
import { Button, IconButton, inputLook } from '../../ui/controls';
import { LongList } from '../../ui/LongList';
import { markerShapes } from '../../drawing/drawLine';

const kinds: Record<MarkerKind, string> = { note: 'Note', good: 'Good', problem: 'Problem', idea: 'Idea' };

interface MarkersPanelProps {
  markers: Marker[];
  /** The one whose note is to be written now. */
  writing: string | null;
  nameOf(media: string): string;
  onGo(marker: Marker): void;
  onChange(marker: Marker): void;
  onRemove(marker: Marker): void;
  onDrop(): void;
  onWritten(): void;
}

/** All markers: searched, filtered by kind, jumped to, written in place. */
export function MarkersPanel({
  markers,
  writing,
  nameOf,
  onGo,
  onChange,
  onRemove,
  onDrop,
  onWritten,
}: MarkersPanelProps) {
  const [text, setText] = useState('');
  const [kind, setKind] = useState<MarkerKind | ''>('');
  /** The one that has the focus stays there while the list is scrolled. */
  const [focused, setFocused] = useState<string | null>(null);
  const shown = markers.filter(
    (marker) =>
      (!kind || marker.kind === kind) &&
      `${marker.note} ${nameOf(marker.media)}`.toLowerCase().includes(text.trim().toLowerCase()),
  );
  return (
    <div className="flex min-h-full flex-col">
      <div className="mb-2 flex gap-2">
        <input
          className={`${inputLook} min-w-0 flex-1`}
          type="search"
          aria-label="Search the markers"
          placeholder="Search the markers"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <select
          className={inputLook}
          aria-label="Kind of marker"
          value={kind}
          onChange={(event) => setKind(event.target.value as MarkerKind | '')}
        >
          <option value="">All kinds</option>
          {Object.entries(kinds).map(([key, label]) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
      </div>
      {shown.length === 0 && (
        <p className="text-muted">
          {markers.length
            ? 'No marker fits.'
            : 'No markers yet. M drops one at the playhead; Shift M writes a note to it.'}
        </p>
      )}
      <LongList
        label="Markers"
        items={shown}
        keyOf={(marker) => marker.id}
        height={32}
        current={writing === null ? -1 : shown.findIndex((marker) => marker.id === writing)}
        held={shown.findIndex((marker) => marker.id === focused)}
      >
        {(marker) => (
          <div
            className="flex items-center gap-1.5 pb-1"
            data-marker={marker.id}
            onFocus={() => setFocused(marker.id)}
            onBlur={() => setFocused(null)}
          >
            <button
              type="button"
              className="tabular w-14 shrink-0 rounded px-1 text-left text-muted hover:bg-line hover:text-text"
              aria-label={`Go to ${formatClock(marker.seconds)} in ${nameOf(marker.media)}`}
              title={nameOf(marker.media)}
              onClick={() => onGo(marker)}
            >
              {formatClock(marker.seconds)}
            </button>
            <KindButton kind={marker.kind} onChange={(next) => onChange({ ...marker, kind: next })} />
            <Note
              key={`${marker.id}${writing === marker.id}`}
              marker={marker}
              focus={writing === marker.id}
              onSave={(note) => {
                if (note !== marker.note) onChange({ ...marker, note });
                onWritten();
              }}
            />
            <IconButton label={`Delete the marker at ${formatClock(marker.seconds)}`} onClick={() => onRemove(marker)}>
              <Trash2 size={14} />
            </IconButton>
          </div>
        )}
      </LongList>
      <div className="sticky -bottom-3 mt-auto flex gap-2 bg-panel pb-3 pt-2">
        <Button command="marker" onClick={onDrop}>
          Drop a marker
        </Button>
      </div>
    </div>
  );
}

/** The next kind with every press. */
function KindButton({ kind, onChange }: { kind: MarkerKind; onChange(kind: MarkerKind): void }) {
  const all = Object.keys(kinds) as MarkerKind[];
  return (
    <button
      type="button"
      className="flex h-7 w-7 shrink-0 items-center justify-center rounded hover:bg-line"
      aria-label={`Kind: ${kinds[kind]}. Change`}
      title={`${kinds[kind]}; press for the next kind`}
      onClick={() => onChange(all[(all.indexOf(kind) + 1) % all.length]!)}
    >
      <svg width="12" height="12" fill="var(--color-playhead)" aria-hidden>
        <path d={markerShapes[kind]} />
      </svg>
    </button>
  );
}

function Note({ marker, focus, onSave }: { marker: Marker; focus: boolean; onSave(note: string): void }) {
  const field = useRef<HTMLInputElement>(null);
  const [note, setNote] = useState(marker.note);
  useEffect(() => {
    if (focus) field.current?.focus();
  }, [focus]);
  return (
    <input
      ref={field}
      className="h-7 min-w-0 flex-1 rounded bg-transparent px-1.5 hover:bg-raised focus:bg-raised"
      aria-label={`Note at ${formatClock(marker.seconds)}`}
      placeholder="no note"
      maxLength={500}
      value={note}
      onChange={(event) => setNote(event.target.value)}
      onBlur={() => onSave(note.trim())}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === 'Escape') {
          event.preventDefault();
          event.currentTarget.blur();
        }
      }}
    />
  );
}
