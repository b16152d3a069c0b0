import { renderReel } from '#usecases/renders';
import { failed, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/reelRender';

export async function action({ params, request }: Route.ActionArgs) {
  const { projectId, reelId } = params;
  const rendered = await renderReel(projectId, reelId, await jsonOf(request));
  return rendered.ok ? succeeded({ goTo: `/projects/${projectId}/outputs` }) : failed(rendered);
}
