import { data } from 'react-router';
import { removeDecision, saveDecision, savePick } from '#data/decisions';
import { findMedia } from '#data/media';
import { isId } from '#data/projects';
import { DecisionDto, PickDto } from '../forms/dto';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/decisions';

/** Keeps, drops and the mix, saved as they are made. Each change may arrive twice without harm. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const body = (await request.json().catch(() => null)) as { kind?: string; value?: unknown } | null;
  if (body?.kind === 'decision') {
    const checked = check(DecisionDto, body.value);
    if (!checked.ok) return data({ problems: checked.problems }, { status: 422 });
    const item = await findMedia(checked.value.media);
    if (!item || item.projectId !== project.id) return data({ problems: { media: 'This footage is not in the project any more.' } }, { status: 422 });
    await saveDecision(project.id, checked.value);
    return { saved: true };
  }
  if (body?.kind === 'undecide') {
    if (!isId(body.value as string)) return data({ problems: { value: 'No such decision.' } }, { status: 422 });
    await removeDecision(project.id, body.value as string);
    return { saved: true };
  }
  if (body?.kind === 'pick') {
    const checked = check(PickDto, body.value);
    if (!checked.ok) return data({ problems: checked.problems }, { status: 422 });
    await savePick(project.id, { ...checked.value, targetSeconds: checked.value.targetSeconds ?? null, water: checked.value.water ?? null });
    return { saved: true };
  }
  return data({ problems: { kind: 'Nothing to save.' } }, { status: 422 });
}
