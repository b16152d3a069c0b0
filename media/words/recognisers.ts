import { settings } from '#settings';
import { existsSync } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { firstTrack, type SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import type { Word } from '#core/words';
import { capture } from '../capture';
import { MediaError } from '../process';
import { decodeSound, hearingArguments, inParts, runSphinx } from './sphinx';

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

/** So many seconds of sound in one process: its model is loaded once for them, and there is progress to show. */
const partSeconds = 60;

/** pocketsphinx with its English model, as Debian ships both. */
export const pocketsphinx: Recogniser = {
  name: 'pocketsphinx',
  languages: ['en-US'],
  async recognise(file, stretches, { folder, sound = firstTrack, signal, onProgress }) {
    await decodeSound(file, folder, sound, { signal, lengthSeconds: stretches.at(-1)?.end ?? 0 });
    const words: Word[] = [];
    const named = stretches.map((stretch, at) => ({ ...stretch, name: `stretch-${at}` }));
    await inParts(named, partSeconds, onProgress, async (part, name) => {
      const { ctm } = await runSphinx(folder, name, part, [], signal);
      words.push(...parseCtm(ctm, (stretch) => stretches[Number(stretch.replace('stretch-', ''))]!.start));
    });
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
        await capture('ffmpeg', [...hearingArguments(file, sound, { start, end }), wav], { signal });
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
