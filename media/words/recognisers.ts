import { settings } from '#settings';
import { existsSync } from 'node:fs';
import { mkdir, open, readFile, rm, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { firstTrack, type SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import type { Word } from '#core/words';
import { heardAlone } from '../probe/heard';
import { capture } from '../capture';
import { MediaError, inputArguments } from '../process';

/** Something that turns speech into words. */
export interface Recogniser {
  /** Stands in the database beside what it heard. */
  name: string;
  /** As BCP 47 tags. */
  languages: string[];
  /** Words of one stretch after another, in seconds of the file. */
  recognise(file: string, stretches: readonly Range[], options: RecogniseOptions): Promise<Word[]>;
}

interface RecogniseOptions {
  /** What of the file is heard; all of its first track when missing. */
  sound?: SoundChoice;
  /** For intermediate files; emptied by the caller. */
  folder: string;
  language: string;
  signal?: AbortSignal;
  onProgress?(share: number): void;
}

const sampleRate = 16000;
const longestStretch = 24;
const model = '/usr/share/pocketsphinx/model/en-us';

/**
 * Speech runs as stretches for a recogniser: joined over short pauses, with a little room at both ends, and parted
 * again (at a pause) where they would grow too long for it.
 */
export function stretchesOf(speech: readonly Range[], duration: number): Range[] {
  const out: Range[] = [];
  for (const run of speech) {
    const last = out.at(-1);
    if (last && run.start - last.end < 0.5 && run.end - last.start < longestStretch) last.end = run.end;
    else out.push({ start: run.start, end: run.end });
  }
  return out.map(({ start, end }, index) => ({
    start: Math.max(0, out[index - 1] ? (out[index - 1]!.end + start) / 2 : 0, start - 0.25),
    end: Math.min(duration, out[index + 1] ? (end + out[index + 1]!.start) / 2 : duration, end + 0.25),
  }));
}

/** Writes each stretch as raw 16-bit mono sound; the file is decoded once. */
async function cutSound(
  file: string,
  stretches: readonly Range[],
  folder: string,
  sound: SoundChoice,
  signal?: AbortSignal,
): Promise<string[]> {
  await mkdir(folder, { recursive: true });
  const whole = join(folder, 'sound.raw');
  await capture(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      '-y',
      ...inputArguments(file),
      ...heardAlone(sound),
      '-ac',
      '1',
      '-ar',
      String(sampleRate),
      '-f',
      's16le',
      whole,
    ],
    { signal, lengthSeconds: stretches.at(-1)?.end ?? 0 },
  );
  const handle = await open(whole);
  try {
    const names: string[] = [];
    // One after the other: of a long file all of them together are large.
    for (const [index, { start, end }] of stretches.entries()) {
      const bytes = Math.max(0, Math.round((end - start) * sampleRate)) * 2;
      const { buffer, bytesRead } = await handle.read(
        Buffer.alloc(bytes),
        0,
        bytes,
        Math.round(start * sampleRate) * 2,
      );
      const name = join(folder, `stretch-${index}.raw`);
      await writeFile(name, buffer.subarray(0, bytesRead));
      names.push(name);
    }
    return names;
  } finally {
    await handle.close();
    await rm(whole, { force: true });
  }
}

/** pocketsphinx with its English model, as Debian ships both. */
export const pocketsphinx: Recogniser = {
  name: 'pocketsphinx',
  languages: ['en-US'],
  async recognise(file, stretches, { folder, sound = firstTrack, signal, onProgress }) {
    if (!existsSync(model))
      throw new MediaError(
        'The English speech model is missing. Install the Debian packages pocketsphinx and pocketsphinx-en-us.',
      );
    const parts = await cutSound(file, stretches, folder, sound, signal);
    const words: Word[] = [];
    const total = stretches.reduce((sum, stretch) => sum + stretch.end - stretch.start, 0);
    let done = 0;
    // A few stretches per call: the model is loaded once for them, and there is progress to show.
    for (let from = 0; from < parts.length;) {
      let to = from;
      let seconds = 0;
      while (to < parts.length && (to === from || seconds < 60)) seconds += stretches[to]!.end - stretches[to++]!.start;
      const names = parts.slice(from, to).map((part) => basename(part, '.raw'));
      const control = join(folder, 'control');
      const heard = join(folder, 'heard.ctm');
      await writeFile(control, `${names.join('\n')}\n`);
      await capture(
        'nice',
        [
          '-n',
          '10',
          'pocketsphinx_batch',
          '-ctl',
          control,
          '-cepdir',
          folder,
          '-cepext',
          '.raw',
          '-adcin',
          'yes',
          '-samprate',
          String(sampleRate),
          '-hyp',
          join(folder, 'hyp'),
          '-ctm',
          heard,
          '-logfn',
          '/dev/null',
        ],
        { signal, lengthSeconds: seconds },
      ).catch((error: Error) => {
        throw /No such file/.test(error.message)
          ? new MediaError(
              'pocketsphinx is not installed. Install the Debian packages pocketsphinx and pocketsphinx-en-us.',
              { cause: error },
            )
          : error;
      });
      words.push(
        ...parseCtm(await readFile(heard, 'utf8'), (name) => stretches[Number(name.replace('stretch-', ''))]!.start),
      );
      done += seconds;
      onProgress?.(done / total);
      from = to;
    }
    return words.sort((a, b) => a.start - b.start);
  },
};

/** CTM (NIST): "name channel start length word confidence" a line. Fillers such as <sil> and [NOISE] are no words. */
export function parseCtm(text: string, startOf: (name: string) => number): Word[] {
  return text.split('\n').flatMap((line) => {
    const [name, , start, length, word, confidence] = line.trim().split(/\s+/);
    if (!word || /^[<[+]/.test(word)) return [];
    const from = startOf(name!) + Number(start);
    return [
      {
        text: word.replace(/\(\d+\)$/, ''),
        start: from,
        end: from + Number(length),
        confidence: Math.min(1, Number(confidence ?? 1)),
      },
    ];
  });
}

/**
 * A command line in the manner of whisper.cpp, when BRIGHT_REEL_WHISPER names the program and
 * BRIGHT_REEL_WHISPER_MODEL its model file: called with `-m MODEL -f WAV -l LANGUAGE -oj -ml 1 -of OUT`, it writes
 * OUT.json with one entry per word and offsets in milliseconds.
 */
export function whisperLike(program: string, modelFile: string, languages: string[]): Recogniser {
  return {
    name: `whisper:${basename(modelFile)}`,
    languages,
    async recognise(file, stretches, { folder, language, sound = firstTrack, signal, onProgress }) {
      if (!existsSync(program))
        throw new MediaError(`The recogniser ${program} is not there. Correct BRIGHT_REEL_WHISPER or leave it out.`);
      if (!existsSync(modelFile))
        throw new MediaError(`The speech model ${modelFile} is not there. Correct BRIGHT_REEL_WHISPER_MODEL.`);
      await mkdir(folder, { recursive: true });
      const words: Word[] = [];
      for (const [index, { start, end }] of stretches.entries()) {
        const wav = join(folder, `stretch-${index}.wav`);
        const out = join(folder, `heard-${index}`);
        await capture(
          'ffmpeg',
          [
            '-v',
            'error',
            '-nostdin',
            '-y',
            '-ss',
            start.toFixed(3),
            '-t',
            (end - start).toFixed(3),
            ...inputArguments(file),
            ...heardAlone(sound),
            '-ac',
            '1',
            '-ar',
            String(sampleRate),
            wav,
          ],
          { signal },
        );
        await capture(
          program,
          ['-m', modelFile, '-f', wav, '-l', language.split('-')[0]!, '-oj', '-ml', '1', '-of', out],
          { signal, lengthSeconds: end - start },
        );
        words.push(...parseWhisper(await readFile(`${out}.json`, 'utf8'), start));
        onProgress?.((index + 1) / stretches.length);
      }
      return words;
    },
  };
}

interface WhisperJson {
  transcription?: { text: string; offsets: { from: number; to: number }; tokens?: { p?: number }[] }[];
}

/** Entries without a leading space go on the word before them. */
export function parseWhisper(text: string, start: number): Word[] {
  const words: Word[] = [];
  for (const entry of (JSON.parse(text) as WhisperJson).transcription ?? []) {
    const plain = entry.text.trim();
    if (!plain || /^[[(].*[\])]$/.test(plain)) continue;
    const chances = (entry.tokens ?? []).map((token) => token.p).filter((p): p is number => typeof p === 'number');
    const word = {
      text: plain,
      start: start + entry.offsets.from / 1000,
      end: start + entry.offsets.to / 1000,
      confidence: chances.length ? Math.min(...chances) : 1,
    };
    const last = words.at(-1);
    if (last && !/^\s/.test(entry.text)) {
      last.text += plain;
      last.end = word.end;
    } else words.push(word);
  }
  return words;
}

/** The recognisers of this machine; the first is used. */
export function recognisers(env?: NodeJS.ProcessEnv): Recogniser[] {
  const known = settings(env);
  const { BRIGHT_REEL_WHISPER: program, BRIGHT_REEL_WHISPER_MODEL: model } = known;
  return program && model
    ? [whisperLike(program, model, known.BRIGHT_REEL_WHISPER_LANGUAGES), pocketsphinx]
    : [pocketsphinx];
}
