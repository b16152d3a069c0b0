import { changePerson, joinPeople, listPeople, NobodyError, splitPerson, type Person } from '#data/people';
import { PersonDto } from './forms/dto';
import { openProject } from './openProject';
import { conflict, done, nothingMore, type Result } from './result';
import { check } from './validate';

export type { Person };

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
  try {
    await apply(projectId, checked.value);
    return nothingMore;
  } catch (error) {
    if (error instanceof NobodyError) return conflict(error.message, null);
    throw error;
  }
}

async function apply(projectId: string, { intent, person, into, name, tracks = [], media, time }: PersonDto) {
  switch (intent) {
    case 'name':
      return changePerson(projectId, person, { name: name ?? '' });
    case 'hide':
    case 'show':
      return changePerson(projectId, person, { hidden: intent === 'hide' });
    case 'portrait':
      return media && time !== undefined ? changePerson(projectId, person, { portrait: { media, time } }) : undefined;
    case 'join':
      return into && into !== person ? joinPeople(projectId, person, into) : undefined;
    case 'split':
      return splitPerson(projectId, person, tracks);
  }
}
