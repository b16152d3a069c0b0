import { changeTask, showTasks } from '#usecases/tasks';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/tasks';

/** The running work; the top bar asks for it once a second while something runs. */
export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showTasks(params.projectId, new URL(request.url).searchParams.get('at')));

export async function action({ params, request }: Route.ActionArgs) {
  const changed = await changeTask(params.projectId, Object.fromEntries(await formOf(request)));
  return changed.ok ? succeeded() : failed(changed);
}
