import { desc, eq, isNotNull, sql } from 'drizzle-orm';
import { database } from './db';
import { speechModels } from './schema';

export type SpeechModelRow = typeof speechModels.$inferSelect;

/** The latest first. */
export const listSpeechModels = (): Promise<SpeechModelRow[]> =>
  database().select().from(speechModels).orderBy(desc(speechModels.createdAt), speechModels.name);

/** The one that words are heard with; null where none is. */
export const speechModelInUse = async (): Promise<SpeechModelRow | null> =>
  (
    await database()
      .select()
      .from(speechModels)
      .where(isNotNull(speechModels.usedSince))
      .orderBy(desc(speechModels.usedSince))
      .limit(1)
  )[0] ?? null;

/** Notes a model that has come, or come again; it is in use from now on. */
export const addSpeechModel = (row: Pick<SpeechModelRow, 'name' | 'storageKey' | 'bytes' | 'facts'>) => {
  const fresh = { ...row, usedSince: new Date(), pace: null, problem: null };
  return database().insert(speechModels).values(fresh).onConflictDoUpdate({ target: speechModels.name, set: fresh });
};

/** Has words heard with this model from now on; with none of them for null. @returns false when it is not there */
export const useSpeechModel = (name: string | null): Promise<boolean> =>
  database().transaction(async (tx) => {
    if (name === null) {
      await tx.update(speechModels).set({ usedSince: null });
      return true;
    }
    const used = await tx
      .update(speechModels)
      .set({ usedSince: sql`now()` })
      .where(eq(speechModels.name, name))
      .returning({ name: speechModels.name });
    return used.length > 0;
  });

/** What trying it, or using it, has shown. */
export const noteSpeechModel = (name: string, found: Partial<Pick<SpeechModelRow, 'pace' | 'problem'>>) =>
  database().update(speechModels).set(found).where(eq(speechModels.name, name));

export const forgetSpeechModel = (name: string) => database().delete(speechModels).where(eq(speechModels.name, name));
