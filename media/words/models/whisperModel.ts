import { mkdir, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { firstTrack } from '#core/sound';
import type { Range } from '#core/time';
import { capture } from '../../capture';
import { MediaError } from '../../process';
import { runFfmpeg } from '../../runFfmpeg';
import type { Recogniser } from '../recogniser';
import { hearingArguments } from '../sphinx';
import { entriesOf, wordsOfEntries, type HeardWindow } from './entries';
import type { ModelFacts } from './modelFile';

/** "As it is spoken": the language is told from the sound (BCP 47, undetermined). */
export const asSpoken = 'und';

/** The model hears half a minute at a time; stretches with pauses between them go together until they fill one. */
const windowSeconds = 28;
/** So many of the longest windows tell the language of a file. */
const tellingWindows = 3;
/** More terms than these are forgotten by the model before it begins: its prompt holds 224 tokens. */
const mostPromptLetters = 600;
/** Of the time, what the language takes. */
const languageShare = 0.1;
const program = () => join(process.cwd(), 'media/words/models/hearing.mjs');
/** The model has no look at how sure each word is that its runtime would tell; see docs/decisions. */
const sureAbout = 0.85;

interface ModelOptions {
  name: string;
  facts: ModelFacts;
  /** The file of the model, once it is on this machine. */
  locate(): Promise<string>;
}

/** A speech model that somebody brought, heard with by the runtime that the packages carry. */
export function whisperModel({ name, facts, locate }: ModelOptions): Recogniser {
  const { languages } = facts;
  return {
    name,
    revision: 1,
    takesTerms: true,
    languages: languages.length > 1 ? [asSpoken, ...languages] : languages,
    async recognise(file, stretches, options) {
      const { folder, sound = firstTrack, terms = [], signal, onProgress, onLanguage } = options;
      const model = await locate();
      await mkdir(folder, { recursive: true });
      const windows = windowsOf(stretches);
      const files: string[] = [];
      for (const [at, window] of windows.entries()) {
        const raw = join(folder, `window-${at}.raw`);
        await runFfmpeg([...hearingArguments(file, sound, window), '-f', 's16le', raw], signal);
        files.push(raw);
      }
      const job = { model, prompt: promptOf(terms), threads: availableParallelism() };
      const wanted = options.language === asSpoken ? null : options.language.split('-')[0]!;
      const telling = wanted ? [] : longest(windows).map((at) => files[at]!);
      const spoken: string[] = [];
      if (telling.length > 0)
        await hear(
          folder,
          { ...job, language: 'auto', windows: telling },
          windowSeconds * telling.length,
          signal,
          (each) => {
            spoken.push(each.language);
            onProgress?.((languageShare * spoken.length) / telling.length);
          },
        );
      const language = wanted ?? mostOften(spoken) ?? languages[0]!;
      onLanguage?.(language);
      const heard: HeardWindow[] = [];
      const before = telling.length > 0 ? languageShare : 0;
      const lengthSeconds = windowSeconds * windows.length;
      await hear(folder, { ...job, language, windows: files }, lengthSeconds, signal, (each) => {
        heard.push(each);
        onProgress?.(before + ((1 - before) * heard.length) / windows.length);
      });
      return heard.flatMap((each, at) =>
        wordsOfEntries(entriesOf(each), windows[at]!, { language, confidence: sureAbout }),
      );
    },
  };
}

interface Job {
  model: string;
  language: string;
  prompt: string;
  threads: number;
  windows: string[];
}

/** Has the windows of a job heard, in a process of its own, within the memory that programs may take. */
async function hear(
  folder: string,
  job: Job,
  lengthSeconds: number,
  signal: AbortSignal | undefined,
  onHeard: (heard: HeardWindow) => void,
): Promise<void> {
  if (job.windows.length === 0) return;
  const path = join(folder, 'job.json');
  await writeFile(path, JSON.stringify(job));
  await capture('nice', ['-n', niceness, process.execPath, program(), path], {
    signal,
    lengthSeconds,
    onLine: (line) => line.startsWith('{') && onHeard(JSON.parse(line) as HeardWindow),
  }).catch((error: Error) => {
    if (/Cannot find (?:module|package)/.test(error.message))
      throw new MediaError('Speech models cannot be used on this kind of machine; there is no runtime for it.');
    if (/Failed to initialize/.test(error.message))
      throw new MediaError(
        'The speech model cannot be loaded: it is damaged, or larger than the memory that programs may take.',
      );
    throw error;
  });
}
/** As for the other recogniser: a little behind whoever waits at a screen. */
const niceness = '1';

/** Stretches, put together while they fit into one window. */
export function windowsOf(stretches: readonly Range[]): Range[] {
  const windows: Range[] = [];
  for (const { start, end } of stretches) {
    const last = windows.at(-1);
    if (last && end - last.start <= windowSeconds) last.end = end;
    else windows.push({ start, end });
  }
  return windows;
}

const longest = (windows: readonly Range[]): number[] =>
  windows
    .map(({ start, end }, at) => ({ at, seconds: end - start }))
    .sort((a, b) => b.seconds - a.seconds)
    .slice(0, tellingWindows)
    .map(({ at }) => at);

/** Names and terms, as a text that came before would have them. */
function promptOf(terms: readonly string[]): string {
  let prompt = '';
  for (const term of terms) {
    if (prompt.length + term.length > mostPromptLetters) break;
    prompt += prompt ? `, ${term}` : term;
  }
  return prompt && `${prompt}.`;
}

function mostOften(all: readonly string[]): string | null {
  const times = new Map<string, number>();
  for (const each of all) times.set(each, (times.get(each) ?? 0) + 1);
  return [...times].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/**
 * Has a model hear half a minute of noise: whether it can be used at all, and how long it takes.
 * @returns seconds that a second of speech takes on this machine, about
 * @throws MediaError when it cannot be used
 */
export async function tryModel(model: string, folder: string, signal?: AbortSignal): Promise<number> {
  await mkdir(folder, { recursive: true });
  const raw = join(folder, 'noise.raw');
  const noise = Int16Array.from({ length: windowSeconds * 16_000 }, () => (Math.random() - 0.5) * 2000);
  await writeFile(raw, noise);
  const began = Date.now();
  let heard = 0;
  const job: Job = { model, language: 'en', prompt: '', threads: availableParallelism(), windows: [raw] };
  await hear(folder, job, windowSeconds, signal, () => heard++);
  if (heard === 0) throw new MediaError('The speech model says nothing.');
  return (Date.now() - began) / 1000 / windowSeconds;
}
