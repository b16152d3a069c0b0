import { FormatError, readCube } from '#core/formats';
import { addTable, listTables, loadTables, removeTable } from '#data/looks';
import { isId } from '#data/projects';
import { openProject } from './openProject';
import { lookedThrough } from './inputLooks';
import { done, missing, nothingMore, refused, type Result, type ValueOf } from './result';

/** Bytes; a table of 65 steps is a tenth of it. */
const largestFile = 40_000_000;

/** Colour tables of a project. */
export async function showTables(projectId: string) {
  const project = await openProject(projectId);
  return project.ok ? done({ tables: await listTables(projectId) }) : project;
}
type Tables = ValueOf<typeof showTables>['tables'];

/** One colour table as numbers. */
export async function openTable(projectId: string, tableId: string) {
  const table = isId(tableId) ? (await loadTables(projectId, [tableId])).get(tableId) : undefined;
  return table ? done(table) : missing('This colour table is not in the project any more.');
}

export interface TablesAnswer {
  tables: Tables;
  added: string | null;
}

/** Brings a `.cube` file in, or takes a table away. */
export async function changeTables(
  projectId: string,
  given: { remove: unknown; file: unknown },
): Promise<Result<TablesAnswer>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  if (isId(given.remove)) {
    const removed = await remove(projectId, given.remove);
    if (!removed.ok) return removed;
  }
  const added = given.file instanceof File ? await addFile(projectId, given.file) : done(null);
  return added.ok ? done({ tables: await listTables(projectId), added: added.value }) : added;
}

/** Footage that is seen through a table keeps it. */
async function remove(projectId: string, id: string): Promise<Result<null>> {
  const table = (await listTables(projectId)).find((each) => each.id === id);
  const user = table && (await lookedThrough(projectId, table.hash));
  if (user) return refused(`“${table.name}” is the input look of ${user}. Set another there first, or none.`, 'remove');
  await removeTable(projectId, id);
  return nothingMore;
}

async function addFile(projectId: string, file: File): Promise<Result<string>> {
  if (file.size > largestFile) return refused(`“${file.name}” is too large for a colour table.`, 'file');
  try {
    return done(await addTable(projectId, file.name.replace(/\.cube$/i, ''), readCube(await file.text())));
  } catch (error) {
    if (error instanceof FormatError) return refused(`“${file.name}” was not taken: ${error.message}`, 'file');
    throw error;
  }
}
