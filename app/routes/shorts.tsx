import { redirect, useActionData, useOutletContext, useSearchParams } from 'react-router';
import type { ProjectData } from '#usecases/projects';
import { findShortsAsWished } from '#usecases/inThreads';
import { showShortSets } from '#usecases/shorts';
import { failed, formOf, modelOf } from '../server/answer.server';
import { ShortSets } from '../shorts/ShortSets';
import { WishForm } from '../shorts/WishForm';
import type { Route } from './+types/shorts';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showShortSets(params.projectId));

/** Looks for shorts in a recording and opens what was found. */
export async function action({ params, request }: Route.ActionArgs) {
  const found = await findShortsAsWished(params.projectId, await formOf(request));
  return found.ok ? redirect(`/projects/${params.projectId}/shorts/${found.value.id}`) : failed(found);
}

export default function Shorts({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const [search] = useSearchParams();
  const answer = useActionData<typeof action>();
  return (
    <main className="flex min-h-0 flex-1">
      <section className="w-[440px] shrink-0 overflow-y-auto border-r border-line p-5">
        <h1 className="mb-1 text-base font-semibold">Shorts out of a recording</h1>
        <p className="mb-4 text-muted">
          Pieces that stand on their own: each begins with a hook, holds one thought and ends where it ends.
        </p>
        <WishForm
          items={items}
          styles={loaderData.styles}
          problems={answer?.problems ?? {}}
          media={search.get('media')}
        />
      </section>
      <section className="flex-1 overflow-y-auto p-5">
        <ShortSets sets={loaderData.sets} items={items} projectId={params.projectId} />
      </section>
    </main>
  );
}
