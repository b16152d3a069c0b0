import { and, eq } from 'drizzle-orm';
import { database } from './db';
import { people, personNumbers } from './schema';

/** What was said of people by hand. */
export const saidPeople = (projectId: string) =>
  database().select().from(people).where(eq(people.projectId, projectId));

type Said = Partial<Pick<typeof people.$inferInsert, 'name' | 'hidden' | 'portrait' | 'tracks'>>;
const one = (projectId: string, id: string) => and(eq(people.projectId, projectId), eq(people.id, id));

/** @returns the id of the new row */
export async function addPerson(projectId: string, said: Said): Promise<string> {
  const [row] = await database()
    .insert(people)
    .values({ name: '', ...said, projectId })
    .returning({ id: people.id });
  return row!.id;
}

export const savePerson = (projectId: string, id: string, said: Said) =>
  database().update(people).set(said).where(one(projectId, id));

export const deletePerson = (projectId: string, id: string) => database().delete(people).where(one(projectId, id));

/** What people without a name are called by, by the key of a track of theirs. */
export async function numbersOfPeople(projectId: string): Promise<Map<string, number>> {
  const rows = await database().select().from(personNumbers).where(eq(personNumbers.projectId, projectId));
  return new Map(rows.map(({ track, number }) => [track, number]));
}

export async function keepNumbers(projectId: string, given: readonly { key: string; number: number }[]): Promise<void> {
  if (given.length === 0) return;
  const rows = given.map(({ key, number }) => ({ projectId, track: key, number }));
  await database().insert(personNumbers).values(rows).onConflictDoNothing();
}
