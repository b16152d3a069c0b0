import { useEffect, useRef, useState } from 'react';
import { useFetcher } from 'react-router';
import { applyTable, type ColourTable } from '#core/look';
import type { ItemsAnswer } from '#usecases/footage';
import type { TablesAnswer } from '#usecases/looks';
import type { Item } from '#usecases/projects';
import { drawFrame, onSheet } from '../drawing/sheets';
import { Button, inputLook as fieldLook } from '../ui/controls';
import { tableAddress, tableFrom, useColourTables } from '../ui/useColourTables';
import { costWords, rangeCost } from './rangeCost';

interface InputLookPartProps {
  projectId: string;
  tables: TablesAnswer['tables'];
  /** What is chosen; of a bin all of it. */
  items: readonly Item[];
  /** A whole bin, with what is brought into it later. */
  bin: { id: string; name: string; inputLook: string | null } | null;
  /** Of this machine; see `readingPace`. */
  pace: number;
  onDone(): void;
}

/** The colour table that films go through before anything is read of them: for the chosen ones, or for a bin. */
export function InputLookPart({ projectId, tables: first, items, bin, pace, onDone }: InputLookPartProps) {
  const fetcher = useFetcher<ItemsAnswer & { problem: string | null }>();
  const { tables, added, problem, isBusy, bringIn } = useColourTables(projectId, first);
  const films = items.filter((item) => isFilm(item));
  const [picked, setPicked] = useState<string | null>(null);
  const now = bin ? (tables.find(({ hash }) => hash === bin.inputLook)?.id ?? '') : (common(films, tables) ?? '');
  const chosen = picked ?? added ?? now;
  const file = useRef<HTMLInputElement>(null);
  const table = tables.find(({ id }) => id === chosen);
  const others = films.filter((item) => item.wantedLook !== (table?.hash ?? null));
  const later = bin ? ' What is brought into this bin later gets it too.' : '';
  const asFilmed = films.find((item) => item.inputLook === null && item.sheets);
  const set = () => {
    const form = new FormData();
    form.set('intent', 'input-look');
    form.set('table', chosen);
    if (bin) form.set('bin', bin.id);
    else for (const item of films) form.append('ids', item.id);
    void fetcher.submit(form, { method: 'post' });
  };
  const answer = fetcher.data;
  const sentence = answer?.problem ?? problem;
  return (
    <section aria-label="Input look" className="border-b border-line bg-raised px-4 py-2">
      <div className="flex items-center gap-2">
        <label className="flex items-center gap-2">
          <span className="text-muted">
            {bin
              ? `Input look of the bin “${bin.name}”`
              : `Input look of ${films.length === 1 ? 'one film' : `${films.length} films`}`}
          </span>
          <select
            className={`${fieldLook} !h-[30px] w-56`}
            value={chosen}
            onChange={(event) => setPicked(event.target.value)}
          >
            <option value="">none: as filmed</option>
            {tables.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </select>
        </label>
        <Button disabled={isBusy} onClick={() => file.current?.click()}>
          A .cube file…
        </Button>
        <input
          ref={file}
          type="file"
          accept=".cube"
          aria-label="Colour table file"
          className="hidden"
          onChange={(event) => {
            setPicked(null);
            bringIn(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
        <Button
          look="lamp"
          disabled={fetcher.state !== 'idle' || isBusy || (others.length === 0 && !(bin && chosen !== now))}
          onClick={set}
        >
          {chosen ? 'Set and read again' : 'Show as filmed'}
        </Button>
        <button type="button" className="ml-auto text-muted underline hover:text-text" onClick={onDone}>
          Close
        </button>
      </div>
      <div className="mt-2 flex items-end gap-3">
        {table && asFilmed && <Preview projectId={projectId} item={asFilmed} table={table.id} name={table.name} />}
        <p
          role={sentence ? 'alert' : 'status'}
          className={`max-w-xl text-xs ${sentence ? 'text-shake' : 'text-muted'}`}
        >
          {sentence ?? (answer ? askedFor(answer) : `${purpose} ${costOf(films.length, others, pace)}${later}`)}
        </p>
      </div>
    </section>
  );
}

const purpose =
  'For logarithmic footage of a camera: its colours go through the table before light and contrast are read, and wherever they are shown.';

const askedFor = ({ left }: ItemsAnswer): string =>
  left?.length ? left.join(' ') : 'Asked for. What was read before stays until the new reading is there.';

/** What setting it costs, when there are so many films of which some do not have it. */
function costOf(films: number, others: readonly Item[], pace: number): string {
  if (films === 0) return 'There is no film here yet.';
  if (others.length === 0) return films === 1 ? 'It has this already.' : 'All of them have this already.';
  const cost = rangeCost(others, '', '', pace);
  return cost && cost.seconds > 0 ? `${costWords(cost)}; the sound is not read again.` : '';
}

const isFilm = ({ probe, arrived }: Item): boolean => {
  const known = probe ?? arrived;
  return known ? known.kind === 'video' && !known.copied : true;
};

/** The table that all of some films have; null when they differ or have none. */
function common(films: readonly Item[], tables: TablesAnswer['tables']): string | null {
  const looks = new Set(films.map((item) => item.wantedLook));
  return looks.size === 1 ? (tables.find(({ hash }) => looks.has(hash))?.id ?? null) : null;
}

const size = { width: 192, height: 108 };

/** A frame as filmed, and what a table makes of it. */
function Preview({ projectId, item, table, name }: { projectId: string; item: Item; table: string; name: string }) {
  const before = useRef<HTMLCanvasElement>(null);
  const after = useRef<HTMLCanvasElement>(null);
  const [values, setValues] = useState<{ id: string; table: ColourTable } | null>(null);
  useEffect(() => {
    const stop = new AbortController();
    fetch(tableAddress(projectId, table), { signal: stop.signal })
      .then(async (response) => {
        if (!response.ok) return;
        setValues({ id: table, table: tableFrom(await response.json()) });
      })
      // Without it there is no preview; setting the look says what is wrong.
      .catch(() => undefined);
    return () => stop.abort();
  }, [projectId, table]);
  useEffect(() => {
    const draw = () => {
      const [one, two] = [before.current?.getContext('2d'), after.current?.getContext('2d')];
      if (!one || !two || !item.sheets) return;
      const middle = (item.probe?.durationSeconds ?? 0) * 0.35;
      if (!drawFrame(one, item.id, item.sheets, middle, 0, 0, size.width, size.height)) return;
      const pixels = one.getImageData(0, 0, size.width, size.height);
      if (values?.id === table) applyTable(values.table, pixels.data);
      two.putImageData(pixels, 0, 0);
    };
    draw();
    return onSheet(draw);
  }, [item, values, table]);
  return (
    <>
      {[
        { canvas: before, says: 'as filmed' },
        { canvas: after, says: `through ${name}` },
      ].map(({ canvas, says }) => (
        <figure key={says} className="shrink-0">
          <canvas ref={canvas} {...size} className="block rounded" role="img" aria-label={`${item.name}, ${says}`} />
          <figcaption className="mt-1 max-w-48 truncate text-xs text-muted">{says}</figcaption>
        </figure>
      ))}
    </>
  );
}
