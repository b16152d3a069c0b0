import { Clapperboard, Layers } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useFetcher, useOutletContext } from 'react-router';
import type { ProjectData } from '#usecases/projects';
import { createReels, showReels } from '#usecases/reels';
import { afterSaving } from '../history/saveQueue';
import { ImportReel } from '../reel/ImportReel';
import { ReelCard } from '../reel/ReelCard';
import { failed, jsonOf, modelOf, succeeded } from '../server/answer.server';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import type { Route } from './+types/reels';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showReels(params.projectId));

/** Makes reels of the pieces given. */
export async function action({ params, request }: Route.ActionArgs) {
  const made = await createReels(params.projectId, await jsonOf(request));
  if (!made.ok) return failed(made, { reels: [] as { id: string; name: string }[] });
  const { reels, open } = made.value;
  return succeeded({ reels, goTo: open ? `/projects/${params.projectId}/reels/${reels[0]!.id}` : null });
}

export default function Reels({ loaderData, params }: Route.ComponentProps) {
  const { items, comments } = useOutletContext<ProjectData>();
  const empty = loaderData.reels.length === 0;
  const itemOf = useMemo(() => new Map(items.map((item) => [item.id, item])), [items]);
  const copier = useFetcher<GoingAnswer>();
  useGoTo(copier);
  // The import stands in one place, empty or not: the first reel that comes in must not take it off the screen before it went there.
  return (
    <main
      className={
        empty ? 'flex flex-1 flex-col items-center justify-center gap-2 text-center' : 'flex-1 overflow-y-auto p-4'
      }
    >
      {empty && (
        <>
          <Clapperboard size={28} className="text-muted" aria-hidden />
          <h1 className="text-base font-semibold">No reels yet</h1>
          <p className="max-w-sm text-muted">
            Choose what counts and how long it should be on the Moments screen, then press “Make reel”.
          </p>
          <Link to="../moments" relative="path" className="mb-4 mt-2 text-lampline underline">
            To the moments
          </Link>
        </>
      )}
      <div className={empty ? 'flex flex-col items-center gap-3' : 'mb-3 flex items-start gap-6'}>
        {!empty && <h1 className="pt-1 text-sm font-semibold">Reels</h1>}
        <ImportReel projectId={params.projectId} items={items} />
        <span className="flex gap-3">
          <Link
            to="../variants"
            relative="path"
            className="inline-flex h-[30px] items-center gap-2 rounded-md border border-line px-3 hover:bg-line/60"
          >
            <Layers size={15} aria-hidden /> Variants
          </Link>
        </span>
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-4">
        {loaderData.reels.map((reel) => (
          <ReelCard
            key={reel.id}
            reel={reel}
            itemOf={itemOf}
            comments={comments[reel.id]}
            // A copy is of what was seen last, also where that is not saved yet.
            onCopy={() =>
              void afterSaving(() => void copier.submit({ intent: 'duplicate' }, { method: 'post', action: reel.id }))
            }
            onDelete={() => void copier.submit({ intent: 'delete' }, { method: 'post', action: reel.id })}
          />
        ))}
      </ul>
    </main>
  );
}
