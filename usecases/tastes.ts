import { examplesOf, photoFootage, prepare, type Example, type Footage } from '#core/moments';
import { findFile, findMedia } from '#data/media';
import { isId } from '#data/projects';
import {
  addTaste,
  decisionsOfTaste,
  findTaste,
  keepMeans,
  listTastes,
  renameTaste,
  setTasteRemoved,
  type TasteRow,
} from '#data/tastes';
import { ChangeTasteDto, TasteFileDto } from './forms/tasteDto';
import { openProject } from './openProject';
import { showReadings } from './readings';
import { done, missing, refused, type Result } from './result';
import { check, plain } from './validate';

/** So many choices teach at most, the latest; two hours of keeping and dropping make a few hundred. */
const mostExamples = 2000;

/** What the part of the Mix panel that learns needs to know of tastes. */
export interface TastesAnswer {
  tastes: TasteRow[];
  /** Of the taste that this project learns by: what was decided elsewhere, and in how many projects. */
  others: Example[];
  projects: number;
}

/** @param chosen the taste that the project learns by, as its screen has it */
export async function showTastes(projectId: string, chosen: string | null): Promise<Result<TastesAnswer>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const tastes = await listTastes();
  const taste = tastes.find(({ id }) => id === chosen);
  if (!taste) return done({ tastes, others: [], projects: 0 });
  const { examples, projects } = await examplesOfTaste(taste.id, projectId);
  return done({ tastes, others: examples, projects });
}

/** @param except a project whose own choices do not count */
async function examplesOfTaste(id: string, except: string | null): Promise<{ examples: Example[]; projects: number }> {
  const taste = await findTaste(id);
  const decided = (await decisionsOfTaste(id)).filter(({ projectId }) => projectId !== except).slice(-mostExamples);
  const unknown = decided.filter(({ means }) => means === null);
  // What a stretch is made of is found once, one file after the other: a reading of two hours takes four megabytes.
  for (const media of new Set(unknown.map((each) => each.media))) {
    const file = await footageOf(media);
    for (const decision of unknown) {
      if (decision.media !== media) continue;
      const [example] = file ? examplesOf([file], [decision]) : [];
      if (!example) continue;
      decision.means = example.means;
      await keepMeans(decision.id, example.means);
    }
  }
  const examples = decided.flatMap(({ verdict, means }): Example[] =>
    means ? [{ kept: verdict === 'keep', means }] : [],
  );
  return {
    examples: [...(taste?.brought ?? []), ...examples].slice(-mostExamples),
    projects: new Set(decided.map(({ projectId }) => projectId)).size,
  };
}

async function footageOf(media: string) {
  const read = await showReadings(media);
  const derived = read.ok ? read.value[0] : null;
  if (!derived) return null;
  const { durationSeconds, hz, traces, runs } = derived;
  const footage: Footage = { id: media, durationSeconds, hz, traces, runs };
  const row = await findMedia(media);
  const file = row && (await findFile(row.fileHash));
  return prepare(file?.probe?.kind === 'photo' ? photoFootage(footage) : footage);
}

/** Makes a taste, calls it otherwise, takes it away or brings it back, or brings one in. @returns its id */
export async function changeTaste(projectId: string, given: unknown): Promise<Result<{ id: string }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(ChangeTasteDto, given);
  if (!checked.ok) return checked;
  const { intent, id, name, text } = checked.value;
  if (intent === 'add') return name ? done({ id: await addTaste(name) }) : refused('Give the taste a name.', 'name');
  if (intent === 'bring') return bringTaste(text ?? '');
  if (!isId(id)) return missing('There is no such taste.', 'id');
  if (intent === 'rename') {
    if (!name) return refused('Give the taste a name.', 'name');
    await renameTaste(id, name);
  } else await setTasteRemoved(id, intent === 'remove');
  return done({ id });
}

async function bringTaste(text: string): Promise<Result<{ id: string }>> {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return refused('This file holds no taste: it is not JSON.', 'text');
  }
  const checked = check(TasteFileDto, parsed);
  if (!checked.ok) return refused('This file holds no taste of Bright Reel, or a later version of one.', 'text');
  const { name, examples } = checked.value;
  return done({ id: await addTaste(name, plain(examples) as Example[]) });
}

/** A taste as a file, to take along: all choices as what a score is made of, without any footage. */
export async function writeTaste(id: string): Promise<Result<{ name: string; text: string }>> {
  const taste = isId(id) ? await findTaste(id) : null;
  if (!taste) return missing('There is no such taste.', 'id');
  const { examples } = await examplesOfTaste(id, null);
  const round = (value: number) => Math.round(value * 1e4) / 1e4;
  const rounded = examples.map(({ kept, means }) => ({
    kept,
    means: Object.fromEntries(Object.entries(means).map(([name, value]) => [name, round(value)])),
  }));
  return done({
    name: taste.name,
    text: `${JSON.stringify({ format: 'bright-reel-taste', version: 1, name: taste.name, examples: rounded })}\n`,
  });
}
