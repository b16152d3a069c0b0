import { and, asc, eq, isNull, lt, sql } from 'drizzle-orm';
import { readerVersion, type ReadingRules } from '#core/readings';
import { database } from './db';
import { bins, projects, type Beginning, type StoredSheets } from './schema';

export type Project = typeof projects.$inferSelect;

/** All projects with what is in them, the one that was changed last first; those that are put away or deleted too. */
export async function listProjects() {
  const { rows } = await database().execute<{
    id: string;
    name: string;
    changedAt: string;
    isPutAway: boolean;
    isRemoved: boolean;
    items: number;
    films: number;
    photos: number;
    sounds: number;
    read: number;
    failed: number;
    seconds: number;
  }>(sql`
    select p.id, p.name, p.changed_at as "changedAt",
      p.put_away_at is not null as "isPutAway", p.removed_at is not null as "isRemoved",
      count(m.id)::int as items,
      (count(*) filter (where coalesce(r.probe, f.probe)->>'kind' = 'video'))::int as films,
      (count(*) filter (where coalesce(r.probe, f.probe)->>'kind' = 'photo'))::int as photos,
      (count(*) filter (where coalesce(r.probe, f.probe)->>'kind' = 'sound'))::int as sounds,
      (count(*) filter (where r.hash is not null))::int as read,
      (count(*) filter (where r.hash is null and m.problem is not null))::int as failed,
      coalesce(sum((coalesce(r.probe, f.probe)->>'durationSeconds')::float8) filter (where coalesce(r.probe, f.probe)->>'kind' = 'video'), 0) as seconds
    from projects p
    left join media m on m.project_id = p.id and m.removed_at is null
    left join files f on f.hash = m.file_hash
    left join readings r on r.hash = m.file_hash and r.parameters = m.parameters and r.version = ${readerVersion}
    group by p.id
    order by p.changed_at desc, p.created_at desc`);
  return rows.map((row) => ({ ...row, changedAt: new Date(row.changedAt).toISOString() }));
}

/** The first film or photo of each project that can be shown, with its thumbnails. */
export async function listPosters() {
  const { rows } = await database().execute<{
    projectId: string;
    media: string;
    kind: 'video' | 'photo';
    seconds: number;
    sheets: StoredSheets | null;
  }>(sql`
    select distinct on (m.project_id) m.project_id as "projectId", m.id as media, r.probe->>'kind' as kind,
      (r.probe->>'durationSeconds')::float8 as seconds, r.sheets
    from media m
    join readings r on r.hash = m.file_hash and r.version = ${readerVersion}
      and r.parameters in (m.parameters, m.parameters || '~coarse')
    where m.removed_at is null and (r.sheets is not null or r.probe->>'kind' = 'photo')
    order by m.project_id, r.sheets is null, (r.probe->>'durationSeconds')::float8 desc, m.id`);
  return rows;
}

/** What a project is called, whether it is put away, and whether it is deleted. */
export const changeProject = (
  id: string,
  values: Partial<Pick<Project, 'name' | 'putAwayAt' | 'removedAt' | 'beginning'>>,
) => database().update(projects).set(values).where(eq(projects.id, id));

/** Notes that something in it was changed; those of the same minute are one. */
export const touchProject = (id: string) =>
  database()
    .update(projects)
    .set({ changedAt: sql`now()` })
    .where(and(eq(projects.id, id), lt(projects.changedAt, sql`now() - interval '1 minute'`)));

/** Does something for a project that nobody else does at the same time, in whatever process. */
export const aloneIn = <T>(id: string, work: () => Promise<T>): Promise<T> =>
  database().transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${id}))`);
    return work();
  });

export async function createProject(name: string, id?: string, beginning: Beginning | null = null): Promise<Project> {
  const [project] = await database()
    .insert(projects)
    .values({ name, beginning, ...(id ? { id } : {}) })
    .onConflictDoNothing()
    .returning();
  return project ?? (await findProject(id!))!;
}

const uuidPattern = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
export const isId = (given: unknown): given is string => typeof given === 'string' && uuidPattern.test(given);

export async function findProject(id: string): Promise<Project | null> {
  if (!isId(id)) return null;
  return (await database().select().from(projects).where(eq(projects.id, id)))[0] ?? null;
}

export const saveTerms = (id: string, terms: string[]) =>
  database().update(projects).set({ terms }).where(eq(projects.id, id));

export const saveRules = (id: string, rules: ReadingRules | null) =>
  database().update(projects).set({ rules }).where(eq(projects.id, id));

export type Bin = typeof bins.$inferSelect;
export const listBins = (projectId: string) =>
  database()
    .select()
    .from(bins)
    .where(and(eq(bins.projectId, projectId), isNull(bins.removedAt)))
    .orderBy(asc(bins.position), asc(bins.name));

export async function createBin(projectId: string, name: string): Promise<Bin> {
  const [bin] = await database()
    .insert(bins)
    .values({ projectId, name, position: sql`(select count(*) from ${bins} where ${bins.projectId} = ${projectId})` })
    .returning();
  return bin!;
}

/** The bin of a project with a name; made when it is not there, once, whoever asks for it at the same time. */
export const binNamed = (projectId: string, name: string): Promise<Bin> =>
  database().transaction(async (tx) => {
    await tx.select({ id: projects.id }).from(projects).where(eq(projects.id, projectId)).for('update');
    const [known] = await tx
      .select()
      .from(bins)
      .where(and(eq(bins.projectId, projectId), eq(bins.name, name), isNull(bins.removedAt)))
      .limit(1);
    if (known) return known;
    const [bin] = await tx
      .insert(bins)
      .values({ projectId, name, position: sql`(select count(*) from ${bins} where ${bins.projectId} = ${projectId})` })
      .returning();
    return bin!;
  });

export const setBinSynced = (projectId: string, id: string, synced: boolean) =>
  database()
    .update(bins)
    .set({ synced })
    .where(and(eq(bins.projectId, projectId), eq(bins.id, id)));
/** Of films that are brought into a bin from now on; see `ReadingWay`. */
export const setBinInputLook = (projectId: string, id: string, inputLook: string | null) =>
  database()
    .update(bins)
    .set({ inputLook })
    .where(and(eq(bins.projectId, projectId), eq(bins.id, id)));
/** Another name, or deleted and brought back: what lies in it stays in the project, and is in it again. @returns whether there is one */
export const changeBin = async (
  projectId: string,
  id: string,
  values: Partial<Pick<Bin, 'name' | 'removedAt'>>,
): Promise<boolean> =>
  (
    await database()
      .update(bins)
      .set(values)
      .where(and(eq(bins.projectId, projectId), eq(bins.id, id)))
      .returning({ id: bins.id })
  ).length > 0;
export const findBin = async (projectId: string, id: string): Promise<Bin | null> =>
  (await listBins(projectId)).find((bin) => bin.id === id) ?? null;
