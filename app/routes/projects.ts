import { startProject } from '#usecases/projects';
import { failed, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/projects';

/** Begins a project; the files that it is begun with are on their way to it already. */
export async function action({ request }: Route.ActionArgs) {
  const project = await startProject(await jsonOf(request));
  return project.ok ? succeeded({ id: project.value.id }) : failed(project);
}
