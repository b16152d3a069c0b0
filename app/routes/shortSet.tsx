import { data, redirect, useOutletContext } from 'react-router';
import { findMedia } from '#data/media';
import { openReel } from '#data/reels';
import { changeShortSet, deleteShortSet, findShortSet, listHouseStyles } from '#data/shorts';
import { loadTranscript } from '#data/words';
import { ShortsChangeDto } from '../forms/shortsDto';
import { requireProject } from '../server/project.server';
import { renderShorts } from '../server/renderReel.server';
import { ensureReels, inOrder, shownShorts, withThumb } from '../server/shorts.server';
import { check } from '../server/validate.server';
import { ShortsScreen } from '../shorts/ShortsScreen';
import type { Route } from './+types/shortSet';
import type { ProjectData } from './project';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const found = await findShortSet(project.id, params.setId);
  if (!found) throw data('These shorts are not there any more.', { status: 404 });
  const set = await ensureReels(found);
  const row = await findMedia(set.mediaId);
  const [styles, transcript] = await Promise.all([
    listHouseStyles(project.id),
    row ? loadTranscript(row) : { words: [] },
  ]);
  const shown = shownShorts(set.document);
  const reels = await Promise.all(shown.map(async (short) => (short.reelId ? openReel(short.reelId) : null)));
  const { wish, material, because, thumbs } = set.document;
  return {
    id: set.id,
    mediaId: set.mediaId,
    wish,
    material,
    because,
    thumbs,
    more: inOrder(set.document).length - shown.length,
    words: transcript.words,
    putAway: set.document.shorts.filter((short) => thumbs[short.id] === 'down').map(({ id, title }) => ({ id, title })),
    shorts: shown.flatMap((short, index) => (reels[index] ? [{ ...short, reel: reels[index] }] : [])),
    styles: styles.map(({ id, name, shared, projectId, document }) => ({
      id,
      name,
      shared,
      own: projectId === project.id,
      document,
    })),
  };
}
export type ShortSetData = Awaited<ReturnType<typeof loader>>;

/** Thumbs, order, rendering. Sent as JSON; forgetting the set also as a form. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const set = await findShortSet(project.id, params.setId);
  if (!set) return data({ problem: 'These shorts are not there any more.' }, { status: 404 });
  const form = request.headers.get('Content-Type')?.includes('json')
    ? ((await request.json().catch(() => null)) as unknown)
    : await request.formData();
  const checked = check(ShortsChangeDto, form);
  if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]! }, { status: 422 });
  const change = checked.value;
  switch (change.intent) {
    case 'delete':
      await deleteShortSet(project.id, set.id);
      return redirect(`/projects/${project.id}/shorts`);
    case 'thumb':
      await changeShortSet(set.id, (document) => withThumb(document, { id: change.id!, thumb: change.thumb ?? null }));
      break;
    case 'order':
      await changeShortSet(set.id, (document) => ({ ...document, order: change.order!.length ? change.order! : null }));
      break;
    case 'render':
      return renderShorts(project.id, change.reels!, {
        shape: change.shape ?? null,
        lines: change.lines ?? null,
        quality: change.quality ?? 'good',
        pattern: change.pattern ?? '{n} {title}',
      });
    case 'again':
  }
  return data({ problem: null });
}

export default function ShortSet({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  return <ShortsScreen key={loaderData.id} set={loaderData} items={items} projectId={params.projectId} />;
}
