import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { seededRandom } from '#core/signal';
import type { Range } from '#core/time';
import { ffmpeg } from './testMedia';

/** Who reads the prompts, and where Debian's packages lay them. */
const readers = {
  en: 'en_US_f_Allison',
  fr: 'fr_CA_f_June',
  es: 'es_MX_f_Allison',
  it: 'it_IT_m_Carlo',
} as const;
export type PromptLanguage = keyof typeof readers;

const folderOf = (language: PromptLanguage) => `/usr/share/asterisk/sounds/${readers[language]}`;

/**
 * Real recordings with their text: the prompts of Debian's packages asterisk-core-sounds-en, -fr, -es and -it with their
 * -g722 sounds (wideband, read by one voice a language). Those whose text names a sound or an action are left out.
 */
export function promptTexts(language: PromptLanguage): { name: string; text: string }[] {
  const packed = readFileSync(`/usr/share/doc/asterisk-core-sounds-${language}/core-sounds-${language}.txt.gz`);
  return gunzipSync(packed)
    .toString()
    .split('\n')
    .flatMap((line) => {
      const [, name, text] = /^([\w/-]+):\s*(.*?)\s*$/.exec(line) ?? [];
      return name && text && !/[[(<]/.test(text) && existsSync(`${folderOf(language)}/${name}.g722`)
        ? [{ name, text }]
        : [];
    });
}

function promptSound(language: PromptLanguage, name: string): Int16Array {
  const raw = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-f',
      'g722',
      '-i',
      `${folderOf(language)}/${name}.g722`,
      '-ac',
      '1',
      '-ar',
      '16000',
      '-f',
      's16le',
      '-',
    ],
    { maxBuffer: 64e6 },
  );
  return new Int16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
}

/** Where in a sound something is said: from the first to the last 10 ms that come within so many decibels of the loudest. */
function soundingPart(sound: Int16Array, decibels = 35): { from: number; to: number } {
  const hop = 160;
  const levels: number[] = [];
  for (let at = 0; at + hop <= sound.length; at += hop) {
    let sum = 0;
    for (let index = at; index < at + hop; index++) sum += sound[index]! ** 2;
    levels.push(10 * Math.log10(sum / hop + 1));
  }
  const floor = Math.max(...levels) - decibels;
  const from = levels.findIndex((level) => level > floor);
  const to = levels.findLastIndex((level) => level > floor) + 1;
  return { from: from * hop, to: to * hop };
}

export const languageNames: Record<PromptLanguage, string> = {
  en: 'English',
  fr: 'French',
  es: 'Spanish',
  it: 'Italian',
};

/** A recording made of prompts, and when each is said, in seconds. */
export interface PromptTalk {
  file: string;
  said: (Range & { text: string; language: PromptLanguage })[];
  seconds: number;
}

const rate = 16_000;

/**
 * Prompts one after the other, of each only what sounds, over a little noise: digital silence is in no recording.
 * @param language of prompts that name none
 * @param pause seconds after a prompt, by its place
 */
export function talkOf(
  folder: string,
  name: string,
  prompts: readonly { name: string; text: string; language?: PromptLanguage }[],
  language: PromptLanguage,
  pause: (at: number) => number,
): PromptTalk {
  mkdirSync(folder, { recursive: true });
  const parts: Int16Array[] = [];
  const said: PromptTalk['said'] = [];
  let at = 0;
  const put = (sound: Int16Array) => {
    parts.push(sound);
    at += sound.length;
  };
  put(new Int16Array(rate / 2));
  for (const [index, prompt] of prompts.entries()) {
    const spoken = prompt.language ?? language;
    const sound = promptSound(spoken, prompt.name);
    const { from, to } = soundingPart(sound);
    said.push({ text: prompt.text, language: spoken, start: at / rate, end: (at + to - from) / rate });
    put(sound.subarray(from, to));
    put(new Int16Array(Math.round(pause(index) * rate)));
  }
  const all = new Int16Array(at);
  let place = 0;
  for (const part of parts) {
    all.set(part, place);
    place += part.length;
  }
  const noise = seededRandom(7);
  for (let index = 0; index < all.length; index++) all[index] = all[index]! * 0.98 + Math.round(noise() * 32 - 16);
  const file = join(folder, `${name}.wav`);
  writeFileSync(`${file}.raw`, Buffer.from(all.buffer));
  ffmpeg('-f', 's16le', '-ar', String(rate), '-ac', '1', '-i', `${file}.raw`, file);
  return { file, said, seconds: at / rate };
}
