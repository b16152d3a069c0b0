import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Reel } from '#core/reel';
import type { Item } from '#usecases/projects';
import { Button } from '../ui/controls';
import { useVariants } from './useVariants';
import { VariantGroup, type Group } from './VariantGroup';
import { VariantsColumn } from './VariantsColumn';

let next = 3;
const first: Group[] = [
  { key: 0, name: 'Openings', pieces: [] },
  { key: 1, name: 'Middles', pieces: [] },
  { key: 2, name: 'Endings', pieces: [] },
];

/** One piece from each group, every way: counted, named and checked before anything is made. */
export function VariantsScreen({ reels, items }: { reels: { id: string; document: Reel }[]; items: readonly Item[] }) {
  const [groups, setGroups] = useState(first);
  const combined = useVariants(groups, reels);
  const change = (key: number, values: Partial<Group>) =>
    setGroups((now) => now.map((group) => (group.key === key ? { ...group, ...values } : group)));
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
            <VariantGroup
              key={group.key}
              group={group}
              index={index}
              reels={reels}
              items={items}
              onChange={(values) => change(group.key, values)}
              onRemove={() => setGroups((now) => now.filter((each) => each.key !== group.key))}
            />
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
      <VariantsColumn combined={combined} />
    </main>
  );
}
