import { personsOf, type Person, type SeenTrack } from '#core/picture';
import { seenTracks } from '#core/readings';
import { keyOf, listRows } from '#data/media';
import { addPerson, deletePerson, keepNumbers, numbersOfPeople, saidPeople, savePerson } from '#data/people';
import { findReading, loadRuns } from '#data/readings';
import { PersonDto } from './forms/dto';
import { openProject } from './openProject';
import { conflict, done, nothingMore, type Result } from './result';
import { check } from './validate';

export type { Person };

/** Faces followed through all footage of a project, where they are large enough to tell who it is. */
async function seenIn(projectId: string): Promise<SeenTrack[]> {
  const found: SeenTrack[] = [];
  for (const item of await listRows(projectId)) {
    const reading = await findReading(keyOf(item));
    if (!reading) continue;
    const runs = await loadRuns(reading);
    found.push(...seenTracks(item.id, reading.faces, runs, reading.probe.durationSeconds || 1));
  }
  return found;
}

/** Everybody in the footage of a project, longest on screen first. */
export async function listPeople(projectId: string): Promise<Person[]> {
  const [said, seen, numbers] = await Promise.all([
    saidPeople(projectId),
    seenIn(projectId),
    numbersOfPeople(projectId),
  ]);
  const persons = personsOf(seen, said, numbers);
  await keepNumbers(
    projectId,
    persons.flatMap(({ number }) => (number && !numbers.has(number.key) ? [number] : [])),
  );
  return persons;
}

export async function showPeople(projectId: string) {
  const project = await openProject(projectId);
  return project.ok ? done({ people: await listPeople(projectId) }) : project;
}

/** Names, hides, shows, joins or parts people, or chooses a portrait. */
export async function setPerson(projectId: string, given: unknown): Promise<Result<null>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(PersonDto, given);
  if (!checked.ok) return checked;
  const { intent, person: id, into, name, tracks = [], media, time } = checked.value;
  const all = await listPeople(projectId);
  const person = all.find((each) => each.id === id);
  const other = intent === 'join' ? all.find((each) => each.id === into) : person;
  if (!person || !other) return conflict('This person is not there any more; the list is shown anew.', null);
  switch (intent) {
    case 'name':
      await say(projectId, person, { name: name ?? '' });
      break;
    case 'hide':
    case 'show':
      await say(projectId, person, { hidden: intent === 'hide' });
      break;
    case 'portrait':
      if (media && time !== undefined) await say(projectId, person, { portrait: { media, time } });
      break;
    case 'join':
      if (other !== person) await join(projectId, person, other);
      break;
    case 'split':
      await split(projectId, person, new Set(tracks));
      break;
  }
  return nothingMore;
}

const isSaid = (person: Person) => !person.id.startsWith('auto:');
const keysOf = (person: Person) => person.tracks.map((track) => track.key);

/** Keeps what was said of a person; with one whom the machine found, who belongs to it is kept as well. */
async function say(projectId: string, person: Person, said: Parameters<typeof savePerson>[2]): Promise<void> {
  if (isSaid(person)) await savePerson(projectId, person.id, said);
  else await addPerson(projectId, { tracks: keysOf(person), ...said });
}

/** Makes two persons one; the second keeps its name unless only the first has one. */
async function join(projectId: string, gone: Person, kept: Person): Promise<void> {
  const named = [kept, gone].find((person) => person.named);
  await say(projectId, kept, { tracks: [...new Set([...keysOf(kept), ...keysOf(gone)])], name: named?.name ?? '' });
  if (isSaid(gone)) await deletePerson(projectId, gone.id);
}

/** Parts some appearances from a person, but not all of them; they become a person of their own. */
async function split(projectId: string, person: Person, keys: ReadonlySet<string>): Promise<void> {
  const parted = keysOf(person).filter((key) => keys.has(key));
  const rest = keysOf(person).filter((key) => !keys.has(key));
  if (parted.length === 0 || rest.length === 0) return;
  await say(projectId, person, { tracks: rest });
  await addPerson(projectId, { tracks: parted });
}
