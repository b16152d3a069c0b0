import { and, asc, eq, isNull } from 'drizzle-orm';
import { faceTracks, groupPeople, showsWho, type FaceTrack, type LookedTrack } from '#core/picture';
import { runsOf } from '#core/readings';
import { database } from './db';
import { keyOf } from './media';
import { findReading, loadRuns } from './readings';
import { media, people } from './schema';

interface PersonTrack {
  /** "media/track", unique in the project. */
  key: string;
  media: string;
  start: number;
  end: number;
  size: FaceTrack['size'];
  smile: number;
}

export interface Person {
  /** Of the stored person, or "auto:KEY" for one the machine found. */
  id: string;
  name: string;
  /** Whether somebody gave the name. */
  named: boolean;
  hidden: boolean;
  seconds: number;
  portrait: { media: string; time: number; box: { x: number; y: number; width: number; height: number } } | null;
  tracks: PersonTrack[];
}

const storedPeople = (projectId: string) => database().select().from(people).where(eq(people.projectId, projectId));

interface ProjectTrack extends LookedTrack {
  track: FaceTrack;
}

/** Faces followed through all footage of a project, where they are large enough to tell who it is. */
async function projectTracks(projectId: string): Promise<ProjectTrack[]> {
  const items = await database()
    .select()
    .from(media)
    .where(and(eq(media.projectId, projectId), isNull(media.removedAt)))
    .orderBy(asc(media.position), asc(media.createdAt));
  const found: ProjectTrack[] = [];
  for (const item of items) {
    const reading = await findReading(keyOf(item));
    if (!reading) continue;
    const runs = await loadRuns(reading);
    const scenes = runsOf(runs, 'scene');
    const blurred = runsOf(runs, 'blurred');
    for (const track of faceTracks(
      reading.faces,
      scenes.map((scene) => scene.start),
      reading.probe.durationSeconds || 1,
    ))
      if (showsWho(track, blurred))
        found.push({
          key: `${item.id}/${track.id}`,
          media: item.id,
          start: track.start,
          end: track.end,
          descriptor: track.descriptor!,
          track,
        });
  }
  return found;
}

/** Everybody in the footage of a project, longest on screen first: as named by hand, else as the machine groups them. */
export async function listPeople(projectId: string): Promise<Person[]> {
  const [stored, tracks] = await Promise.all([storedPeople(projectId), projectTracks(projectId)]);
  let unnamed = 0;
  return groupPeople(
    tracks,
    stored.map(({ id, tracks: keys }) => ({ id, tracks: keys })),
  ).flatMap((group): Person[] => {
    // In the order of the footage.
    const own = tracks.filter((each) => group.tracks.includes(each.key));
    const known = stored.find((each) => each.id === group.id);
    if (own.length === 0) return [];
    const name = known?.name || `Person ${++unnamed}`;
    return [
      {
        id: known?.id ?? `auto:${group.tracks[0]!}`,
        name,
        named: Boolean(known?.name),
        hidden: known?.hidden ?? false,
        seconds: own.reduce((sum, each) => sum + each.end - each.start, 0),
        portrait: portraitOf(own, known?.portrait ?? null),
        tracks: own.map(({ key, media: file, start, end, track }) => ({
          key,
          media: file,
          start,
          end,
          size: track.size,
          smile: track.smile,
        })),
      },
    ];
  });
}

/** The chosen picture, else the largest sure face that does not touch the edge. */
function portraitOf(own: readonly ProjectTrack[], chosen: { media: string; time: number } | null): Person['portrait'] {
  let best: (NonNullable<Person['portrait']> & { worth: number }) | null = null;
  for (const { media: file, track } of own)
    for (const { time, box } of track.boxes) {
      const { x, y, width, height, score } = box;
      const inside = x > 0.01 && y > 0.01 && x + width < 0.99 && y + height < 0.99;
      const wanted = chosen && chosen.media === file && Math.abs(chosen.time - time) < 0.3 ? 1000 : 0;
      const worth = score * Math.min(0.35, height) * (inside ? 1 : 0.4) + wanted;
      if (!best || worth > best.worth) best = { media: file, time, box: { x, y, width, height }, worth };
    }
  return best && { media: best.media, time: best.time, box: best.box };
}

/** The stored row of a person; one that the machine found is stored now, with its tracks. */
async function stored(projectId: string, person: Person): Promise<string> {
  if (!person.id.startsWith('auto:')) return person.id;
  const [row] = await database()
    .insert(people)
    .values({ projectId, name: '', tracks: person.tracks.map((track) => track.key) })
    .returning();
  return row!.id;
}

const own = (projectId: string, id: string) => and(eq(people.projectId, projectId), eq(people.id, id));

/** A change that names a person who is not there any more. */
export class NobodyError extends Error {}

async function find(projectId: string, ...ids: string[]): Promise<Person[]> {
  const all = await listPeople(projectId);
  return ids.map((id) => {
    const person = all.find((each) => each.id === id);
    if (!person) throw new NobodyError('This person is not there any more; the list is shown anew.');
    return person;
  });
}

export async function changePerson(
  projectId: string,
  id: string,
  change: { name?: string; hidden?: boolean; portrait?: { media: string; time: number } },
): Promise<void> {
  const [person] = await find(projectId, id);
  await database()
    .update(people)
    .set(change)
    .where(own(projectId, await stored(projectId, person!)));
}

/** Makes two persons one; the second keeps its name unless only the first has one. */
export async function joinPeople(projectId: string, from: string, into: string): Promise<void> {
  const [gone, kept] = await find(projectId, from, into);
  const id = await stored(projectId, kept!);
  const keys = new Set([...kept!.tracks, ...gone!.tracks].map((track) => track.key));
  const name = kept!.named ? kept!.name : gone!.named ? gone!.name : '';
  await database()
    .update(people)
    .set({ tracks: [...keys], name })
    .where(own(projectId, id));
  if (!gone!.id.startsWith('auto:')) await database().delete(people).where(own(projectId, gone!.id));
}

/** Parts some appearances from a person; they become a person of their own. */
export async function splitPerson(projectId: string, id: string, keys: readonly string[]): Promise<void> {
  const [person] = await find(projectId, id);
  const parted = person!.tracks.filter((track) => keys.includes(track.key)).map((track) => track.key);
  if (parted.length === 0 || parted.length === person!.tracks.length) return;
  const rest = person!.tracks.map((track) => track.key).filter((key) => !parted.includes(key));
  await database()
    .update(people)
    .set({ tracks: rest })
    .where(own(projectId, await stored(projectId, person!)));
  await database().insert(people).values({ projectId, name: '', tracks: parted });
}
