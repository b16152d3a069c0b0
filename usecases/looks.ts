import { FormatError, readCube } from '#core/formats';
import { addTable, listTables, loadTables, removeTable } from '#data/looks';
import { isId } from '#data/projects';
import { openProject } from './openProject';
import { lookedThrough } from './inputLooks';
import { done, missing, nothingMore, refused, type Result, type ValueOf } from './result';

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
  given: { remove: unknown; file: { name: string; text: string } | null },
): Promise<Result<TablesAnswer>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  if (isId(given.remove)) {
    const removed = await remove(projectId, given.remove);
    if (!removed.ok) return removed;
  }
  const added = given.file ? await addFile(projectId, given.file) : done(null);
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

async function addFile(projectId: string, { name, text }: { name: string; text: string }): Promise<Result<string>> {
  try {
    return done(await addTable(projectId, name.replace(/\.cube$/i, ''), readCube(text)));
  } catch (error) {
    if (error instanceof FormatError) return refused(`“${name}” was not taken: ${error.message}`, 'file');
    throw error;
  }
}
