import { and, eq } from 'drizzle-orm';
import { database } from './db';
import { people } from './schema';

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
