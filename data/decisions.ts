import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Decision } from '#core/moments';
import { database } from './db';
import { present } from './media';
import { decisions } from './schema';

/** Decisions in force; `media` is the project's media id. */
export async function listDecisions(projectId: string): Promise<Decision[]> {
  const rows = await database()
    .select()
    .from(decisions)
    .where(and(eq(decisions.projectId, projectId), isNull(decisions.removedAt), present(decisions.mediaId)))
    .orderBy(asc(decisions.createdAt));
  return rows.map(({ id, mediaId, start, end, verdict }) => ({ id, media: mediaId, start, end, verdict }));
}

/** Ids come from the browser, so that saving twice after a lost answer does no harm. */
export async function saveDecision(projectId: string, decision: Decision): Promise<void> {
  const row = {
    mediaId: decision.media,
    start: decision.start,
    end: decision.end,
    verdict: decision.verdict,
    // The stretch may be another one now.
    means: null,
    removedAt: null,
  };
  await database()
    .insert(decisions)
    .values({ id: decision.id, projectId, ...row })
    .onConflictDoUpdate({ target: decisions.id, set: row, setWhere: eq(decisions.projectId, projectId) });
}

export const removeDecision = (projectId: string, id: string) =>
  database()
    .update(decisions)
    .set({ removedAt: new Date() })
    .where(and(eq(decisions.projectId, projectId), eq(decisions.id, id)));
