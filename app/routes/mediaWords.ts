import { data } from 'react-router';
import { correctWords, importWords, WordsError } from '#core/words';
import { findMedia, keyOf } from '#data/media';
import { dropTranscript, findRecognition, loadTranscript, saveTranscript } from '#data/words';
import { activeHearing, enqueueWords, hearingLanguages } from '#jobs/queue';
import { CorrectWordsDto, ImportWordsDto } from '../forms/dto';
import { check } from '../server/validate.server';
import type { Route } from './+types/mediaWords';

const missing = () => data({ problem: 'This item is not in the project any more.' }, { status: 404 });

/** Words of one item with their times; says whether they are still being heard. */
export async function loader({ params }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  if (!row) return data({ words: [], source: null, version: 0, hearing: false, ...hearingLanguages() }, { status: 404 });
  return { ...(await loadTranscript(row)), hearing: Boolean(await activeHearing(keyOf(row))), ...hearingLanguages() };
}

/** Corrects words in place, brings in a text with times, goes back to what was heard, or asks to hear them. */
export async function action({ params, request }: Route.ActionArgs) {
  const row = await findMedia(params.mediaId);
  if (!row) return missing();
  const form = await request.formData();
  const intent = form.get('intent');
  const now = await loadTranscript(row);
  if (intent === 'hear') {
    const language = form.get('language');
    await enqueueWords(row.projectId, keyOf(row), row.name, typeof language === 'string' ? language : null);
    return { problem: null };
  }
  if (intent === 'reset') {
    await dropTranscript(row.id);
    return { problem: null };
  }
  if (intent === 'import') {
    const checked = check(ImportWordsDto, form);
    if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]! }, { status: 422 });
    try {
      const heard = (await findRecognition(keyOf(row)))?.words ?? [];
      const words = importWords(checked.value.text, heard);
      return (await saveTranscript(row.id, words, 'imported', now.version)) ? { problem: null } : conflict();
    } catch (error) {
      if (error instanceof WordsError) return data({ problem: error.message }, { status: 422 });
      throw error;
    }
  }
  const checked = check(CorrectWordsDto, form);
  if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]! }, { status: 422 });
  const { from, to, text, version } = checked.value;
  if (version !== now.version) return conflict();
  const saved = await saveTranscript(row.id, correctWords(now.words, from, to, text), now.source === 'imported' ? 'imported' : 'corrected', now.version);
  return saved ? { problem: null } : conflict();
}

const conflict = () => data({ problem: 'These words were changed in another window. They are shown anew; please do that again.' }, { status: 409 });
