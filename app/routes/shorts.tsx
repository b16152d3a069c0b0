import { data, redirect, useActionData, useOutletContext, useSearchParams } from 'react-router';
import { listHouseStyles, listShortSets } from '#data/shorts';
import { findMedia } from '#data/media';
import { ShortsWishDto } from '../forms/shortsDto';
import { requireProject } from '../server/project.server';
import { makeShorts } from '../server/shorts.server';
import { check } from '../server/validate.server';
import { ShortSets } from '../shorts/ShortSets';
import { WishForm } from '../shorts/WishForm';
import type { Route } from './+types/shorts';
import type { ProjectData } from './project';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const [sets, styles] = await Promise.all([listShortSets(project.id), listHouseStyles(project.id)]);
  return {
    sets: sets.map(({ id, mediaId, document, createdAt }) => ({
      id,
      mediaId,
      shorts: Math.min(document.wish.count, document.shorts.length),
      minSeconds: document.wish.minSeconds,
      maxSeconds: document.wish.maxSeconds,
      shape: document.wish.shape,
      titles: document.shorts.slice(0, 3).map((short) => short.title),
      at: createdAt.toISOString(),
    })),
    styles: styles.map(({ id, name }) => ({ id, name })),
  };
}

/** Looks for shorts in a recording and opens what was found. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const checked = check(ShortsWishDto, await request.formData());
  if (!checked.ok) return data({ problems: checked.problems }, { status: 422 });
  const { media, from, to, ...wish } = checked.value;
  const refuse = (field: string, problem: string) => data({ problems: { [field]: problem } }, { status: 422 });
  if (wish.maxSeconds < wish.minSeconds + 2)
    return refuse('maxSeconds', 'The longest is at least two seconds longer than the shortest.');
  if (from !== null && to !== null && to - from < wish.minSeconds)
    return refuse('to', 'This range is shorter than the shortest short.');
  const row = await findMedia(media);
  if (!row || row.projectId !== project.id) return refuse('media', 'This recording is not in the project any more.');
  const made = await makeShorts(row, {
    ...wish,
    ...(from !== null || to !== null ? { range: { start: from ?? 0, end: to ?? Number.MAX_SAFE_INTEGER } } : {}),
  });
  return 'problem' in made ? refuse('form', made.problem) : redirect(`/projects/${project.id}/shorts/${made.set.id}`);
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
