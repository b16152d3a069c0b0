import { data } from 'react-router';
import { correctWords, flagWord, importWords, retimeWords, typeWords, WordsError, type Word } from '#core/words';
import { findMedia, keyOf } from '#data/media';
import { findRecognition, languageOf, listOtherTexts, loadTranscript, saveTranscript, showText } from '#data/words';
import { activeHearing, enqueueWords, hearingLanguages } from '#jobs/queue';
import { CorrectWordsDto, FlagWordDto, ImportWordsDto, OtherTextDto, RetimeWordsDto, TypeWordsDto } from '../forms/dto';
import { check, type Problems } from '../server/validate.server';
import type { Route } from './+types/mediaWords';

const missing = () => data({ problem: 'This item is not in the project any more.' }, { status: 404 });

/** Words of one item with their times; says whether they are still being heard, and which texts stand beside them. */
export async function loader({ params }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  if (!row)
    return data(
      { words: [], source: null, language: null, version: 0, hearing: false, others: [], ...hearingLanguages() },
      { status: 404 },
    );
  const [transcript, hearing, others] = await Promise.all([
    loadTranscript(row),
    activeHearing(keyOf(row)),
    listOtherTexts(row.id),
  ]);
  return {
    ...transcript,
    language: transcript.language ?? languageOf(transcript.words),
    hearing: Boolean(hearing),
    others,
    ...hearingLanguages(),
  };
}

/** Corrects words in place, brings in a text with times, shows another one again, or asks to hear them. */
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
  if (intent === 'reset') return shown(await showText(row.id, 'heard', now.version));
  if (intent === 'again') {
    const checked = check(OtherTextDto, form);
    if (!checked.ok) return refuse(checked.problems);
    return shown(await showText(row.id, { again: checked.value.other }, checked.value.version));
  }
  if (intent === 'import' || intent === 'put') {
    const checked = check(ImportWordsDto, form);
    if (!checked.ok) return refuse(checked.problems);
    const { text, name, language: wanted, anyway } = checked.value;
    try {
      const heard = (await findRecognition(keyOf(row)))?.words ?? [];
      const words = importWords(text, heard);
      // One step back or forth in corrections; it takes the place of what is there.
      if (intent === 'put')
        return (await saveTranscript(row.id, words, now.source === 'imported' ? 'imported' : 'corrected', now.version))
          ? { problem: null }
          : conflict();
      const language = wanted ?? languageOf(words, name);
      const ask: ImportQuestion = {
        count: words.length,
        language,
        shown: { count: now.words.length, source: now.source, language: now.language ?? languageOf(now.words) },
      };
      const byHand = now.source === 'corrected' || now.source === 'imported';
      // What was heard can be heard again; only in the same language it gives way unasked.
      const giveWay =
        now.words.length === 0 || (!byHand && (ask.language === null || ask.shown.language === ask.language));
      if (!giveWay && !anyway) return data({ problem: null, ask }, { status: 409 });
      return shown(await showText(row.id, { words, language }, now.version));
    } catch (error) {
      if (error instanceof WordsError) return data({ problem: error.message }, { status: 422 });
      throw error;
    }
  }
  const edit = intent === 'flag' || intent === 'retime' || intent === 'type' ? edits[intent](form, now.words) : null;
  if (edit) {
    if ('problem' in edit) return data({ problem: edit.problem }, { status: 422 });
    if (edit.version !== now.version) return conflict();
    return (await saveTranscript(row.id, edit.words, now.source === 'imported' ? 'imported' : 'corrected', now.version))
      ? { problem: null }
      : conflict();
  }
  const checked = check(CorrectWordsDto, form);
  if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]! }, { status: 422 });
  const { from, to, text, version } = checked.value;
  if (version !== now.version) return conflict();
  const saved = await saveTranscript(
    row.id,
    correctWords(now.words, from, to, text),
    now.source === 'imported' ? 'imported' : 'corrected',
    now.version,
  );
  return saved ? { problem: null } : conflict();
}

type Edited = { problem: string } | { version: number; words: Word[] };
const edits: Record<'flag' | 'retime' | 'type', (form: FormData, words: readonly Word[]) => Edited> = {
  flag(form, words) {
    const checked = check(FlagWordDto, form);
    if (!checked.ok) return { problem: Object.values(checked.problems)[0]! };
    const { index, version, emphasis, breakAfter } = checked.value;
    if (!words[index]) return { problem: 'This word is not there any more.' };
    return {
      version,
      words: flagWord(words, index, {
        ...(emphasis === undefined ? {} : { emphasis }),
        ...(form.has('breakAfter') ? { breakAfter: breakAfter ?? null } : {}),
      }),
    };
  },
  retime(form, words) {
    const checked = check(RetimeWordsDto, form);
    if (!checked.ok) return { problem: Object.values(checked.problems)[0]! };
    const { from, version, starts, end } = checked.value;
    if (starts.some((start, index) => index > 0 && start <= starts[index - 1]!) || end <= starts.at(-1)!)
      return { problem: 'Words follow one another; a time lies before the one of the word before.' };
    return { version, words: retimeWords(words, from, starts, end) };
  },
  type(form, words) {
    const checked = check(TypeWordsDto, form);
    if (!checked.ok) return { problem: Object.values(checked.problems)[0]! };
    const { version, start, end, text } = checked.value;
    return end > start
      ? { version, words: typeWords(words, text, start, end) }
      : { problem: 'A caption must not end before it begins.' };
  },
};

/** What has to be decided before a text takes the place of the one that is shown. */
export interface ImportQuestion {
  count: number;
  language: string | null;
  shown: { count: number; source: string | null; language: string | null };
}

const refuse = (problems: Problems) => data({ problem: Object.values(problems)[0]! }, { status: 422 });
const shown = (result: Awaited<ReturnType<typeof showText>>) =>
  result === 'conflict'
    ? conflict()
    : result === 'missing'
      ? refuse({ other: 'This text is not there any more.' })
      : { problem: null, before: result.before };
const conflict = () =>
  data(
    { problem: 'These words were changed in another window. They are shown anew; please do that again.' },
    { status: 409 },
  );
