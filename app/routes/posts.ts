import { postAgain, postRender, showOutlets } from '#usecases/posts';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/posts';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showOutlets(params.projectId));

/** Hands a finished file to an outlet, or tries again what failed (`again`). */
export async function action({ params, request }: Route.ActionArgs) {
  const form = await formOf(request);
  const again = form.get('again');
  const posted = again === null ? await postRender(params.projectId, form) : await postAgain(params.projectId, again);
  return posted.ok ? succeeded() : failed(posted);
}
