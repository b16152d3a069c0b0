import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { reelFrames, type Title, type TitleKind } from '#core/reel';
import { formatTimecode, framesPerSecond, framesToSeconds } from '#core/time';
import { newId } from '../newId';
import { Button, IconButton, inputLook } from '../ui/controls';
import { Seconds } from './panelParts';
import type { ReelDesk } from './useReelDesk';

const kinds: Record<TitleKind, { name: string; seconds: number; text: string }> = {
  opening: { name: 'Opening', seconds: 4, text: '' },
  lower: { name: 'Lower third', seconds: 4, text: '' },
  end: { name: 'End card', seconds: 4, text: 'The end' },
};

interface TitlesPanelProps {
  desk: ReelDesk;
  chosen: string | null;
  onChoose(id: string | null): void;
}

/** The reel's titles and markers: each with its text, its place and its length. */
export function TitlesPanel({ desk, chosen, onChoose }: TitlesPanelProps) {
  const { document, rate, live, playFrame, player } = desk;
  if (!document) return null;
  const fps = framesPerSecond(rate);
  const total = reelFrames(document);
  const add = (kind: TitleKind) => {
    const frames = Math.max(2, Math.min(Math.round(kinds[kind].seconds * fps), Math.max(total, 2)));
    const frame =
      kind === 'opening'
        ? 0
        : kind === 'end'
          ? Math.max(0, total - frames)
          : Math.min(playFrame, Math.max(0, total - frames));
    const id = newId();
    live.edit({
      type: 'title',
      title: { id, kind, frame, frames, text: kinds[kind].text || (kind === 'opening' ? document.name : 'Name') },
    });
    onChoose(id);
    player.seek(framesToSeconds(frame + Math.round(fps / 2), rate));
  };
  const set = (title: Title, change: Partial<Title>) => live.edit({ type: 'title', title: { ...title, ...change } });
  return (
    <div>
      <div className="flex gap-2">
        {(Object.keys(kinds) as TitleKind[]).map((kind) => (
          <Button key={kind} onClick={() => add(kind)}>
            {kinds[kind].name}
          </Button>
        ))}
      </div>
      <p className="mb-2 mt-1.5 text-xs text-muted">How they look comes with the theme (“Look”).</p>
      {(document.titles ?? []).map((title) => (
        <section
          key={title.id}
          aria-label={`Title ${title.text}`}
          className={`mb-2 rounded-md border p-2 ${chosen === title.id ? 'border-muted bg-raised' : 'border-line'}`}
          onFocusCapture={() => onChoose(title.id)}
        >
          <div className="flex items-center gap-2">
            <select
              aria-label="Kind of title"
              className={`${inputLook} !h-7`}
              value={title.kind}
              onChange={(event) => set(title, { kind: event.target.value as TitleKind })}
            >
              {(Object.keys(kinds) as TitleKind[]).map((kind) => (
                <option key={kind} value={kind}>
                  {kinds[kind].name}
                </option>
              ))}
            </select>
            <button
              type="button"
              className="tabular text-xs text-muted underline"
              onClick={() => player.seek(framesToSeconds(title.frame, rate) + 0.5)}
            >
              {formatTimecode(title.frame, rate)}
            </button>
            <Seconds
              label="Length of the title"
              value={framesToSeconds(title.frames, rate)}
              onChange={(seconds) => set(title, { frames: Math.max(2, Math.round(seconds * fps)) })}
            />
            <span className="ml-auto">
              <IconButton
                label={`Delete the title “${title.text}” away`}
                onClick={() => live.edit({ type: 'removeTitle', id: title.id })}
              >
                <Trash2 size={14} />
              </IconButton>
            </span>
          </div>
          <Line label="Text" value={title.text} onTake={(text) => set(title, { text })} />
          <Line label="Second line" value={title.sub ?? ''} onTake={(sub) => set(title, { sub })} />
          <Button className="mt-1.5 !h-7 !px-2" onClick={() => set(title, { frame: playFrame })}>
            Begin at the playhead
          </Button>
        </section>
      ))}
      <div className="mt-3 flex items-center justify-between border-t border-line pt-3">
        <span className="font-semibold">Markers</span>
        <Button className="!h-7 !px-2" command="marker" onClick={() => desk.actions.mark()}>
          Marker here
        </Button>
      </div>
      {(document.markers ?? []).map((marker) => (
        <div key={marker.id} className="mt-1.5 flex items-center gap-2">
          <button
            type="button"
            className="tabular text-xs underline"
            onClick={() => player.seek(framesToSeconds(marker.frame, rate) + 1e-4)}
          >
            {formatTimecode(marker.frame, rate)}
          </button>
          <div className="flex-1">
            <Line
              label="Note"
              value={marker.note}
              bare
              onTake={(note) => live.edit({ type: 'mark', marker: { ...marker, note } })}
            />
          </div>
          <IconButton label="Delete the marker" onClick={() => live.edit({ type: 'unmark', id: marker.id })}>
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      {!document.markers?.length && (
        <p className="mt-1 text-xs text-muted">
          None yet. M drops one at the playhead; {'{'} and {'}'} go from one to the next.
        </p>
      )}
    </div>
  );
}

/** A line of text that is taken when it is left. */
function Line({
  label,
  value,
  bare = false,
  onTake,
}: {
  label: string;
  value: string;
  bare?: boolean;
  onTake(text: string): void;
}) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  return (
    <label className={bare ? '' : 'mt-1.5 grid grid-cols-[84px_1fr] items-center gap-2'}>
      <span className={bare ? 'sr-only' : 'text-muted'}>{label}</span>
      <input
        className={`${inputLook} !h-7 w-full`}
        maxLength={200}
        value={text}
        placeholder={bare ? 'note' : ''}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => text.trim() !== value && onTake(text.trim())}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </label>
  );
}
