import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { binOfPath, isFootageFile } from '#core/formats';
import { contentHash } from '#data/contentHash';
import { listWatched, moveFile, pathsHere, setWatched } from '#data/here';
import { findFile, findMedia } from '#data/media';
import { binNamed, findBin } from '#data/projects';
import { hereKey, herePath, hereRoot, placeHere, storage } from '#data/storage';
import { queueTask } from '#data/tasks';
import { HereDto, ItemsDto, WatchDto } from './forms/dto';
import { openProject } from './openProject';
import { fetchSubject } from './queue';
import { done, missing, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

/** So many files are brought in by one press. */
const mostFiles = 5000;
const notThere = 'This folder is not there any more.';

/** Footage of this machine: folders and files of a folder below the one that is allowed. @param path '' for that itself */
export async function showHere(projectId: string, path: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  if (!(await hereRoot())) return missing('No folder of this machine is set: see BRIGHT_REEL_FOOTAGE.');
  const place = await placeHere(path);
  const entries = place && (await readdir(place, { withFileTypes: true }).catch(() => null));
  if (!entries) return missing(notThere);
  const [known, watched] = await Promise.all([pathsHere(projectId), listWatched(projectId)]);
  const below = (name: string) => (path ? `${path}/${name}` : name);
  const byName = (a: { name: string }, b: { name: string }) =>
    a.name.localeCompare(b.name, undefined, { numeric: true });
  const files = await Promise.all(
    entries
      .filter((entry) => entry.isFile() && isFootageFile(entry.name))
      .map(async ({ name }) => ({
        name,
        path: below(name),
        size: await stat(join(place, name)).then(
          (stats) => stats.size,
          () => 0,
        ),
        isIn: known.has(below(name)),
      })),
  );
  return done({
    path,
    folders: entries
      .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.'))
      .map(({ name }) => ({
        name,
        path: below(name),
        isWatched: watched.some((each) => each.path === below(name)),
      }))
      .sort(byName),
    files: files.sort(byName),
    isWatched: watched.some((each) => each.path === path),
  });
}
export type HereData = ValueOf<typeof showHere>;

/** Brings files and folders of this machine into a project, where they lie; folders become bins. */
export async function takeFromHere(projectId: string, given: unknown): Promise<Result<{ left?: string[] }>> {
  const checked = check(HereDto, given);
  if (!checked.ok) return checked;
  const { paths, binId } = checked.value;
  const bin = binId && (await findBin(projectId, binId)) ? binId : null;
  const watched = await listWatched(projectId);
  const left: string[] = [];
  let count = 0;
  for (const path of paths) {
    const place = await placeHere(path);
    if (!place) {
      left.push(`“${path}” is not there any more.`);
      continue;
    }
    const isFolder = (await stat(place)).isDirectory();
    for (const file of isFolder ? await filesBelow(path) : [path]) {
      if (++count > mostFiles) {
        left.push(`Only the first ${mostFiles} files were taken; choose the others in a second step.`);
        return done({ left });
      }
      await enqueueHere(projectId, file, isFolder ? aboveOf(path, watched) : null, bin);
    }
  }
  return done(left.length ? { left } : {});
}

/** Has new files of a folder come into a project by themselves, or no more. */
export async function watchFolder(projectId: string, given: unknown): Promise<Result<Record<string, never>>> {
  const checked = check(WatchDto, given);
  if (!checked.ok) return checked;
  const { path, on } = checked.value;
  if (on === 'yes' && !(await placeHere(path))) return refused(notThere, 'path');
  await setWatched(projectId, path, on === 'yes');
  return done({});
}

/** Looks for files that are missing below the allowed folder, by their content. */
export async function findAgain(projectId: string, given: unknown): Promise<Result<{ left?: string[] }>> {
  const checked = check(ItemsDto, given);
  if (!checked.ok) return checked;
  const wanted = new Map<string, { size: number; name: string }>();
  for (const id of checked.value.ids) {
    const item = await findMedia(id);
    const file = item?.projectId === projectId ? await findFile(item.fileHash) : null;
    if (file && herePath(file.storageKey) !== null && !(await isThere(file)))
      wanted.set(file.hash, { size: file.size, name: item!.name });
  }
  const sizes = new Set([...wanted.values()].map(({ size }) => size));
  for (const path of wanted.size > 0 ? await filesBelow('') : []) {
    const size = await storage().size(hereKey(path));
    if (size === null || !sizes.has(size)) continue;
    const hash = await contentHash(await storage().localPath(hereKey(path)));
    if (!wanted.delete(hash)) continue;
    await moveFile(hash, path);
    if (wanted.size === 0) break;
  }
  const left = [...wanted.values()].map(
    ({ name }) => `“${name}” lies nowhere below the folder of this machine. Put it back, or bring it in again.`,
  );
  return done(left.length ? { left } : {});
}

/** Whether a file lies where it should, with as many bytes as it had. */
export const isThere = async ({ storageKey, size }: { storageKey: string; size: number }): Promise<boolean> =>
  (await storage().size(storageKey)) === size;

const parentOf = (path: string): string => path.split('/').slice(0, -1).join('/');

/** The folder from which bins are named: the one above what was chosen, or above the outermost watched folder that holds it, so that a file has one bin whether it was chosen or came by itself. */
function aboveOf(path: string, watched: readonly { path: string }[]): string {
  const holding = watched
    .map((each) => each.path)
    .filter((each) => !each || path === each || path.startsWith(`${each}/`));
  return parentOf(holding.reduce((outer, each) => (each.length < outer.length ? each : outer), path));
}

/** Asks for a file of this machine to be brought in, once. @param from the folder above the one that was chosen, for the name of its bin */
async function enqueueHere(projectId: string, path: string, from: string | null, binId: string | null): Promise<void> {
  const name = from === null ? null : binOfPath(from ? path.slice(from.length + 1) : path);
  const bin = name ? (await binNamed(projectId, name)).id : binId;
  await queueTask({
    projectId,
    kind: 'fetch',
    subject: fetchSubject(projectId, bin, hereKey(path)),
    title: path.split('/').at(-1)!,
  });
}

/** Footage in a folder and all folders in it, without links to elsewhere. */
async function filesBelow(path: string): Promise<string[]> {
  const place = await placeHere(path);
  const entries = place ? await readdir(place, { withFileTypes: true }).catch(() => []) : [];
  const found: string[] = [];
  for (const entry of entries.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))) {
    const own = path ? `${path}/${entry.name}` : entry.name;
    if (entry.isDirectory() && !entry.name.startsWith('.')) found.push(...(await filesBelow(own)));
    else if (entry.isFile() && isFootageFile(entry.name)) found.push(own);
  }
  return found;
}

/**
 * What has come into watched folders since they were last looked at, or grown or changed there, is asked for; what a
 * project had before is not.
 * @param paths whether each was seen to change: some are written to at their beginning at last, and are no longer for it
 */
export async function takeNewOf(projectId: string, folder: string, paths: ReadonlyMap<string, boolean>): Promise<void> {
  const known = await pathsHere(projectId);
  const above = aboveOf(folder, await listWatched(projectId));
  for (const [path, isChanged] of paths) {
    if (!isFootageFile(path.split('/').at(-1)!)) continue;
    const size = known.get(path);
    if (size === undefined || isChanged || ((await storage().size(hereKey(path))) ?? 0) > size)
      await enqueueHere(projectId, path, above, null);
  }
}
