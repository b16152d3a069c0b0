import { Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { useFetcher } from 'react-router';
import { changesNothing, namedLooks, type Look } from '#core/look';
import { plainLook, themes } from '#core/reel';
import { colours } from '../drawing/drawLine';
import { Button, IconButton, inputLook, Slider } from '../ui/controls';
import { themeWithFaces } from './photoMoves';
import type { ReelDesk } from './useReelDesk';

interface LookPanelProps {
  desk: ReelDesk;
  projectId: string;
  tables: { id: string; name: string; size: number }[];
}

const numbers = [
  ['exposure', 'Exposure', 'One step of light at half, two at the end'],
  ['contrast', 'Contrast', ''],
  ['saturation', 'Colour', ''],
  ['temperature', 'Warmth', 'Left is cooler, right is warmer'],
] as const;

/** How pictures look: of the chosen pieces, or of the whole reel; and the theme that sets everything together. */
export function LookPanel({ desk, projectId, tables: first }: LookPanelProps) {
  const { document, clip, chosen, live } = desk;
  const file = useRef<HTMLInputElement>(null);
  const fetcher = useFetcher<{ tables: typeof first; problem: string | null; added?: string | null }>();
  const tables = fetcher.data?.tables ?? first;
  if (!document) return null;
  const own = clip?.look;
  const look = own ?? document.look ?? plainLook;
  const scope = own ? 'piece' : 'reel';
  const set = (change: Partial<Look>) => {
    const next = { ...look, ...change };
    const cleaned = changesNothing(next) ? null : next;
    if (scope === 'reel') return live.edit({ type: 'look', clip: null, look: cleaned });
    // A piece that is as filmed in a reel with a look keeps that as its own.
    const commands = chosen.map((each) => ({ type: 'look' as const, clip: each.id, look: cleaned ?? plainLook }));
    live.edit(
      commands.length === 1
        ? commands[0]!
        : { type: 'several', name: `changed the look of ${commands.length} pieces`, commands },
    );
  };
  const toPiece = () =>
    live.edit({
      type: 'several',
      name: 'gave pieces a look of their own',
      commands: chosen.map((each) => ({ type: 'look' as const, clip: each.id, look: { ...look } })),
    });
  const toReel = () =>
    live.edit({
      type: 'several',
      name: 'gave pieces the look of the reel',
      commands: chosen.map((each) => ({ type: 'look' as const, clip: each.id, look: null })),
    });
  const without = (key: 'named' | 'lut') => {
    const { [key]: _, ...rest } = look;
    return rest as Look;
  };
  const choose = (key: 'named' | 'lut', value: string) => {
    if (value) return set({ [key]: value });
    const next = without(key);
    const cleaned = changesNothing(next) ? null : next;
    if (scope === 'reel') live.edit({ type: 'look', clip: null, look: cleaned });
    else
      live.edit({
        type: 'several',
        name: 'changed the look',
        commands: chosen.map((each) => ({ type: 'look' as const, clip: each.id, look: cleaned ?? plainLook })),
      });
  };
  return (
    <div>
      <label className="flex items-center justify-between gap-3">
        Theme
        <select
          className={`${inputLook} w-64`}
          value={document.theme ?? ''}
          onChange={(event) =>
            void themeWithFaces(
              document,
              event.target.value || null,
              (media) => desk.itemOf(media)?.probe?.kind === 'photo',
            ).then((command) => live.edit(command))
          }
        >
          <option value="">none</option>
          {themes.map((theme) => (
            <option key={theme.name} value={theme.name}>
              {theme.name}: {theme.says}
            </option>
          ))}
        </select>
      </label>
      <p className="mt-1 text-xs text-muted">
        Sets titles, transitions, look and photo moves together. Change any of them afterwards.
      </p>
      <div className="mt-3 flex items-center justify-between border-t border-line pt-3">
        <span className="font-semibold">
          {scope === 'piece'
            ? `Look of ${chosen.length > 1 ? `${chosen.length} pieces` : `“${clip!.name}”`}`
            : 'Look of the reel'}
        </span>
        {scope === 'reel' && clip && (
          <Button className="!h-7 !px-2" onClick={toPiece}>
            Only this piece
          </Button>
        )}
        {scope === 'piece' && (
          <Button className="!h-7 !px-2" onClick={toReel}>
            Like the reel
          </Button>
        )}
      </div>
      {numbers.map(([key, label, hint]) => (
        <Slider
          key={key}
          label={label}
          hint={hint}
          colour={colours.muted}
          value={Math.round(look[key] * 100)}
          min={-100}
          max={100}
          step={2}
          shown={(value) => (value > 0 ? `+${value}` : String(value))}
          onRest={(value) => set({ [key]: value / 100 })}
        />
      ))}
      <div className="mt-1 grid grid-cols-4 gap-1.5" role="group" aria-label="Named looks">
        <Swatch name="As filmed" on={!look.named} onPick={() => choose('named', '')} colour={(rgb) => rgb} />
        {Object.entries(namedLooks).map(([name, { colour, says }]) => (
          <Swatch
            key={name}
            name={name}
            says={says}
            on={look.named === name}
            onPick={() => choose('named', name)}
            colour={colour}
          />
        ))}
      </div>
      <div className="mt-3 flex items-center gap-2">
        <label className="flex flex-1 items-center justify-between gap-3">
          Colour table
          <select
            className={`${inputLook} !h-7 w-44`}
            value={look.lut ?? ''}
            onChange={(event) => choose('lut', event.target.value)}
          >
            <option value="">none</option>
            {tables.map((table) => (
              <option key={table.id} value={table.id}>
                {table.name}
              </option>
            ))}
            {look.lut && !tables.some((table) => table.id === look.lut) && <option value={look.lut}>missing</option>}
          </select>
        </label>
        <Button className="!h-7 !px-2" onClick={() => file.current?.click()}>
          .cube…
        </Button>
        {look.lut && (
          <IconButton
            label="Take this table out of the project"
            onClick={() => {
              const gone = look.lut!;
              choose('lut', '');
              void fetcher.submit({ remove: gone }, { method: 'post', action: `/projects/${projectId}/looks` });
            }}
          >
            <Trash2 size={14} />
          </IconButton>
        )}
      </div>
      <input
        ref={file}
        type="file"
        accept=".cube"
        aria-label="Colour table file"
        className="hidden"
        onChange={(event) => {
          const chosenFile = event.target.files?.[0];
          event.target.value = '';
          if (!chosenFile) return;
          const form = new FormData();
          form.set('file', chosenFile);
          void fetcher.submit(form, {
            method: 'post',
            action: `/projects/${projectId}/looks`,
            encType: 'multipart/form-data',
          });
        }}
      />
      {fetcher.data?.problem && (
        <p role="alert" className="mt-1 text-[13px] text-shake">
          {fetcher.data.problem}
        </p>
      )}
    </div>
  );
}

/** What a look makes of sky, skin, leaves and dark water. */
const samples = [
  [0.62, 0.78, 0.92],
  [0.82, 0.6, 0.48],
  [0.38, 0.56, 0.28],
  [0.12, 0.2, 0.26],
] as const;

function Swatch({
  name,
  says,
  on,
  onPick,
  colour,
}: {
  name: string;
  says?: string;
  on: boolean;
  onPick(): void;
  colour(rgb: readonly [number, number, number]): readonly [number, number, number];
}) {
  const css = (rgb: readonly [number, number, number]) =>
    `rgb(${colour(rgb)
      .map((value) => Math.round(255 * Math.min(1, Math.max(0, value))))
      .join(' ')})`;
  return (
    <button
      type="button"
      aria-pressed={on}
      title={says}
      onClick={onPick}
      className={`rounded-md border p-1 text-xs ${on ? 'border-text' : 'border-line hover:bg-line/60'}`}
    >
      <span className="mb-0.5 flex h-6 overflow-hidden rounded" aria-hidden>
        {samples.map((rgb, index) => (
          <span key={index} className="flex-1" style={{ background: css(rgb) }} />
        ))}
      </span>
      {name}
    </button>
  );
}
