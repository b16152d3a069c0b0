import { data } from 'react-router';
import { FormatError } from '#core/formats';
import { readCube } from '#core/look';
import { addTable, listTables, loadTables, removeTable } from '#data/looks';
import { isId } from '#data/projects';
import { requireProject } from '../server/project.server';
import type { Route } from './+types/looks';

/** Colour tables of a project; with `table` in the address that one as numbers. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const id = new URL(request.url).searchParams.get('table');
  if (id === null) return { tables: await listTables(project.id), problem: null };
  const table = isId(id) ? (await loadTables(project.id, [id])).get(id) : undefined;
  if (!table) return new Response('This colour table is not in the project any more.', { status: 404 });
  return Response.json(
    {
      size: table.size,
      from: table.from,
      to: table.to,
      values: Array.from(table.values, (value) => Number(value.toFixed(5))),
    },
    { headers: { 'Cache-Control': 'private, max-age=86400' } },
  );
}

const largestFile = 40_000_000;

/** Brings a `.cube` file in, or takes a table away. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const form = await request.formData();
  const gone = form.get('remove');
  if (typeof gone === 'string' && isId(gone)) await removeTable(project.id, gone);
  const file = form.get('file');
  const answer = async (problem: string | null, added: string | null = null) =>
    data({ tables: await listTables(project.id), problem, added }, { status: problem ? 422 : 200 });
  if (!(file instanceof File)) return answer(null);
  if (file.size > largestFile) return answer(`“${file.name}” is too large for a colour table.`);
  try {
    const table = readCube(await file.text());
    return answer(null, await addTable(project.id, file.name.replace(/\.cube$/i, ''), table));
  } catch (error) {
    if (error instanceof FormatError) return answer(`“${file.name}” was not taken: ${error.message}`);
    throw error;
  }
}
