import { data } from 'react-router';
import type { Montage } from '#core/montage';
import { findMedia } from '#data/media';
import { loadMontage, saveMontage } from '#data/montages';
import { MakeReelDto, SaveMontageDto } from '../forms/montageDto';
import { followMontage, makeMontageReel, putMontage } from '../server/montage.server';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/montageSave';

/**
 * A montage on the version that the sender knows, `{value, version}`; the reel that was made of it follows as one step
 * of its own history. 409 with what stands there when another window was quicker. With `makeReel` a reel is made of
 * what is saved, or it is put into the reel `into`, and the answer names it.
 */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const item = await findMedia(params.mediaId);
  if (!item || item.projectId !== project.id)
    return data({ problems: { media: 'This music is not in the project any more.' } }, { status: 404 });
  const music = { media: item.id, name: item.name };
  const body = (await request.json().catch(() => null)) as {
    makeReel?: unknown;
    into?: unknown;
    how?: unknown;
    at?: unknown;
    value?: unknown;
    version?: unknown;
  } | null;
  if (body?.makeReel === true) {
    const stored = await loadMontage(project.id, item.id);
    if (!stored || !stored.document.slots.some((slot) => slot.piece))
      return data({ problems: { slots: 'There is nothing in the slots yet. Fill them first.' } }, { status: 422 });
    const wanted = check(MakeReelDto, { into: body.into, how: body.how, at: body.at });
    if (!wanted.ok) return data({ problems: wanted.problems }, { status: 422 });
    const { into, how = 'insert', at = 'end' } = wanted.value;
    if (into === undefined) return { reel: await makeMontageReel(project.id, stored, music) };
    const problem = await putMontage(project.id, stored, music, into, how, at);
    return problem ? data({ problems: { into: problem } }, { status: 422 }) : { reel: into };
  }
  const checked = check(SaveMontageDto, { document: body?.value, version: body?.version });
  if (!checked.ok) return data({ problems: checked.problems }, { status: 422 });
  const saved = await saveMontage(
    project.id,
    item.id,
    checked.value.version,
    JSON.parse(JSON.stringify(checked.value.document)) as Montage,
  );
  if (!saved) {
    const now = await loadMontage(project.id, item.id);
    return data({ value: now?.document ?? null, version: now?.version ?? 0 }, { status: 409 });
  }
  return { saved: true, version: saved.version, note: await followMontage(project.id, saved, music) };
}
