import { sql } from 'drizzle-orm';
import { database } from './db';

/** Of one kind of task: how many stand how, how long the first of those that wait has waited, and what was done. */
export interface TaskCounts {
  kind: string;
  state: string;
  count: number;
  /** Seconds since the first of them was asked for. */
  oldestSeconds: number;
  /** Seconds that all of them took that have ended. */
  tookSeconds: number;
}

/** Tasks that are there, by kind and state. */
export async function countTasks(): Promise<TaskCounts[]> {
  const { rows } = await database().execute<{
    kind: string;
    state: string;
    count: string;
    oldest: string;
    took: string;
  }>(
    sql`select kind, state, count(*) as count, extract(epoch from now() - min(created_at)) as oldest, coalesce(sum(extract(epoch from ended_at - started_at)), 0) as took from tasks group by kind, state`,
  );
  return rows.map(({ kind, state, count, oldest, took }) => ({
    kind,
    state,
    count: Number(count),
    oldestSeconds: Number(oldest),
    tookSeconds: Number(took),
  }));
}
