import { and, eq } from 'drizzle-orm';
import type { VoiceTurn } from '#core/voices';
import { database } from './db';
import { media, speakers } from './schema';

/** Who speaks when in an item, and what the voices are called. */
export type SpeakersRow = Pick<typeof speakers.$inferSelect, 'turns' | 'names' | 'version'>;

export const findSpeakers = async (mediaId: string): Promise<SpeakersRow | null> =>
  (
    await database()
      .select({ turns: speakers.turns, names: speakers.names, version: speakers.version })
      .from(speakers)
      .where(eq(speakers.mediaId, mediaId))
  )[0] ?? null;

/** Who speaks in every file of a project, in the order in which the files came. */
export const listSpeakers = (
  projectId: string,
): Promise<{ media: string; turns: VoiceTurn[]; names: Record<string, string> }[]> =>
  database()
    .select({ media: speakers.mediaId, turns: speakers.turns, names: speakers.names })
    .from(speakers)
    .innerJoin(media, eq(media.id, speakers.mediaId))
    .where(eq(media.projectId, projectId))
    .orderBy(media.createdAt, media.id);

/** @returns false when somebody else changed them since `version`; 0 where there were none */
export async function saveSpeakers(
  mediaId: string,
  row: { turns: VoiceTurn[]; names: Record<string, string> },
  version: number,
): Promise<boolean> {
  const saved =
    version === 0
      ? await database()
          .insert(speakers)
          .values({ mediaId, ...row })
          .onConflictDoNothing()
          .returning({ version: speakers.version })
      : await database()
          .update(speakers)
          .set({ ...row, version: version + 1, updatedAt: new Date() })
          .where(and(eq(speakers.mediaId, mediaId), eq(speakers.version, version)))
          .returning({ version: speakers.version });
  return saved.length > 0;
}
