import { settings } from '#settings';
import { existsSync } from 'node:fs';
import { mkdir, readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { firstTrack } from '#core/sound';
import { calibrated, spread, withRivals, type Word } from '#core/words';
import { capture } from '../capture';
import { MediaError } from '../process';
import type { Recogniser } from './recogniser';
import { knowTerms, type KnownTerms } from './knownTerms';
import { serviceRecogniser } from './models/service';
import { decodeSound, hearingArguments, inParts, runSphinx } from './sphinx';

/** So many seconds of sound in one process: its model is loaded once for them, and a part that fails is not the whole. */
const partSeconds = 120;
/** Of the time, what decoding takes. */
const decodingShare = 0.04;
/** Other ways to hear a stretch, of which doubtful places get their rivals. */
const ways = 40;

/**
 * One pass over the sound and the best way through what it found. The second pass of the defaults takes as long again and makes
 * no fewer errors, and the best 3000 states a frame are enough (`npm run accuracy words`, `npm run bench words`).
 */
const searching = ['-fwdflat', 'no', '-maxhmmpf', '3000', '-pl_window', '5'];

/** pocketsphinx with its English model, as Debian ships both. */
export const pocketsphinx: Recogniser = {
  name: 'pocketsphinx',
  revision: 2,
  takesTerms: true,
  languages: ['en-US'],
  async recognise(file, stretches, { folder, sound = firstTrack, terms = [], signal, onProgress }) {
    const end = stretches.at(-1)?.end ?? 0;
    await decodeSound(file, folder, sound, signal, (seconds) =>
      onProgress?.(decodingShare * Math.min(1, seconds / Math.max(1, end))),
    );
    const known = await knowTerms(terms, folder, signal);
    await mkdir(join(folder, 'ways'), { recursive: true });
    const args = [...searching, ...known.args, '-nbest', String(ways), '-nbestdir', join(folder, 'ways')];
    const named = stretches.map((stretch, at) => ({ ...stretch, name: `stretch-${at}` }));
    const heard = new Map<string, Word[]>();
    await inParts(
      named,
      partSeconds,
      (share) => onProgress?.(decodingShare + share * (1 - decodingShare)),
      async (part, name, onSeconds) => {
        const { ctm } = await runSphinx(folder, name, part, args, signal, onSeconds);
        const starts = new Map(part.map((stretch) => [stretch.name, stretch.start]));
        for (const [stretch, words] of parseCtm(ctm, (each) => starts.get(each)!)) heard.set(stretch, words);
      },
    );
    const certain = calibrated(named.flatMap(({ name }) => heard.get(name) ?? []));
    const words: Word[] = [];
    let at = 0;
    for (const { name } of named) {
      const own = certain.slice(at, (at += heard.get(name)?.length ?? 0));
      const variants = own.length > 0 ? await waysToHear(join(folder, 'ways', `${name}.hyp`), known) : [];
      words.push(...withRivals(withTerms(own, known), variants));
    }
    return words;
  },
};

/** Lines of `-nbest`: words and a score, the likeliest first. */
async function waysToHear(file: string, { termOf }: KnownTerms): Promise<string[][]> {
  const text = await readFile(file, 'utf8').catch(() => '');
  return text
    .split('\n')
    .filter(Boolean)
    .map((line) => {
      const words = line.trim().split(/\s+/).slice(0, -1).map(plainWord);
      return words.flatMap((word) => termOf(word)?.split(' ') ?? [word]);
    });
}

/** Pronunciations of a word are told apart by a number. */
const plainWord = (word: string) => word.replace(/\(\d+\)$/, '');

/** Terms as they are written, in the place of what the recogniser calls them. */
function withTerms(words: readonly Word[], { termOf }: KnownTerms): Word[] {
  return words.flatMap((word) => {
    const term = termOf(word.text);
    if (!term) return [word];
    return spread(term.split(' '), word.start, word.end).map((each) => ({ ...each, confidence: word.confidence }));
  });
}

/** Words of each stretch out of CTM (NIST): "name channel start length word confidence" a line. Fillers such as <sil> and [NOISE] are no words. */
export function parseCtm(text: string, startOf: (name: string) => number): Map<string, Word[]> {
  const found = new Map<string, Word[]>();
  for (const line of text.split('\n')) {
    const [name, , start, length, word, confidence] = line.trim().split(/\s+/);
    if (!word || /^[<[+]/.test(word)) continue;
    const from = startOf(name!) + Number(start);
    const words = found.get(name!) ?? [];
    words.push({
      text: plainWord(word),
      start: from,
      end: from + Number(length),
      confidence: Math.min(1, Number(confidence ?? 1)),
    });
    found.set(name!, words);
  }
  return found;
}

/**
 * A command line in the manner of whisper.cpp, when BRIGHT_REEL_WHISPER names the program and
 * BRIGHT_REEL_WHISPER_MODEL its model file: called with `-m MODEL -f WAV -l LANGUAGE -oj -ml 1 -of OUT`, it writes
 * OUT.json with one entry per word and offsets in milliseconds.
 */
export function whisperLike(program: string, modelFile: string, languages: string[]): Recogniser {
  return {
    name: `whisper:${basename(modelFile)}`,
    revision: 1,
    takesTerms: false,
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
  const { BRIGHT_REEL_TRANSCRIPTION_URL: address } = known;
  return [
    ...(program && model ? [whisperLike(program, model, known.BRIGHT_REEL_WHISPER_LANGUAGES)] : []),
    ...(address
      ? [
          serviceRecogniser({
            address,
            key: known.BRIGHT_REEL_TRANSCRIPTION_KEY,
            model: known.BRIGHT_REEL_TRANSCRIPTION_MODEL,
            languages: known.BRIGHT_REEL_WHISPER_LANGUAGES,
          }),
        ]
      : []),
    pocketsphinx,
  ];
}
