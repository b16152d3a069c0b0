import {
  applyWordsCommand,
  hasTimes,
  importWords,
  scriptWords,
  WordsError,
  type Word,
  type WordsCommand,
} from '#core/words';
import { wordsForms } from '#core/words/forms';
import { counted } from '#core/sentences';
import { keyOf, listMedia, type MediaRow } from '#data/media';
import { dropScript, findScript, keepScript } from '#data/scripts';
import { requestCancel } from '#data/tasks';
import { listPeople } from './people';
import {
  findRecognition,
  languageOf,
  listOtherRecognitions,
  listOtherTexts,
  loadSpoken,
  loadTranscript,
  saveTranscript,
  showText,
  touchRecognition,
} from '#data/words';
import { pocketsphinx, recognisers } from '#media/words/recognisers';
import { EditWordsDto, ImportWordsDto, OtherTextDto } from './forms/dto';
import { followingWords, followWords } from './followWords';
import { openProject } from './openProject';
import { activeAlignment, activeHearing, enqueueAlignment, enqueueWords, hearingLanguages } from './queue';
import { openItem } from './readings';
import { conflict, done, refused, type Result, type ValueOf } from './result';
import { check, plain, plainOf } from './validate';

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
  /** The text has no times; it is given them now. */
  aligning?: boolean;
}

/** Words of an item with their times; whether they are still being heard, and which texts stand beside them. */
export async function showWords(mediaId: string) {
  const item = await openItem(mediaId);
  if (!item.ok) return item;
  const row = item.value;
  const [transcript, recognition, hearing, texts, heard, script, alignment, hears] = await Promise.all([
    loadTranscript(row),
    findRecognition(keyOf(row)),
    activeHearing(keyOf(row)),
    listOtherTexts(row.id),
    listOtherRecognitions(keyOf(row)),
    findScript(row.id),
    activeAlignment(row.id),
    hearingLanguages(),
  ]);
  return done({
    ...transcript,
    language: transcript.language ?? languageOf(transcript.words),
    hearing: Boolean(hearing),
    /** A text that has no times yet: whether it is given them now, or waits for something. */
    script: script && { name: script.name, language: script.language, aligning: Boolean(alignment) },
    others: [
      ...texts,
      ...heard.map(({ recogniser, ...each }) => ({ ...each, id: `${heardAs}${recogniser}`, source: recogniser })),
    ],
    ...hears,
    hearsBetter: recognition !== null && (isOutdated(recognition) || !isBy(recognition, hears.recogniser)),
  });
}

/** Whether what a recogniser heard was heard by an earlier way than the one it has now. */
const isOutdated = ({ recogniser: name, revision }: { recogniser: string; revision: number }): boolean =>
  recognisers().some((each) => isBy({ recogniser: name }, each.name) && revision < each.revision);
/** Another language than the usual one stands behind the name. */
const isBy = ({ recogniser }: { recogniser: string }, name: string): boolean =>
  recogniser === name || recogniser.startsWith(`${name} (`);

/** What is shown of an item that is gone. */
export const noWords = async () => ({
  words: [],
  source: null,
  language: null,
  version: 0,
  hearing: false,
  script: null,
  others: [],
  ...(await hearingLanguages()),
  hearsBetter: false,
});

/**
 * One edit of the words of an item, on the version that the sender knows.
 * @returns the version that it made
 */
export async function editWords(mediaId: string, given: unknown): Promise<Result<{ version: number }>> {
  const item = await openItem(mediaId);
  if (!item.ok) return item;
  const checked = check(EditWordsDto, given);
  if (!checked.ok) return checked;
  const command = checkWordsCommand(checked.value.command);
  if (!command.ok) return command;
  const now = await loadTranscript(item.value);
  if (checked.value.version !== now.version) return changedElsewhere();
  const edited = applyWordsCommand(now.words, command.value);
  if (!edited.ok) return refused(edited.reason, 'command');
  const source = now.source === 'imported' ? 'imported' : 'corrected';
  const saved = await saveTranscript(item.value.id, edited.words, source, now.version);
  if (!saved) return changedElsewhere();
  await followWords(item.value, now.words, edited.words);
  return done({ version: now.version + 1 });
}

function checkWordsCommand(given: object): Result<WordsCommand> {
  const type = 'type' in given ? String(given.type) : '';
  if (!Object.hasOwn(wordsForms, type)) return refused('Nothing to do.', 'command');
  const checked = check<object>(wordsForms[type as keyof typeof wordsForms], given);
  return checked.ok ? done(plain(checked.value) as WordsCommand) : checked;
}

/**
 * Has the words of an item heard, brings a text in, or shows another one.
 * @param intent hear, reset, again, import, align, leave
 * @param given what the class of the intent names
 */
