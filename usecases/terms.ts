import { isDoubtful, mostTerms, scriptWords, termsIn, termsToOffer, type Word } from '#core/words';
import { counted } from '#core/sentences';
import { findItems, keyOf, listMedia, type MediaRow } from '#data/media';
import { saveTerms } from '#data/projects';
import { findScript } from '#data/scripts';
import { loadTranscript } from '#data/words';
import { isInDictionary } from '#media/words/pronounce';
import { TermsDto } from './forms/dto';
import { openProject } from './openProject';
import { listPeople } from './people';
import { enqueueWords, hearingLanguages } from './queue';
import { done, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

/** The files of a project that were heard, with the words that are shown of each. */
async function heardIn(projectId: string): Promise<{ item: MediaRow; words: Word[]; isOwn: boolean }[]> {
  const ids = (await listMedia(projectId)).filter((item) => item.probe?.hasSound).map(({ id }) => id);
  const items = (await findItems(ids)).filter((item) => item !== null);
  const shown = await Promise.all(items.map(loadTranscript));
  return items.map((item, at) => {
    const { words, source } = shown[at]!;
    return { item, words, isOwn: source === 'corrected' || source === 'imported' };
  });
}

const doubtfulFiles = (heard: Awaited<ReturnType<typeof heardIn>>) =>
  heard.filter(({ words }) => words.some(isDoubtful));

/** Names and terms of a project, those that its texts suggest, and what hearing again with them is about. */
export async function showTerms(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const { terms } = project.value;
  const [heard, people, isKnown] = await Promise.all([heardIn(projectId), listPeople(projectId), isInDictionary()]);
  const scripts = await Promise.all(heard.map(({ item }) => findScript(item.id)));
  const sure = scripts.flatMap((script) => (script ? scriptWords(script.text) : []));
  const written = [
    ...heard.flatMap(({ words, isOwn }) => (isOwn ? words : [])),
    ...sure.map(({ text }) => ({ text, start: 0, end: 0, confidence: 1 })),
  ];
  const named = people.flatMap(({ name, named: isNamed, hidden }) => (isNamed && !hidden ? [name] : []));
  const taken = new Set(terms.map((term) => term.toLowerCase()));
  const offered = termsIn([...named, ...termsToOffer(written, isKnown)].join('\n'));
  const doubtful = doubtfulFiles(heard);
  return done({
    terms,
    offered: offered.filter((term) => !taken.has(term.toLowerCase())),
    /** What would be heard again. */
    doubtful: {
      files: doubtful.length,
      words: doubtful.reduce((sum, { words }) => sum + words.filter(isDoubtful).length, 0),
    },
    takesTerms: (await hearingLanguages()).takesTerms,
  });
}
export type ShownTerms = ValueOf<typeof showTerms>;

/**
 * Keeps the names and terms of a project; whatever is heard from now on is heard with them.
 * @param given `{ terms }`, one a line or parted by commas; with `again`, doubtful words that are there already are heard again
 * @returns how many files are heard again
 */
export async function changeTerms(projectId: string, given: unknown): Promise<Result<{ again: number }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(TermsDto, given);
  if (!checked.ok) return checked;
  const terms = termsIn(checked.value.terms);
  if (terms.length > mostTerms)
    return refused(
      `A project may have ${counted(mostTerms, 'name')} at most; more are misheard for one another.`,
      'terms',
    );
  await saveTerms(projectId, terms);
  if (!checked.value.again) return done({ again: 0 });
  const files = doubtfulFiles(await heardIn(projectId));
  for (const { item } of files) await enqueueWords(projectId, keyOf(item), item.name);
  return done({ again: files.length });
}
