import { counted } from '#core/sentences';
import { Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { formatClock } from '#core/time';
import type { VariantGroup } from '#core/variants';
import type { Item } from '#usecases/projects';
import type { VariantsData } from '#usecases/variants';
import { inputLook } from '../ui/controls';
import type { NewPart, Variants } from './useVariants';

interface Offer {
  key: string;
  name: string;
  /** What it is, at the right. */
  about: string;
  parts: NewPart[];
}

const bare = (name: string) => name.replace(/\.\w+$/, '');
const whole = (item: Item): NewPart => ({
  kind: 'footage',
  media: item.id,
  name: bare(item.name),
  start: null,
  end: null,
});

/** Everything that may take its turn, by what it is. */
function offers(
  { reels, bins, kept, markers, pieceSeconds }: VariantsData,
  items: readonly Item[],
): [string, Offer[]][] {
  const films = items.filter(({ probe }) => probe && probe.kind !== 'sound');
  const itemOf = (media: string) => films.find(({ id }) => id === media);
  const lengthOf = ({ probe }: Item) => (probe!.kind === 'photo' ? 'photo' : formatClock(probe!.durationSeconds));
  return [
    [
      'Reels',
      reels.map(({ id, name, seconds }) => ({
        key: id,
        name,
        about: formatClock(seconds),
        parts: [{ kind: 'reel', reel: id }],
      })),
    ],
    [
      'Bins',
      bins.flatMap(({ id, name }): Offer[] => {
        const own = films.filter(({ binId }) => binId === id);
        if (own.length === 0) return [];
        const files = counted(own.length, 'file');
        return [
          { key: `${id}each`, name, about: `${files}, each a piece`, parts: own.map(whole) },
          { key: id, name, about: `${files} in one piece`, parts: [{ kind: 'bin', bin: id }] },
        ];
      }),
    ],
    [
      'Kept stretches',
      kept.flatMap(({ id, media, start, end }): Offer[] => {
        const item = itemOf(media);
        if (!item) return [];
        const name = `${bare(item.name)} at ${formatClock(start)}`;
        return [
          {
            key: id,
            name,
            about: formatClock(end - start, true),
            parts: [{ kind: 'footage', media, name, start, end }],
          },
        ];
      }),
    ],
    [
      'Markers',
      markers.flatMap(({ id, media, seconds, note }): Offer[] => {
        const item = itemOf(media);
        if (!item || item.probe!.kind === 'photo') return [];
        const name = note.trim().slice(0, 200) || `${bare(item.name)} at ${formatClock(seconds)}`;
        const end = Math.min(item.probe!.durationSeconds, seconds + pieceSeconds);
        return [
          {
            key: id,
            name,
            about: `${formatClock(end - seconds, true)} from ${formatClock(seconds)}`,
            parts: [{ kind: 'footage', media, name, start: seconds, end }],
          },
        ];
      }),
    ],
    ['Files', films.map((item) => ({ key: item.id, name: item.name, about: lengthOf(item), parts: [whole(item)] }))],
  ];
}

/** Adds reels, bins, stretches, markers or files to a group; it stays open, so that several can be taken. */
export function AddPart({ variants, group }: { variants: Variants; group: VariantGroup }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        className="flex h-8 items-center gap-1.5 border-t border-line px-2.5 text-muted hover:text-text"
        aria-label={`Add to ${group.name}`}
      >
        <Plus size={14} aria-hidden /> Add…
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label={`What can be added to ${group.name}`}
          className="z-50 flex max-h-96 w-96 flex-col rounded-md border border-line bg-raised text-sm shadow-xl"
        >
          <OfferList variants={variants} group={group} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** No more than these of a kind are listed; the field finds the rest. */
const mostShown = 60;

function OfferList({ variants, group }: { variants: Variants; group: VariantGroup }) {
  const [sought, setSought] = useState('');
  const [added, setAdded] = useState<string | null>(null);
  const fits = ({ name }: Offer) => name.toLocaleLowerCase().includes(sought.trim().toLocaleLowerCase());
  const sections = offers(variants.data, variants.items).flatMap(([title, list]): [string, Offer[]][] => {
    const found = list.filter(fits);
    return found.length > 0 ? [[title, found]] : [];
  });
  return (
    <>
      <input
        aria-label="Find"
        placeholder="Find by name"
        className={`${inputLook} m-2 shrink-0`}
        value={sought}
        onChange={(event) => setSought(event.target.value)}
      />
      <div className="min-h-0 flex-1 overflow-y-auto px-1.5 pb-1.5">
        {sections.map(([title, list]) => (
          <section key={title} aria-label={title}>
            <h2 className="px-1.5 py-1 text-xs text-muted">{title}</h2>
            {list.slice(0, mostShown).map((offer) => (
              <button
                key={offer.key}
                type="button"
                className="flex w-full items-center gap-2 rounded px-1.5 py-1 text-left hover:bg-line"
                onClick={() => {
                  variants.add(group, offer.parts);
                  setAdded(offer.name);
                }}
              >
                <span className="min-w-0 flex-1 truncate">{offer.name}</span>
                <span className="tabular shrink-0 text-xs text-muted">{offer.about}</span>
              </button>
            ))}
            {list.length > mostShown && (
              <p className="px-1.5 py-1 text-xs text-muted">{list.length - mostShown} more; find them by name.</p>
            )}
          </section>
        ))}
        {sections.length === 0 && (
          <p className="px-1.5 py-1 text-muted">
            {sought.trim() ? 'Nothing has that name.' : 'There is no footage and no reel yet.'}
          </p>
        )}
      </div>
      <p className="border-t border-line px-3 py-1.5 text-xs text-muted" role="status">
        {added ? `“${added}” is in ${group.name}.` : 'Press as many as you want.'}
      </p>
    </>
  );
}
