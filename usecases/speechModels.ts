import { randomUUID } from 'node:crypto';
import { link, readdir, rm, stat, symlink } from 'node:fs/promises';
import { join } from 'node:path';
import { IsIn, IsOptional, IsString, Length } from 'class-validator';
import {
  addSpeechModel,
  forgetSpeechModel,
  listSpeechModels,
  noteSpeechModel,
  speechModelInUse,
  useSpeechModel,
  type SpeechModelRow,
} from '#data/speechModels';
import { dataFolder, scratchFolder, storage } from '#data/storage';
import { MediaError } from '#media/process';
import { readModelFile } from '#media/words/models/modelFile';
import { tryModel, whisperModel } from '#media/words/models/whisperModel';
import type { Recogniser } from '#media/words/recogniser';
import { recognisers } from '#media/words/recognisers';
import { done, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

/** Where an upload goes that is a speech model, in the place of a project. */
export const speechModelPlace = 'speech-models';
/** A model may be laid here; it is in use once it is seen. */
const laidFolder = (): string => join(dataFolder(), 'models');

/** Takes a speech model that has arrived whole; words are heard with it from now on. @param file where it lies; it is moved */
export async function takeSpeechModel(file: string, filename: string): Promise<Result<string>> {
  // Names come from anywhere: no folders, nothing that is not printed.
  const name = filename
    .split(/[\\/]/)
    .at(-1)!
    .replace(/[^\p{L}\p{N}._ -]/gu, '')
    .slice(-120);
  if (!/[^.]/.test(name)) return refused('The file has no name.', 'file');
  try {
    const facts = await readModelFile(file);
    const storageKey = `models/${name}`;
    const { size: bytes } = await stat(file);
    await storage().adopt(storageKey, file);
    await addSpeechModel({ name, storageKey, bytes, facts });
    return done(name);
  } catch (error) {
    if (error instanceof MediaError) return refused(error.message, 'file');
    throw error;
  }
}

/** When the folder of models was changed last, as it was looked through with nothing left to say about it. */
let lookedThrough: number | null = null;

/** Takes what was laid into the folder of models since; the file stays there. @returns why something there is none */
async function takeLaid(): Promise<string[]> {
  const changed = (await stat(laidFolder()).catch(() => null))?.mtimeMs ?? null;
  // Words are asked for every few seconds; the folder is looked through when something in it is new.
  if (changed === null || changed === lookedThrough) return [];
  const known = await listSpeechModels();
  const problems: string[] = [];
  let isQuiet = true;
  for (const name of await readdir(laidFolder()).catch(() => [])) {
    const path = join(laidFolder(), name);
    const stats = await stat(path).catch(() => null);
    if (!name.endsWith('.bin') || !stats?.isFile()) continue;
    if (known.some((row) => row.name === name && row.bytes === stats.size)) continue;
    isQuiet = false;
    const other = join(laidFolder(), `.${randomUUID()}`);
    // On another disk it is used from there.
    const taken = await link(path, other)
      .catch(() => symlink(path, other))
      .then(() => takeSpeechModel(other, name))
      .finally(() => rm(other, { force: true }));
    if (!taken.ok) problems.push(`${name}: ${taken.sentence}`);
  }
  // What is still being copied is looked at again, and so is all after something was taken: more may have come meanwhile.
  if (isQuiet) lookedThrough = changed;
  return problems;
}

/** Models that are being tried by this process. */
const trying = new Set<string>();

/** Tries a model that was not tried yet, beside whatever else goes on, and notes what came of it. */
function tryLater({ name, storageKey }: SpeechModelRow): void {
  if (trying.has(name)) return;
  trying.add(name);
  const folder = join(scratchFolder(), `model-${randomUUID()}`);
  void storage()
    .localPath(storageKey)
    .then((path) => tryModel(path, folder))
    .then(
      (pace) => noteSpeechModel(name, { pace, problem: null }),
      (error: Error) => noteSpeechModel(name, { problem: error.message.split('\n')[0]! }),
    )
    .catch(() => undefined)
    .finally(() => {
      trying.delete(name);
      return rm(folder, { recursive: true, force: true });
    });
}

const languageNames = new Intl.DisplayNames(['en'], { type: 'language' });
/** In English, by the alphabet. Browsers have other names for some of them. */
const namesOf = (tags: readonly string[]): string[] =>
  tags.map((tag) => languageNames.of(tag) ?? tag).sort((a, b) => a.localeCompare(b, 'en'));

/** Speech models that people brought, which of them is in use, and what words are heard with where none is. */
export async function showSpeechModels() {
  const problems = await takeLaid();
  const rows = await listSpeechModels();
  const inUse = await speechModelInUse();
  for (const row of rows) if (row.pace === null && row.problem === null) tryLater(row);
  const [own] = recognisers();
  return done({
    models: rows.map(({ name, bytes, facts, pace, problem }) => ({
      name,
      bytes,
      ...facts,
      languages: namesOf(facts.languages),
      pace,
      problem,
    })),
    inUse: inUse?.name ?? null,
    without: { name: own!.name, languages: namesOf(own!.languages) },
    problems,
    folder: 'models',
  });
}
export type SpeechModelsData = ValueOf<typeof showSpeechModels>;

class SpeechModelDto {
  @IsIn(['use', 'remove'], { message: 'Nothing to do.' }) intent!: 'use' | 'remove';
  /** None: what words are heard with where no model is in use. */
  @IsOptional() @IsString() @Length(0, 120) name?: string;
}

/** Uses another model, or takes one away for good. */
export async function changeSpeechModels(given: unknown): Promise<Result<null>> {
  const checked = check(SpeechModelDto, given);
  if (!checked.ok) return checked;
  const { intent, name } = checked.value;
  if (intent === 'use')
    return (await useSpeechModel(name || null)) ? done(null) : refused('This model is not there any more.', 'name');
  const row = (await listSpeechModels()).find((each) => each.name === name);
  if (!row) return refused('This model is not there any more.', 'name');
  await forgetSpeechModel(row.name);
  await storage().remove(row.storageKey);
  // Where it was laid by hand it would come back.
  await rm(join(laidFolder(), row.name), { force: true });
  return done(null);
}

/** What words are heard with now: the speech model that is in use, else the first recogniser of this machine. */
export async function recogniserInUse(): Promise<Recogniser> {
  await takeLaid().catch(() => undefined);
  const row = await speechModelInUse();
  if (!row) return recognisers()[0]!;
  const { name, facts, storageKey } = row;
  const locate = async () => {
    if ((await storage().size(storageKey)) === null)
      throw new MediaError(`The speech model ${name} is not there any more. Bring it in again, or use another one.`);
    return storage().localPath(storageKey);
  };
  return whisperModel({ name, facts, locate });
}
