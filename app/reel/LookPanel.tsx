import { formatLongDay } from '#core/sentences';
import { Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { changesNothing, namedLooks, type Look } from '#core/look';
import { clipsOf, plainLook, themes, themeTitles, type Reel, type ReelCommand } from '#core/reel';
import type { TablesAnswer } from '#usecases/looks';
import type { Item } from '#usecases/projects';
import { newId } from '../newId';
import { colours } from '../drawing/inks';
import { Button, IconButton, inputLook, Slider } from '../ui/controls';
import { useColourTables } from '../ui/useColourTables';
import { themeWithFaces } from './photoMoves';
import type { ReelDesk } from './useReelDesk';

interface LookPanelProps {
  desk: ReelDesk;
  projectId: string;
  projectName: string;
  tables: TablesAnswer['tables'];
}

const numbers = [
  ['exposure', 'Exposure', 'One step of light at half, two at the end'],
  ['contrast', 'Contrast', ''],
  ['saturation', 'Colour', ''],
  ['temperature', 'Warmth', 'Left is cooler, right is warmer'],
] as const;

/** How pictures look: of the chosen pieces, or of the whole reel; and the theme that sets everything together. */
export function LookPanel({ desk, projectId, projectName, tables }: LookPanelProps) {
  const { document, clip, chosen, live } = desk;
  if (!document) return null;
  const own = clip?.look;
  const look = own ?? document.look ?? plainLook;
  const scope = own ? 'piece' : 'reel';
  /** A piece that is as filmed in a reel with a look keeps that as its own. */
  const wear = (next: Look) => {
    const cleaned = changesNothing(next) ? null : next;
    if (scope === 'reel') return live.edit({ type: 'look', clip: null, look: cleaned });
    live.edit(onPieces(`changed the look of ${chosen.length} pieces`, cleaned ?? plainLook));
  };
  const onPieces = (name: string, worn: Look | null): ReelCommand => {
    const commands = chosen.map((each) => ({ type: 'look' as const, clip: each.id, look: worn && { ...worn } }));
    return commands.length === 1 ? commands[0]! : { type: 'several', name, commands };
  };
  const choose = (key: 'named' | 'lut', value: string) => {
    const { [key]: _, ...rest } = look;
    wear(value ? { ...look, [key]: value } : rest);
  };
  return (
    <div>
      <ThemePart desk={desk} document={document} project={projectName} />
      <div className="mt-3 flex items-center justify-between border-t border-line pt-3">
        <span className="font-semibold">
          {scope === 'piece'
            ? `Look of ${chosen.length > 1 ? `${chosen.length} pieces` : `“${clip!.name}”`}`
            : 'Look of the reel'}
        </span>
        {scope === 'reel' && clip && (
          <Button className="!h-7 !px-2" onClick={() => live.edit(onPieces('gave pieces a look of their own', look))}>
            Only this piece
          </Button>
        )}
        {scope === 'piece' && (
          <Button className="!h-7 !px-2" onClick={() => live.edit(onPieces('gave pieces the look of the reel', null))}>
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
          onRest={(value) => wear({ ...look, [key]: value / 100 })}
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
      <TablePart projectId={projectId} tables={tables} lut={look.lut} onChoose={(id) => choose('lut', id)} />
    </div>
  );
}

/** The day on which most of what a reel shows was filmed; today where no file says. */
function dayOf(reel: Reel, items: readonly Item[]): string {
  const days = new Map<string, number>();
  for (const { media, frames } of clipsOf(reel)) {
    const at = Date.parse(items.find(({ id }) => id === media)?.probe?.recordedAt ?? '');
    const day = at ? formatLongDay(at) : '';
    if (day) days.set(day, (days.get(day) ?? 0) + frames);
  }
  const [most] = [...days].sort((a, b) => b[1] - a[1]);
  return most?.[0] ?? formatLongDay(new Date());
}

/** What sets titles, transitions, look and photo moves together. */
function ThemePart({ desk, document, project }: { desk: ReelDesk; document: Reel; project: string }) {
  const isPhoto = (media: string) => desk.itemOf(media)?.probe?.kind === 'photo';
  const wear = async (theme: string | null) => {
    const dress = await themeWithFaces(document, theme, isPhoto);
    const titles = theme === null ? [] : themeTitles(document, { project, day: dayOf(document, desk.items) }, newId);
    const commands = [...(dress.type === 'several' ? dress.commands : [dress]), ...titles];
    desk.live.edit(
      commands.length === 1 ? commands[0]! : { type: 'several', name: `took the theme “${theme}”`, commands },
    );
  };
  return (
    <>
      <label className="flex items-center justify-between gap-3">
        Theme
        <select
          className={`${inputLook} w-64`}
          value={document.theme ?? ''}
          onChange={(event) => void wear(event.target.value || null)}
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
        Sets titles, transitions, look and photo moves together, and brings an opening and an end. Change any of them
        afterwards.
      </p>
    </>
  );
}

interface TablePartProps {
  projectId: string;
  tables: LookPanelProps['tables'];
  lut: string | undefined;
  /** An empty id for none. */
  onChoose(id: string): void;
}

/** Colour tables of the project: one is chosen, brought in, or taken out. */
function TablePart({ projectId, tables: first, lut, onChoose }: TablePartProps) {
  const file = useRef<HTMLInputElement>(null);
  const { tables, problem, bringIn, takeOut } = useColourTables(projectId, first);
  return (
    <>
      <div className="mt-3 flex items-center gap-2">
        <label className="flex flex-1 items-center justify-between gap-3">
          Colour table
          <select
            className={`${inputLook} !h-7 w-44`}
            value={lut ?? ''}
            onChange={(event) => onChoose(event.target.value)}
          >
            <option value="">none</option>
            {tables.map((table) => (
              <option key={table.id} value={table.id}>
                {table.name}
              </option>
            ))}
            {lut && !tables.some((table) => table.id === lut) && <option value={lut}>missing</option>}
          </select>
        </label>
        <Button className="!h-7 !px-2" onClick={() => file.current?.click()}>
          .cube…
        </Button>
        {lut && (
          <IconButton
            label="Remove this table from the project"
            onClick={() => {
              onChoose('');
              takeOut(lut);
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
          bringIn(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      {problem && (
        <p role="alert" className="mt-1 text-[13px] text-shake">
          {problem}
        </p>
      )}
    </>
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
