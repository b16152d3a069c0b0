import { readerVersion } from '#core/readings';
import { findMedia, listMedia } from '#data/media';
import { listPeople } from '#data/people';
import { loadTranscript } from '#data/words';
import { requireProject } from '../server/project.server';
import type { Route } from './+types/spoken';

/** What a request in words must know of a project besides the readings: the words of every file, and who is where. */
export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const items = await listMedia(project.id, readerVersion);
  const words = await Promise.all(
    items
      .filter((item) => item.probe?.hasSound)
      .map(async (item) => {
        const row = await findMedia(item.id);
        return [item.id, row ? (await loadTranscript(row)).words : []] as const;
      }),
  );
  const people = (await listPeople(project.id)).filter((person) => !person.hidden);
  return {
    words: Object.fromEntries(words.filter(([, spoken]) => spoken.length > 0)),
    people: people.map(({ id, name, named, tracks }) => ({
      id,
      name,
      named,
      tracks: tracks.map(({ media, start, end }) => ({ media, start, end })),
    })),
  };
}

export type Spoken = Awaited<ReturnType<typeof loader>>;
