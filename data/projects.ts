import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';
import type { ReadingRules } from '#core/readings';
import { database } from './db';
import { bins, media, projects } from './schema';

export type Project = typeof projects.$inferSelect;

export const listProjects = () =>
  database()
    .select({
      id: projects.id,
      name: projects.name,
      createdAt: projects.createdAt,
      items: sql<number>`count(${media.id})::int`,
    })
    .from(projects)
    .leftJoin(media, and(eq(media.projectId, projects.id), isNull(media.removedAt)))
    .groupBy(projects.id)
    .orderBy(desc(projects.createdAt));

export async function createProject(name: string, id?: string): Promise<Project> {
  const [project] = await database()
    .insert(projects)
    .values({ name, ...(id ? { id } : {}) })
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

export const saveRules = (id: string, rules: ReadingRules | null) =>
  database().update(projects).set({ rules }).where(eq(projects.id, id));

export type Bin = typeof bins.$inferSelect;
export const listBins = (projectId: string) =>
  database().select().from(bins).where(eq(bins.projectId, projectId)).orderBy(asc(bins.position), asc(bins.name));

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
      .where(and(eq(bins.projectId, projectId), eq(bins.name, name)))
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
export const findBin = async (projectId: string, id: string): Promise<Bin | null> =>
  (await listBins(projectId)).find((bin) => bin.id === id) ?? null;
