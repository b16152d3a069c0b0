import { correctWords, flagWord, importWords, retimeWords, typeWords, WordsError, type Word } from '#core/words';
import { keyOf, listMedia, findMedia, type MediaRow } from '#data/media';
import { listPeople } from '#data/people';
import { findRecognition, languageOf, listOtherTexts, loadTranscript, saveTranscript, showText } from '#data/words';
import { CorrectWordsDto, FlagWordDto, ImportWordsDto, OtherTextDto, RetimeWordsDto, TypeWordsDto } from './forms/dto';
import { openProject } from './openProject';
import { activeHearing, enqueueWords, hearingLanguages } from './queue';
import { openItem } from './readings';
import { conflict, done, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

type Transcript = Awaited<ReturnType<typeof loadTranscript>>;

/** What has to be decided before a text takes the place of the one that is shown. */
export interface ImportQuestion {
  count: number;
  language: string | null;
  shown: { count: number; source: string | null; language: string | null };
}
/** What came of a change: a question, or the text that gave way. */
export interface WordsAnswer {
  ask?: ImportQuestion;
  before?: string | null;
}

/** Words of an item with their times; whether they are still being heard, and which texts stand beside them. */
export async function showWords(mediaId: string) {
  const item = await openItem(mediaId);
  if (!item.ok) return item;
  const row = item.value;
  const [transcript, hearing, others] = await Promise.all([
    loadTranscript(row),
    activeHearing(keyOf(row)),
    listOtherTexts(row.id),
  ]);
  return done({
    ...transcript,
    language: transcript.language ?? languageOf(transcript.words),
    hearing: Boolean(hearing),
    others,
    ...hearingLanguages(),
  });
}

/** What is shown of an item that is gone. */
export const noWords = () => ({
  words: [],
  source: null,
  language: null,
  version: 0,
  hearing: false,
  others: [],
  ...hearingLanguages(),
});

/**
 * Changes the words of an item.
 * @param intent hear, reset, again, import, put, flag, retime, type; anything else corrects a stretch of words
 * @param given what the class of the intent names; it always has the `version` that the sender knows
 */
export async function changeWords(mediaId: string, intent: unknown, given: FormData): Promise<Result<WordsAnswer>> {
  const item = await openItem(mediaId);
  if (!item.ok) return item;
  const row = item.value;
  switch (intent) {
    case 'hear': {
      const language = given.get('language');
      await enqueueWords(row.projectId, keyOf(row), row.name, typeof language === 'string' ? language : null);
      return done({});
    }
    case 'reset':
      return shown(await showText(row.id, 'heard', (await loadTranscript(row)).version));
    case 'again': {
      const checked = check(OtherTextDto, given);
      if (!checked.ok) return checked;
      return shown(await showText(row.id, { again: checked.value.other }, checked.value.version));
    }
    case 'import':
    case 'put':
      return takeText(row, intent, given);
    case 'flag':
    case 'retime':
    case 'type':
      return edit(row, given, edits[intent]);
    default:
      return edit(row, given, edits.correct);
  }
}

async function takeText(row: MediaRow, intent: 'import' | 'put', given: FormData): Promise<Result<WordsAnswer>> {
  const checked = check(ImportWordsDto, given);
  if (!checked.ok) return checked;
  const { text, name, language: wanted, anyway } = checked.value;
  const now = await loadTranscript(row);
  const read = readText(text, (await findRecognition(keyOf(row)))?.words ?? []);
  if (!read.ok) return read;
  const words = read.value;
  // One step back or forth in corrections; it takes the place of what is there.
  if (intent === 'put') return save(row, words, now);
  const language = wanted ?? languageOf(words, name);
  const ask: ImportQuestion = {
    count: words.length,
    language,
    shown: { count: now.words.length, source: now.source, language: now.language ?? languageOf(now.words) },
  };
  if (!givesWay(now, ask) && !anyway) return done({ ask });
  return shown(await showText(row.id, { words, language }, now.version));
}

function readText(text: string, heard: readonly Word[]): Result<Word[]> {
  try {
    return done(importWords(text, heard));
  } catch (error) {
    if (error instanceof WordsError) return refused(error.message, 'text');
    throw error;
  }
}

/** What was heard can be heard again; only in the same language it gives way unasked. */
function givesWay(now: Transcript, { language, shown: { language: before } }: ImportQuestion): boolean {
  if (now.words.length === 0) return true;
  const byHand = now.source === 'corrected' || now.source === 'imported';
  return !byHand && (language === null || before === language);
}

/** @returns the words as an edit leaves them, and the version that it was made on */
type Edit = (given: FormData, words: readonly Word[]) => Result<{ version: number; words: Word[] }>;

async function edit(row: MediaRow, given: FormData, change: Edit): Promise<Result<WordsAnswer>> {
  const now = await loadTranscript(row);
  const edited = change(given, now.words);
  if (!edited.ok) return edited;
  return edited.value.version === now.version ? save(row, edited.value.words, now) : changedElsewhere();
}

const edits: Record<'correct' | 'flag' | 'retime' | 'type', Edit> = {
  correct(given, words) {
    const checked = check(CorrectWordsDto, given);
    if (!checked.ok) return checked;
    const { from, to, text, version } = checked.value;
    return done({ version, words: correctWords(words, from, to, text) });
  },
  flag(given, words) {
    const checked = check(FlagWordDto, given);
    if (!checked.ok) return checked;
    const { index, version, emphasis, breakAfter } = checked.value;
    if (!words[index]) return refused('This word is not there any more.', 'index');
    const flags = {
      ...(emphasis === undefined ? {} : { emphasis }),
      ...(given.has('breakAfter') ? { breakAfter: breakAfter ?? null } : {}),
    };
    return done({ version, words: flagWord(words, index, flags) });
  },
  retime(given, words) {
    const checked = check(RetimeWordsDto, given);
    if (!checked.ok) return checked;
    const { from, version, starts, end } = checked.value;
    if (starts.some((start, index) => index > 0 && start <= starts[index - 1]!) || end <= starts.at(-1)!)
      return refused('Words follow one another; a time lies before the one of the word before.', 'starts');
    return done({ version, words: retimeWords(words, from, starts, end) });
  },
  type(given, words) {
    const checked = check(TypeWordsDto, given);
    if (!checked.ok) return checked;
    const { version, start, end, text } = checked.value;
    if (end <= start) return refused('A caption must not end before it begins.', 'end');
    return done({ version, words: typeWords(words, text, start, end) });
  },
};

async function save(row: MediaRow, words: Word[], now: Transcript): Promise<Result<WordsAnswer>> {
  const source = now.source === 'imported' ? 'imported' : 'corrected';
  return (await saveTranscript(row.id, words, source, now.version)) ? done({}) : changedElsewhere();
}

function shown(result: Awaited<ReturnType<typeof showText>>): Result<WordsAnswer> {
  if (result === 'conflict') return changedElsewhere();
  if (result === 'missing') return refused('This text is not there any more.', 'other');
  return done({ before: result.before });
}

const changedElsewhere = () =>
  conflict('These words were changed in another window. They are shown anew; please do that again.', null);

/** What a request in words must know of a project besides the readings: the words of every file, and who is where. */
export async function showSpoken(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const items = (await listMedia(projectId)).filter((item) => item.probe?.hasSound);
  const words = await Promise.all(
    items.map(async ({ id }) => {
      const row = await findMedia(id);
      return [id, row ? (await loadTranscript(row)).words : []] as const;
    }),
  );
  const people = (await listPeople(projectId)).filter((person) => !person.hidden);
  return done({
    words: Object.fromEntries(words.filter(([, spoken]) => spoken.length > 0)),
    people: people.map(({ id, name, named, tracks }) => ({
      id,
      name,
      named,
      tracks: tracks.map(({ media, start, end }) => ({ media, start, end })),
    })),
  });
}
export type Spoken = ValueOf<typeof showSpoken>;
