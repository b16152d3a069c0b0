import { formatClock } from '#core/time';
import { listMarkers } from '#data/log';
import { listMedia } from '#data/media';
import { reelNames } from '#data/reels';
import { listShortSets } from '#data/shorts';
import { openProject } from './openProject';
import { listPeople } from './people';
import { done, type ValueOf } from './result';

/** What of a project is found by its name, besides the files that every place knows: where each is, and what it is called. */
export async function showFindable(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const [reels, sets, people, markers, items] = await Promise.all([
    reelNames(projectId),
    listShortSets(projectId),
    listPeople(projectId),
    listMarkers(projectId),
    listMedia(projectId),
  ]);
  const nameOf = new Map(items.map(({ id, name }) => [id, name]));
  return done({
    reels: reels.map(({ id, name }) => ({ id, name })),
    shorts: sets.flatMap(({ id, document }) =>
      document.shorts
        .slice(0, document.wish.count)
        .map((short, index) => ({ id: `${id}-${index}`, set: id, name: short.title })),
    ),
    people: people.flatMap(({ id, name, hidden }) => (hidden ? [] : [{ id, name }])),
    markers: markers.map(({ id, media, seconds, note }) => ({
      id,
      media,
      seconds,
      name: note || `Marker at ${formatClock(seconds, true)}`,
      in: nameOf.get(media) ?? '',
    })),
  });
}
export type FindableData = ValueOf<typeof showFindable>;