export async function changeWords(mediaId: string, intent: unknown, given: unknown): Promise<Result<WordsAnswer>> {
  const item = await openItem(mediaId);
  if (!item.ok) return item;
  return followingWords([item.value], () => doWith(item.value, intent, given));
}

async function doWith(row: MediaRow, intent: unknown, given: unknown): Promise<Result<WordsAnswer>> {
  switch (intent) {
    case 'hear': {
      const { language } = plainOf(given) as { language?: unknown };
      await enqueueWords(row.projectId, keyOf(row), row.name, typeof language === 'string' ? language : null);
      return done({});
    }
    case 'reset':
      return shown(await showText(row.id, 'heard', (await loadTranscript(row)).version));
    case 'again': {
      const checked = check(OtherTextDto, given);
      if (!checked.ok) return checked;
      return showAgain(row, checked.value.other, checked.value.version);
    }
    case 'import':
      return takeText(row, given);
    case 'align':
      await enqueueAlignment(row);
      return done({ aligning: true });
    case 'leave':
      return leaveScript(row);
    default:
      return refused('Nothing to do.', 'intent');
  }
}

/** Stands before the name of a recogniser, for what it heard. */
const heardAs = 'heard:';

/** Shows a text again that stands beside the one that is shown: one that was replaced, or what was heard in another way. */
async function showAgain(row: MediaRow, other: string, version: number): Promise<Result<WordsAnswer>> {
  if (!other.startsWith(heardAs)) return shown(await showText(row.id, { again: other }, version));
  const recogniser = other.slice(heardAs.length);
  if (!(await findRecognition(keyOf(row), recogniser))) return shown('missing');
  const result = await showText(row.id, 'heard', version);
  if (result !== 'conflict') await touchRecognition(keyOf(row), recogniser);
  return shown(result);
}

async function takeText(row: MediaRow, given: unknown): Promise<Result<WordsAnswer>> {
  const checked = check(ImportWordsDto, given);
  if (!checked.ok) return checked;
  const { text, name, language: wanted, anyway } = checked.value;
  const now = await loadTranscript(row);
  const isTimed = hasTimes(text, name);
  const read: Result<readonly { text: string }[]> = isTimed
    ? readText(text, (await findRecognition(keyOf(row)))?.words ?? [])
    : readScript(text);
  if (!read.ok) return read;
  const words = read.value;
  const language = wanted ?? languageOf(words, name);
  const ask: ImportQuestion = {
    count: words.length,
    language,
    shown: { count: now.words.length, source: now.source, language: now.language ?? languageOf(now.words) },
  };
  if (!givesWay(now, ask) && !anyway) return done({ ask });
  if (isTimed) return shown(await showText(row.id, { words: words as Word[], language }, now.version));
  await keepScript({ mediaId: row.id, name: name ?? '', text, language: language ?? pocketsphinx.languages[0]! });
  await enqueueAlignment(row);
  return done({ aligning: true });
}

/** More words than these are no text of one file. */
const mostWords = 100_000;

function readScript(text: string): Result<{ text: string }[]> {
  const words = scriptWords(text);
  if (words.length === 0) return refused('The text holds no words.', 'text');
  if (words.length > mostWords) return refused(`A text may hold ${counted(mostWords, 'word')} at most.`, 'text');
  return done(words);
}

/** A text that has no times yet is not wanted any more. */
async function leaveScript(row: MediaRow): Promise<Result<WordsAnswer>> {
  const [script, task] = await Promise.all([findScript(row.id), activeAlignment(row.id)]);
  if (script) await dropScript(script);
  if (task) await requestCancel(row.projectId, task.id);
  return done({});
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

function shown(result: Awaited<ReturnType<typeof showText>>): Result<WordsAnswer> {
  if (result === 'conflict') return changedElsewhere();
  if (result === 'missing') return refused('This text is not there any more.', 'other');
  return done({ before: result.before });
}

const changedElsewhere = () =>
  conflict('These words were changed in another window. They are shown anew; please do that again.', null);

/** What a request in words must know of a project besides the readings: the words of every file, and who is where. */
export async function showSpoken(projectId: string) {
  const shown = await showSpeakers(projectId);
  if (!shown.ok) return shown;
  const items = (await listMedia(projectId)).filter((item) => item.probe?.hasSound).map(({ id }) => id);
  const wordsOf = await loadSpoken(items);
  const words = items.map((id) => [id, wordsOf(id)] as const).filter(([, spoken]) => spoken.length > 0);
  return done({ ...shown.value, words: Object.fromEntries(words) });
}

/** Who is where in a project. */
async function showSpeakers(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const people = (await listPeople(projectId)).filter((person) => !person.hidden);
  return done({
    words: {},
    people: people.map(({ id, name, named, tracks }) => ({
      id,
      name,
      named,
      tracks: tracks.map(({ media, start, end }) => ({ media, start, end })),
    })),
  });
}
export type Spoken = ValueOf<typeof showSpoken>;
