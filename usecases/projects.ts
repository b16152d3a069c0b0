import { tellNotice } from '#data/notices';
import { demoProject } from '../demo/project';
import { findMedia, listMedia } from '#data/media';
import { listTables } from '#data/looks';
import { copyProject } from '#data/archive';
import {
  changeProject,
  createProject,
  findProject,
  listPosters,
  listProjects,
  touchProject,
  type Project,
} from '#data/projects';
import { findReading, parseParameters } from '#data/readings';
import { openCommentsByReel } from '#data/viewings';
import { herePath } from '#data/storage';
import { listTasks, requestCancel, subjectOf } from '#data/tasks';
import { NewProjectDto, ProjectChangeDto } from './forms/dto';
import { isThere } from './here';
import { lendEarlierReading } from './background/earlierReadings';
import { openProject } from './openProject';
import { enqueueReading } from './queue';
import { done, missing, type Result, type ValueOf } from './result';
import { listTaskLines } from './tasks';
import { check } from './validate';

/** All projects, each with a picture of what is in it. */
export async function showHome() {
  const [projects, posters] = await Promise.all([listProjects(), listPosters()]);
  const poster = new Map(posters.map(({ projectId, ...own }) => [projectId, own]));
  return {
    projects: projects.map((project) => ({
      ...project,
      poster: poster.get(project.id) ?? null,
      isDemo: project.id === demoProject.id,
    })),
  };
}
export type HomeProject = Awaited<ReturnType<typeof showHome>>['projects'][number];

/** @param given `{ name, aim }`; with files instead of a name it says what somebody came to make, or nothing yet */
export async function startProject(given: unknown): Promise<Result<Project>> {
  const checked = check(NewProjectDto, given);
  if (!checked.ok) return checked;
  const { name, aim, withFiles } = checked.value;
  const beginning = withFiles ? { aim: aim ?? null, made: null, isFirstLook: false } : null;
  return done(await createProject(name, undefined, beginning));
}

/** Renames, copies, puts away, deletes a project, or brings it back. @returns the project, or the one that was made of it */
export async function changeProjects(given: unknown): Promise<Result<{ id: string }>> {
  const checked = check(ProjectChangeDto, given);
  if (!checked.ok) return checked;
  const { id, intent, name } = checked.value;
  const project = await findProject(id);
  if (!project) return missing('This project is not there any more.', 'id');
  switch (intent) {
    case 'rename':
      await changeProject(id, { name: name! });
      break;
    case 'copy':
      return done({ id: await copyProject(id, `${project.name.slice(0, 110)}, copy`) });
    case 'put-away':
      await changeProject(id, { putAwayAt: new Date() });
      break;
    case 'take-out':
      await changeProject(id, { putAwayAt: null });
      break;
    case 'delete':
      await cancelTasksOf(id);
      await changeProject(id, { removedAt: new Date() });
      break;
    case 'bring-back':
      await changeProject(id, { removedAt: null });
      for (const item of await listMedia(id)) if (!item.problem) await readAgain(id, item);
  }
  return done({ id });
}

/** What has not been read yet when a project was deleted, or by an earlier reader, is read once it is back. */
async function readAgain(projectId: string, item: { hash: string; parameters: string; name: string }): Promise<void> {
  if (await findReading(item)) return;
  await lendEarlierReading(item);
  await enqueueReading(projectId, item, item.name);
}

/** What is read or heard for a project that is deleted is of no use; what was sent away already goes on. */
async function cancelTasksOf(projectId: string): Promise<void> {
  for (const { id, state } of await listTasks(projectId))
    if (state === 'queued' || state === 'running') await requestCancel(projectId, id);
}

/** The project of an item; null for an item that is none. */
export const projectOfItem = async (id: string): Promise<string | null> => (await findMedia(id))?.projectId ?? null;

/** Notes that something in a project was changed, and tells every screen that shows it. @param by the window that did it */
export async function noteChanged(id: string, by: string | null): Promise<void> {
  await Promise.all([touchProject(id), tellNotice({ project: id, what: 'changed', ...(by ? { by } : {}) })]);
}

/** What all places of a project share: its footage, and the work that runs for it. */
export async function showProject(projectId: string) {
  const opened = await openProject(projectId);
  if (!opened.ok) return opened;
  const project = opened.value;
  const [items, tasks, tables, comments] = await Promise.all([
    listMedia(project.id),
    listTaskLines(project),
    listTables(project.id),
    openCommentsByReel(project.id),
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
    project: { id: project.id, name: project.name, beginning: project.beginning },
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
    /** Open comments of others, by reel. */
    comments: Object.fromEntries(comments),
  });
}
export type ProjectData = ValueOf<typeof showProject>;
export type Item = ProjectData['items'][number];

/** The place that a project opens on: what it was begun for; its moments once something was read, else where footage comes in. */
export async function firstPlace(projectId: string): Promise<Result<'moments' | 'footage' | 'begin'>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const { beginning } = project.value;
  if (beginning && !beginning.made) return done('begin');
  const items = await listMedia(projectId);
  return done(items.some((item) => item.probe?.kind === 'video') ? 'moments' : 'footage');
}
