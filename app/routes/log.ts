import { data } from 'react-router';
import { saveNote, type NoteChange } from '#usecases/moments';
import { failed, jsonOf } from '../server/answer.server';
import type { Route } from './+types/log';

/** What an editor decides and notes: `{kind, id, value, version?}`. 409 with what stands there when another window was quicker. */
export async function action({ params, request }: Route.ActionArgs) {
  const saved = await saveNote(params.projectId, (await jsonOf(request)) as NoteChange | null);
  if (saved.ok) return { saved: true, ...saved.value };
  return 'now' in saved ? data(saved.now, { status: 409 }) : failed(saved);
}
