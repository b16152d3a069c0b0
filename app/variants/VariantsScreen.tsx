import { Layers, Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Link, useFetcher } from 'react-router';
import { clashes, clipsOf, countVariants, fileNames, namePlaces, reelFrames, variants, type Reel } from '#core/reel';
import { formatClock, framesToSeconds } from '#core/time';
import { Poster } from '../drawing/Poster';
import type { Item } from '#usecases/projects';
import { afterSaving } from '../history/saveQueue';
import { Button, IconButton, inputLook } from '../ui/controls';

interface Group {
  key: number;
  name: string;
  pieces: string[];
}
let next = 3;
const first: Group[] = [
  { key: 0, name: 'Openings', pieces: [] },
  { key: 1, name: 'Middles', pieces: [] },
  { key: 2, name: 'Endings', pieces: [] },
];

/** One piece from each group, every way: counted, named and checked before anything is made. */
export function VariantsScreen({ reels, items }: { reels: { id: string; document: Reel }[]; items: readonly Item[] }) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [groups, setGroups] = useState(first);
  const [pattern, setPattern] = useState('{n} {pieces}');
  const [few, setFew] = useState('');
  const [render, setRender] = useState(true);
  const change = (key: number, values: Partial<Group>) =>
    setGroups((now) => now.map((group) => (group.key === key ? { ...group, ...values } : group)));
  const used = groups
    .filter((group) => group.pieces.length > 0)
    .map((group) => ({
      name: group.name,
      pieces: group.pieces.map((id) => ({ id, name: reels.find((reel) => reel.id === id)!.document.name })),
    }));
  const all = countVariants(used);
  const most = Math.min(all, Number(few) || all, 500);
  const shown = variants(used, most);
  const names = fileNames(
    shown.map((pieces) => ({
      title: pieces.map((piece) => piece.name).join(' '),
      pieces: pieces.map((piece) => piece.name),
    })),
    pattern,
  );
  const twice = new Set(clashes(names).map((name) => name.toLocaleLowerCase()));
  const start = () =>
    void afterSaving(
      () =>
        void fetcher.submit(
          {
            groups: used.map((group) => ({ name: group.name, pieces: group.pieces.map((piece) => piece.id) })),
            most,
            pattern,
            render,
          },
          { method: 'post', encType: 'application/json' },
        ),
    );
  const length = (id: string) => {
    const { document } = reels.find((reel) => reel.id === id)!;
    return framesToSeconds(reelFrames(document), document.rate);
  };
  return (
    <main className="flex min-h-0 flex-1">
      <section className="flex-1 overflow-y-auto p-5">
        <div className="mb-1 flex items-center gap-3">
          <h1 className="text-base font-semibold">Variants</h1>
          <Link to="../reels" relative="path" className="text-muted underline hover:text-text">
            All reels
          </Link>
        </div>
        <p className="mb-4 text-muted">
          One reel from each group, joined, in every combination. A reel may stand in several groups.
        </p>
        {reels.length === 0 && (
          <p className="text-muted">
            There are no reels with pieces yet. Make some first: an opening, a middle, an ending.
          </p>
        )}
        <ol className="space-y-3">
          {groups.map((group, index) => (
            <li key={group.key} className="rounded-md border border-line p-3" data-group={index}>
              <div className="mb-2 flex items-center gap-2">
                <input
                  aria-label={`Name of group ${index + 1}`}
                  value={group.name}
                  maxLength={60}
                  onChange={(event) => change(group.key, { name: event.target.value })}
                  className="rounded bg-transparent font-semibold hover:bg-raised focus:bg-raised"
                />
                <span className="tabular text-muted">{group.pieces.length}</span>
                <IconButton
                  label={`Take “${group.name}” away`}
                  className="ml-auto !text-muted"
                  onClick={() => setGroups((now) => now.filter((each) => each.key !== group.key))}
                >
                  <X size={14} />
                </IconButton>
              </div>
              <ul className="flex flex-wrap gap-2">
                {group.pieces.map((id, at) => (
                  <li key={`${id}${at}`}>
                    <Piece
                      reel={reels.find((reel) => reel.id === id)!.document}
                      items={items}
                      onRemove={() => change(group.key, { pieces: group.pieces.filter((_, place) => place !== at) })}
                    />
                  </li>
                ))}
                <li>
                  <select
                    aria-label={`Add a reel to ${group.name}`}
                    className={`${inputLook} w-44`}
                    value=""
                    onChange={(event) => change(group.key, { pieces: [...group.pieces, event.target.value] })}
                  >
                    <option value="" disabled>
                      Add a reel…
                    </option>
                    {reels
                      .filter((reel) => !group.pieces.includes(reel.id))
                      .map((reel) => (
                        <option key={reel.id} value={reel.id}>
                          {reel.document.name} ({formatClock(length(reel.id))})
                        </option>
                      ))}
                  </select>
                </li>
              </ul>
            </li>
          ))}
        </ol>
        {groups.length < 8 && (
          <Button
            className="mt-3"
            onClick={() => setGroups((now) => [...now, { key: next++, name: `Group ${now.length + 1}`, pieces: [] }])}
          >
            <Plus size={15} aria-hidden /> Another group
          </Button>
        )}
      </section>
      <aside className="flex w-[400px] shrink-0 flex-col border-l border-line bg-[#12191f] p-4">
        <p className="text-lg font-semibold" data-testid="variant-count">
          {all === 0 ? 'Nothing to combine yet' : `${used.map((group) => group.pieces.length).join(' × ')} = ${all}`}
        </p>
        <p className="mb-3 text-muted">
          {all === 0
            ? 'Add reels to the groups.'
            : most < all
              ? `${most} of them, spread evenly over all.`
              : 'All of them.'}
        </p>
        <div className="space-y-2">
          <label className="grid grid-cols-[88px_1fr] items-center gap-3">
            How many
            <input
              className={`${inputLook} tabular`}
              inputMode="numeric"
              placeholder={`all ${all}`}
              value={few}
              onChange={(event) => setFew(event.target.value.replace(/\D/g, ''))}
            />
          </label>
          <label
            className="grid grid-cols-[88px_1fr] items-center gap-3"
            title={`It may hold ${namePlaces.join(', ')}`}
          >
            Named
            <input className={inputLook} value={pattern} onChange={(event) => setPattern(event.target.value)} />
          </label>
          <p className="text-xs text-muted">
            {'{n} counts, {n:3} in three digits, {1} {2} are the pieces’ names, {date} is today.'}
          </p>
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={render} onChange={(event) => setRender(event.target.checked)} /> Render them
            at once
          </label>
        </div>
        <ul
          className="tabular mt-3 min-h-0 flex-1 overflow-y-auto text-xs text-muted"
          aria-label="Names of the variants"
        >
          {names.map((name, index) => (
            <li key={index} className={twice.has(name.toLocaleLowerCase()) ? 'text-shake' : ''}>
              {name}
            </li>
          ))}
        </ul>
        {twice.size > 0 && (
          <p role="alert" className="mt-2 text-shake">
            Some names stand twice. Put {'{n}'} into the pattern.
          </p>
        )}
        {fetcher.data?.problem && fetcher.state === 'idle' && (
          <p role="alert" className="mt-2 text-shake">
            {fetcher.data.problem}
          </p>
        )}
        <Button
          look="lamp"
          className="mt-3"
          disabled={all === 0 || twice.size > 0 || fetcher.state !== 'idle'}
          onClick={start}
        >
          <Layers size={15} aria-hidden /> Make {most || ''} {most === 1 ? 'variant' : 'variants'}
        </Button>
      </aside>
    </main>
  );
}

function Piece({ reel, items, onRemove }: { reel: Reel; items: readonly Item[]; onRemove(): void }) {
  const clip = clipsOf(reel)[0];
  const item = clip && items.find((each) => each.id === clip.media);
  return (
    <span className="group relative block w-28">
      {clip && (
        <Poster
          media={clip.media}
          sheets={item?.sheets ?? null}
          kind={item?.probe?.kind ?? null}
          seconds={framesToSeconds(clip.sourceIn + clip.frames / 2, reel.rate)}
          width={112}
          height={63}
        />
      )}
      <span className="block truncate text-xs" title={reel.name}>
        {reel.name}
      </span>
      <span className="absolute right-1 top-1 opacity-0 focus-within:opacity-100 group-hover:opacity-100">
        <IconButton label={`Take “${reel.name}” out of the group`} className="!h-6 !w-6 bg-black/70" onClick={onRemove}>
          <X size={12} />
        </IconButton>
      </span>
    </span>
  );
}
