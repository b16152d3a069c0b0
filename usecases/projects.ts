import { listMedia } from '#data/media';
import { listTables } from '#data/looks';
import { createProject, listProjects, type Project } from '#data/projects';
import { parseParameters } from '#data/readings';
import { herePath } from '#data/storage';
import { subjectOf } from '#data/tasks';
import { NameDto } from './forms/dto';
import { isThere } from './here';
import { openProject } from './openProject';
import { done, type Result, type ValueOf } from './result';
import { listTaskLines } from './tasks';
import { check } from './validate';

export const showHome = async () => ({ projects: await listProjects() });

/** @param given `{ name }` */
export async function startProject(given: unknown): Promise<Result<Project>> {
  const checked = check(NameDto, given);
  return checked.ok ? done(await createProject(checked.value.name)) : checked;
}

/** What all places of a project share: its footage, and the work that runs for it. */
export async function showProject(projectId: string) {
  const opened = await openProject(projectId);
  if (!opened.ok) return opened;
  const project = opened.value;
  const [items, tasks, tables] = await Promise.all([
    listMedia(project.id),
    listTaskLines(project),
    listTables(project.id),
  ]);
  const lookOf = (parameters: string) => {
    const { inputLook } = parseParameters(parameters);
    return inputLook && (tables.find(({ hash }) => hash === inputLook)?.name ?? 'a table that is not here any more');
  };
  const places = await Promise.all(
    items.map(async ({ storageKey, size }) => {
      const path = herePath(storageKey);
      return path === null ? null : { path, isMissing: !(await isThere({ storageKey, size })) };
    }),
  );
  const active = tasks.filter(({ kind, state }) => kind === 'read' && (state === 'queued' || state === 'running'));
  const reading = new Map(active.map((task) => [task.subject, task]));
  return done({
    project: { id: project.id, name: project.name },
    items: items.map(({ storageKey: _, ...item }, index) => {
      const { hash, parameters, nextParameters } = item;
      const next = nextParameters === null ? undefined : reading.get(subjectOf({ hash, parameters: nextParameters }));
      const shown = next ?? reading.get(subjectOf({ hash, parameters }));
      return {
        ...item,
        here: places[index] ?? null,
        /** Name of the colour table that it is seen through; null for as filmed. */
        inputLook: lookOf(parameters),
        /** The hash of the one that it has, or will have once it is read so. */
        wantedLook: parseParameters(nextParameters ?? parameters).inputLook,
        state: shown?.state ?? null,
        waits: shown?.waits ?? null,
        nextTask: next?.id ?? null,
      };
    }),
    tasks,
  });
}
export type ProjectData = ValueOf<typeof showProject>;
export type Item = ProjectData['items'][number];

/** The place that a project opens on: its moments once something was read, else where footage comes in. */
export async function firstPlace(projectId: string): Promise<'moments' | 'footage'> {
  const items = await listMedia(projectId).catch(() => []);
  return items.some((item) => item.probe?.kind === 'video') ? 'moments' : 'footage';
}
