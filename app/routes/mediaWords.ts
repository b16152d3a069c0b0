import { changeWords, noWords, showWords, type WordsAnswer } from '#usecases/words';
import { failed, succeeded } from '../server/answer.server';
import type { Route } from './+types/mediaWords';

/** Words of one item with their times; says whether they are still being heard, and which texts stand beside them. */
export async function loader({ params }: Route.LoaderArgs) {
  const words = await showWords(params.mediaId);
  return words.ok ? words.value : failed(words, noWords());
}

/** Corrects words in place, brings in a text with times, shows another one again, or asks to hear them. */
export async function action({ params, request }: Route.ActionArgs) {
  const form = await request.formData();
  const none: WordsAnswer = {};
  const changed = await changeWords(params.mediaId, form.get('intent'), form);
  return changed.ok ? succeeded(changed.value) : failed(changed, none);
}
