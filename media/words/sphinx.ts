import { existsSync } from 'node:fs';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import { capture } from '../capture';
import { runFfmpeg } from '../runFfmpeg';
import { heardAlone } from '../probe/heard';
import { inputArguments, MediaError } from '../process';

/** Of the sound that recognisers listen to: 16-bit, mono, without a header. */
const sampleRate = 16_000;
const model = '/usr/share/pocketsphinx/model/en-us';
/** The dictionary of the model, and the one for what is no word. */
export const dictionaryFile = join(model, 'cmudict-en-us.dict');
/** How likely its words follow one another. */
export const languageModelFile = join(model, 'en-us.lm.bin');
/** Features of speech in a second, by which pocketsphinx counts time. */
const framesEach = 100;

const missing = 'pocketsphinx is not installed. Install the Debian packages pocketsphinx and pocketsphinx-en-us.';

/** Makes what is heard of a file the sound that recognisers listen to; the name of the output follows. @param range all of it when missing */
export const hearingArguments = (file: string, sound: SoundChoice, range?: Range): string[] => [
  '-v',
  'error',
  '-nostdin',
  '-y',
  ...(range ? ['-ss', range.start.toFixed(3), '-t', (range.end - range.start).toFixed(3)] : []),
  ...inputArguments(file),
  ...heardAlone(sound),
  '-ac',
  '1',
  '-ar',
  String(sampleRate),
];

/** What is heard of a file, decoded once, as raw sound in a folder. @returns the name of the raw file, without its folder */
export async function decodeSound(
  file: string,
  folder: string,
  sound: SoundChoice,
  signal?: AbortSignal,
  onSeconds?: (seconds: number) => void,
): Promise<string> {
  await mkdir(folder, { recursive: true });
  const args = [...hearingArguments(file, sound), '-f', 's16le', join(folder, `${rawName}.raw`)];
  await runFfmpeg(args, signal, onSeconds);
  return rawName;
}
const rawName = 'sound';

/** A stretch of the decoded sound that is heard by itself, and what it is called in the answer. */
export interface Listening extends Range {
  name: string;
}

/**
 * Has pocketsphinx hear stretches of a folder's raw sound, in one process, with its English model.
 * @param args what it is to hear them with: a language model, a grammar each
 * @param onSeconds so much of them is heard
 * @returns a line a stretch, as `-hypseg` writes them, and as CTM
 */
export async function runSphinx(
  folder: string,
  name: string,
  stretches: readonly Listening[],
  args: readonly string[],
  signal?: AbortSignal,
  onSeconds?: (seconds: number) => void,
): Promise<{ segments: string; ctm: string }> {
  if (!existsSync(model)) throw new MediaError(missing);
  const own = (what: string) => join(folder, `${name}.${what}`);
  const frame = (seconds: number) => Math.max(0, Math.round(seconds * framesEach));
  const lines = stretches.map(
    ({ name: utterance, start, end }) => `${rawName} ${frame(start)} ${frame(end)} ${utterance}`,
  );
  await writeFile(own('ctl'), `${lines.join('\n')}\n`);
  let heard = 0;
  await capture(
    'nice',
    [
      '-n',
      niceness,
      'pocketsphinx_batch',
      '-ctl',
      own('ctl'),
      '-cepdir',
      folder,
      '-cepext',
      '.raw',
      '-adcin',
      'yes',
      '-samprate',
      String(sampleRate),
      '-hyp',
      own('hyp'),
      '-hypseg',
      own('segments'),
      '-ctm',
      own('ctm'),
      '-remove_silence',
      'no',
      ...args,
    ],
    {
      signal,
      lengthSeconds: secondsOf(stretches),
      // “INFO: batch.c(760): NAME: 5.82 seconds speech, …” when a stretch is heard.
      onWords: (line) => {
        const seconds = /batch\.c\(\d+\): (?!TOTAL)\S+ ([\d.]+) seconds speech/.exec(line)?.[1];
        if (seconds) onSeconds?.((heard += Number(seconds)));
      },
    },
  ).catch((error: Error) => {
    if (/could not be started/.test(error.message)) throw new MediaError(missing, { cause: error });
    // Of its log only what went wrong.
    const fault = error.message.split('\n').findLast((line) => /^(?:ERROR|FATAL)/.test(line));
    throw fault ? new Error(`pocketsphinx: ${fault}`, { cause: error }) : error;
  });
  const [segments, ctm] = await Promise.all([readFile(own('segments'), 'utf8'), readFile(own('ctm'), 'utf8')]);
  return { segments, ctm };
}

/** A little behind whoever waits at a screen, and no further: under load it still gets its share of a processor. */
const niceness = '1';

const secondsOf = (stretches: readonly Range[]) => stretches.reduce((sum, { start, end }) => sum + end - start, 0);

/** A word or something between words as it was heard: seconds of its stretch, and how well the sound fits, as a logarithm. */
export interface HeardSegment extends Range {
  word: string;
  /** Of the whole segment; nearer to zero is better. */
  acoustic: number;
}

/** Lines of `-hypseg`: “NAME S s T t A a L l”, then “FRAME ACOUSTIC LANGUAGE WORD” each, and the last frame. */
export function parseSegments(text: string): Map<string, HeardSegment[]> {
  const found = new Map<string, HeardSegment[]>();
  for (const line of text.split('\n')) {
    const parts = line.trim().split(/\s+/);
    const at = parts.lastIndexOf('L');
    if (at < 0) continue;
    const rest = parts.slice(at + 2);
    const segments: HeardSegment[] = [];
    for (let index = 0; index + 4 < rest.length; index += 4)
      segments.push({
        word: rest[index + 3]!,
        start: Number(rest[index]) / framesEach,
        end: Number(rest[index + 4]) / framesEach,
        acoustic: Number(rest[index + 1]),
      });
    found.set(parts[0]!, segments);
  }
  return found;
}

/** Two listen at once where there are two cores; more would leave none to whatever else goes on. */
const atOnce = Math.min(2, availableParallelism());

/**
 * Has stretches heard in parts of about so many seconds, some at once.
 * @param work hears a part, and says how many seconds of it are heard; `name` is for its files
 */
export async function inParts<Piece extends Listening>(
  pieces: readonly Piece[],
  partSeconds: number,
  onProgress: ((share: number) => void) | undefined,
  work: (part: Piece[], name: string, onSeconds: (seconds: number) => void) => Promise<void>,
): Promise<void> {
  const parts: Piece[][] = [];
  let seconds = Infinity;
  for (const piece of pieces) {
    if (seconds > partSeconds) {
      parts.push([]);
      seconds = 0;
    }
    parts.at(-1)!.push(piece);
    seconds += piece.end - piece.start;
  }
  const all = secondsOf(pieces);
  const heard = new Float64Array(parts.length);
  const say = (at: number, seconds: number) => {
    heard[at] = seconds;
    onProgress?.(Math.min(1, heard.reduce((sum, each) => sum + each, 0) / all));
  };
  let next = 0;
  const takeParts = async () => {
    while (next < parts.length) {
      const at = next++;
      await work(parts[at]!, `part-${at}`, (seconds) => say(at, seconds));
      say(at, secondsOf(parts[at]!));
    }
  };
  await Promise.all(Array.from({ length: Math.min(atOnce, parts.length) }, takeParts));
  // Sums of fractions end beside the whole.
  if (parts.length > 0) onProgress?.(1);
}
