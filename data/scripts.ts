import { and, eq } from 'drizzle-orm';
import { database } from './db';
import { scripts } from './schema';

/** A text without times, until its words have their times. */
export type Script = Omit<typeof scripts.$inferSelect, 'createdAt'>;

/** Keeps a text for a file; one that waited there gives way. */
export const keepScript = ({ mediaId, ...script }: Script) => {
  const row = { ...script, createdAt: new Date() };
  return database()
    .insert(scripts)
    .values({ mediaId, ...row })
    .onConflictDoUpdate({ target: scripts.mediaId, set: row });
};

export const findScript = async (mediaId: string): Promise<typeof scripts.$inferSelect | null> =>
  (await database().select().from(scripts).where(eq(scripts.mediaId, mediaId)))[0] ?? null;

/** Only this text; one that was brought in since stays. */
export const dropScript = ({ mediaId, createdAt }: Pick<typeof scripts.$inferSelect, 'mediaId' | 'createdAt'>) =>
  database()
    .delete(scripts)
    .where(and(eq(scripts.mediaId, mediaId), eq(scripts.createdAt, createdAt)));
