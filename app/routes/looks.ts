import { changeTables } from '#usecases/inThreads';
import { openTable, showTables } from '#usecases/looks';
import { failed, formOf, modelOf, plainAnswer, succeeded } from '../server/answer.server';
import type { Route } from './+types/looks';

/** Colour tables of a project; with `table` in the address that one as numbers. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const id = new URL(request.url).searchParams.get('table');
  if (id === null) return modelOf(await showTables(params.projectId));
  const table = await openTable(params.projectId, id);
  if (!table.ok) return plainAnswer(table);
  const { size, from, to, values } = table.value;
  return Response.json(
    { size, from, to, values: Array.from(values, (value) => Number(value.toFixed(5))) },
    { headers: { 'Cache-Control': 'private, max-age=86400' } },
  );
}

/** Brings a `.cube` file in, or takes a table away. */
export async function action({ params, request }: Route.ActionArgs) {
  const form = await formOf(request);
  const sent = form.get('file');
  const file = sent instanceof File ? { name: sent.name, text: await sent.text() } : null;
  const changed = await changeTables(params.projectId, { remove: form.get('remove'), file });
  return changed.ok ? succeeded(changed.value) : failed(changed);
}
