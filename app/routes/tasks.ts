import { requestCancel } from '#data/tasks';
import { isId } from '#data/projects';
import { requireProject } from '../server/project.server';
import { taskLines } from '../server/taskLines.server';
import type { Route } from './+types/tasks';

/** The running work; the top bar asks for it once a second while something runs. */
export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  return taskLines(project);
}

export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const id = (await request.formData()).get('cancel');
  if (typeof id === 'string' && isId(id)) await requestCancel(project.id, id);
  return { ok: true };
}
