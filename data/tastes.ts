import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { Example, Ingredients } from '#core/moments';
import { database } from './db';
import { present } from './media';
import { decisions, picks, tastes } from './schema';

/** A taste, and in how many projects it learns. */
export interface TasteRow {
  id: string;
  name: string;
  /** Choices that were brought along from elsewhere. */
  brought: number;
  projects: number;
}

const isOf = (project: unknown) => sql`${picks.learning} ->> 'taste' = ${project}`;

export async function listTastes(): Promise<TasteRow[]> {
  const rows = await database()
    .select({
      id: tastes.id,
      name: tastes.name,
      brought: sql<number>`jsonb_array_length(${tastes.brought})`.mapWith(Number),
      projects: sql<number>`(select count(*) from ${picks} where ${isOf(sql`${tastes.id}::text`)})`.mapWith(Number),
    })
    .from(tastes)
    .where(isNull(tastes.removedAt))
    .orderBy(asc(tastes.createdAt));
  return rows;
}

export async function findTaste(id: string) {
  const [row] = await database()
    .select({ id: tastes.id, name: tastes.name, brought: tastes.brought })
    .from(tastes)
    .where(and(eq(tastes.id, id), isNull(tastes.removedAt)));
  return row ?? null;
}

/** @param brought choices that come along from elsewhere @returns its id */
export async function addTaste(name: string, brought: Example[] = []): Promise<string> {
  const [row] = await database().insert(tastes).values({ name, brought }).returning({ id: tastes.id });
  return row!.id;
}

export const renameTaste = (id: string, name: string) =>
  database().update(tastes).set({ name }).where(eq(tastes.id, id));

/** Nothing is deleted: choices stay with their projects, and it can be brought back. */
export const setTasteRemoved = (id: string, removed: boolean) =>
  database()
    .update(tastes)
    .set({ removedAt: removed ? new Date() : null })
    .where(eq(tastes.id, id));

/** Decisions of all projects that learn by a taste, without those that were forgotten there. */
export async function decisionsOfTaste(id: string) {
  return database()
    .select({
      id: decisions.id,
      projectId: decisions.projectId,
      media: decisions.mediaId,
      start: decisions.start,
      end: decisions.end,
      verdict: decisions.verdict,
      means: decisions.means,
    })
    .from(decisions)
    .innerJoin(picks, eq(picks.projectId, decisions.projectId))
    .where(
      and(
        isOf(id),
        isNull(decisions.removedAt),
        present(decisions.mediaId),
        sql`not ${picks.learning} -> 'forgotten' @> to_jsonb(${decisions.id}::text)`,
      ),
    )
    .orderBy(asc(decisions.createdAt));
}

/** Notes what a decided stretch is made of, so that its reading need not be opened again. */
export const keepMeans = (id: string, means: Ingredients) =>
  database().update(decisions).set({ means }).where(eq(decisions.id, id));
