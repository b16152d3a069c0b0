import { and, eq, inArray, lt, sql } from 'drizzle-orm';
import { database } from './db';
import { renders, renderStretches, tasks, workers } from './schema';
import { isThere } from './workers';

const ofRender = (renderId: string, names: readonly string[]) =>
  and(eq(renderStretches.renderId, renderId), inArray(renderStretches.name, [...names]));
const ofHolder = (renderId: string, name: string, holder: string) =>
  and(ofRender(renderId, [name]), eq(renderStretches.holder, holder));

/** Takes the first of the stretches that nobody has made and nobody was at for so many seconds; null when there is none. */
export async function takeStretch(
  renderId: string,
  names: readonly string[],
  holder: string,
  staleSeconds: number,
): Promise<string | null> {
  const gone = sql`render_stretches.heartbeat_at < now() - make_interval(secs => ${staleSeconds})`;
  for (;;) {
    const { rows } = await database().execute<{ name: string; taken: string | null }>(sql`
      with free as (
        select name from unnest(array[${sql.join([...names], sql`, `)}]::text[]) with ordinality as wanted(name, place)
        where not exists (select 1 from render_stretches where render_id = ${renderId} and render_stretches.name = wanted.name
          and (made or not (${gone})))
        order by place limit 1
      ), taken as (
        insert into render_stretches (render_id, name, holder) select ${renderId}, name, ${holder} from free
        on conflict (render_id, name) do update set holder = excluded.holder, heartbeat_at = now()
          where not render_stretches.made and ${gone}
        returning name
      )
      select free.name, taken.name as taken from free left join taken on true`);
    const [free] = rows;
    // Somebody else took the same one just now: the next is looked for.
    if (!free || free.taken !== null) return free?.taken ?? null;
  }
}

/** @returns whether it is still wanted, and one's own; not when nobody renders: whoever helped had better take that up */
export async function beatStretch(renderId: string, name: string, holder: string): Promise<boolean> {
  const wanted = sql`exists (select 1 from ${renders} join ${tasks} on ${tasks.id} = ${renders.taskId}
    where ${renders.id} = ${renderId} and ${tasks.state} = 'running' and not ${tasks.cancelRequested})`;
  const kept = await database()
    .update(renderStretches)
    .set({ heartbeatAt: sql`now()` })
    .where(and(ofHolder(renderId, name, holder), wanted))
    .returning({ name: renderStretches.name });
  return kept.length > 0;
}

export const letGoOfStretch = (renderId: string, name: string, holder: string) =>
  database()
    .delete(renderStretches)
    .where(and(ofHolder(renderId, name, holder), eq(renderStretches.made, false)));

/** Notes that stretches are made, whoever was at them. */
export async function noteMade(renderId: string, names: readonly string[], holder: string): Promise<void> {
  if (names.length === 0) return;
  await database()
    .insert(renderStretches)
    .values(names.map((name) => ({ renderId, name, holder, made: true })))
    .onConflictDoUpdate({
      target: [renderStretches.renderId, renderStretches.name],
      set: { made: true, heartbeatAt: sql`now()` },
    });
}

export async function madeStretches(renderId: string, names: readonly string[]): Promise<Set<string>> {
  const rows = await database()
    .select({ name: renderStretches.name })
    .from(renderStretches)
    .where(and(ofRender(renderId, names), eq(renderStretches.made, true)));
  return new Set(rows.map(({ name }) => name));
}

/** One that was said to be made and is not to be had is nobody's. */
export const forgetStretch = (renderId: string, name: string) =>
  database()
    .delete(renderStretches)
    .where(ofRender(renderId, [name]));

/** The film is joined, or given up. */
export const forgetStretches = (renderId: string) =>
  database().delete(renderStretches).where(eq(renderStretches.renderId, renderId));

/** What nobody went on with for so many days. */
export const forgetOldStretches = (days: number) =>
  database()
    .delete(renderStretches)
    .where(lt(renderStretches.heartbeatAt, sql`now() - make_interval(days => ${days})`));

/** Whether a render waits for a worker: then nobody helps with another. */
export const rendersWait = async (): Promise<boolean> =>
  (
    await database()
      .select({ id: tasks.id })
      .from(tasks)
      .where(and(eq(tasks.state, 'queued'), eq(tasks.kind, 'render')))
      .limit(1)
  ).length > 0;

/** The task that helps with a render, in the queue. */
export const helpJob = 'helpRender';
/** Behind everything else. */
const helpPriority = 32_700;

/**
 * Asks workers that have nothing else to render to help: a job for each that is there, as many as there are stretches for.
 * Who was asked already is not asked twice.
 * @param own the run that renders
 * @returns how many others there are
 */
export async function askForHelp(renderId: string, stretches: number, own: string): Promise<number> {
  const others = await database()
    .select({ id: workers.id })
    .from(workers)
    .where(
      and(
        isThere,
        eq(workers.draining, false),
        sql`not ${workers.runs} @> ${JSON.stringify([own])}::jsonb`,
        sql`coalesce((${workers.slots} ->> 'rendering')::int, 0) > 0`,
      ),
    )
    .orderBy(workers.startedAt);
  for (const { id } of others.slice(0, stretches))
    await database()
      .execute(sql`select graphile_worker.add_job(${helpJob}::text, json_build_object('renderId', ${renderId}::text),
        job_key := ${`help ${renderId} ${id}`}::text, job_key_mode := 'unsafe_dedupe', max_attempts := 3, priority := ${helpPriority}::int)`);
  return others.length;
}
