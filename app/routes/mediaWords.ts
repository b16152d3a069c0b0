import { changeWords, editWords } from '#usecases/inThreads';
import { noWords, showWords, type WordsAnswer } from '#usecases/words';
import { failed, formOf, jsonOf, succeeded } from '../server/answer.server';
import type { Route } from './+types/mediaWords';

/** Words of one item with their times; says whether they are still being heard, and which texts stand beside them. */
export async function loader({ params }: Route.LoaderArgs) {
  const words = await showWords(params.mediaId);
  return words.ok ? words.value : failed(words, await noWords());
}

/** Edits words in place (as JSON), brings in a text with times, shows another one again, or asks to hear them (as a form). */
export async function action({ params, request }: Route.ActionArgs) {
  const none: WordsAnswer & { version?: number } = {};
  if (request.headers.get('Content-Type')?.includes('json')) {
    const edited = await editWords(params.mediaId, await jsonOf(request));
    return edited.ok ? succeeded({ ...none, ...edited.value }) : failed(edited, none);
  }
  const form = await formOf(request);
  const changed = await changeWords(params.mediaId, form.get('intent'), form);
  return changed.ok ? succeeded({ ...none, ...changed.value }) : failed(changed, none);
}
