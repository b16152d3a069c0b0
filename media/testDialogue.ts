import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { seededRandom } from '#core/signal';
import type { Range } from '#core/time';
import type { VoiceTurn } from '#core/voices';
import { ffmpeg } from './testMedia';
import { promptTexts, talkOf, type PromptLanguage } from './testSpeech';

/** A made dialogue: prompts of several readers in turns of one to ten seconds, with short pauses. */
export interface Dialogue {
  file: string;
  seconds: number;
  /** Who speaks when. */
  turns: (Range & { who: PromptLanguage })[];
}

/** Prompts with fewer letters hold a word or two. */
const leastLetters = 20;

export function dialogueOf(
  folder: string,
  name: string,
  who: readonly PromptLanguage[],
  seconds: number,
  seed: number,
): Dialogue {
  const random = seededRandom(seed);
  const left = new Map(
    who.map((language) => [language, promptTexts(language).filter(({ text }) => text.length >= leastLetters)]),
  );
  const chosen: { name: string; text: string; language: PromptLanguage }[] = [];
  const pauses: number[] = [];
  let speaker = 0;
  // About fifteen letters a second (common practice, no source).
  for (let at = 0; at < seconds * 15;) {
    const language = who[speaker]!;
    const own = left.get(language)!;
    for (let turn = 1 + Math.floor(random() * 4); turn > 0; turn--) {
      const [prompt] = own.splice(Math.floor(random() * own.length), 1);
      if (!prompt) throw new Error(`There are too few prompts in ${language}.`);
      chosen.push({ ...prompt, language });
      pauses.push(0.05 + random() * (turn === 1 ? 0.6 : 0.3));
      at += prompt.text.length + 3;
    }
    if (who.length > 1) speaker = (speaker + 1 + Math.floor(random() * (who.length - 1))) % who.length;
  }
  const talk = talkOf(folder, name, chosen, who[0]!, (at) => pauses[at]!);
  const turns: Dialogue['turns'] = [];
  for (const { start, end, language } of talk.said) {
    const last = turns.at(-1);
    if (last?.who === language && start - last.end < 0.4) last.end = end;
    else turns.push({ start, end, who: language });
  }
  return { file: talk.file, seconds: talk.seconds, turns };
}

/**
 * A dialogue in which people cut in: some turns begin before the one before has ended.
 * @returns also where two speak at once
 */
export function dialogueAtOnce(
  folder: string,
  name: string,
  who: readonly PromptLanguage[],
  seconds: number,
  seed: number,
): Dialogue & { together: Range[] } {
  const given = dialogueOf(folder, name, who, seconds, seed);
  const random = seededRandom(seed + 1);
  const sound = readSamples(given.file);
  const mixed = new Float32Array(sound.length);
  const turns: Dialogue['turns'] = [];
  const together: Range[] = [];
  for (const turn of given.turns) {
    const last = turns.at(-1);
    const length = turn.end - turn.start;
    const pause = 0.1 + 0.4 * random();
    const early = Math.min(0.7 * length, last ? 0.7 * (last.end - last.start) : 0, 0.6 + 2 * random());
    const cutsIn = last !== undefined && last.who !== turn.who && random() < 0.4;
    const start = Math.max(0, (last?.end ?? 0) + (cutsIn ? -early : pause));
    if (cutsIn) together.push({ start, end: Math.min(last.end, start + length) });
    const [from, to] = [Math.round(turn.start * rate), Math.round(start * rate)];
    for (let at = 0; at < length * rate && to + at < mixed.length; at++)
      mixed[to + at] = mixed[to + at]! + (sound[from + at] ?? 0);
    turns.push({ start, end: start + length, who: turn.who });
  }
  const file = `${given.file}.at-once.wav`;
  writeFileSync(`${file}.raw`, Buffer.from(mixed.buffer));
  ffmpeg('-f', 'f32le', '-ar', String(rate), '-ac', '1', '-i', `${file}.raw`, file);
  return { file, seconds: given.seconds, turns, together };
}

const rate = 16_000;
function readSamples(file: string): Float32Array {
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', String(rate), '-f', 'f32le', '-'], {
    maxBuffer: 1e9,
  });
  return new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
}

/**
 * Diarisation error as NIST counts it (Rich Transcription 2009, md-eval): of the seconds in which somebody speaks, those that are
 * missed, heard where nobody speaks, or given to somebody else, by the best assignment of voices to people; here without a
 * margin at the edges of turns, in steps of 10 ms.
 */
export function diarisationError({ turns, seconds }: Dialogue, found: readonly VoiceTurn[]): number {
  const steps = Math.ceil(seconds * 100);
  const people = [...new Set(turns.map(({ who }) => who))];
  const voices = [...new Set(found.map(({ voice }) => voice))];
  const label = (ranges: readonly (Range & { number: number })[]): Int32Array => {
    const labels = new Int32Array(steps).fill(-1);
    for (const { start, end, number } of ranges)
      labels.fill(number, Math.round(start * 100), Math.max(0, Math.round(end * 100)));
    return labels;
  };
  const truth = label(turns.map((turn) => ({ ...turn, number: people.indexOf(turn.who) })));
  const heard = label(found.map((turn) => ({ ...turn, number: voices.indexOf(turn.voice) })));
  const together = people.map(() => voices.map(() => 0));
  let spoken = 0,
    wrong = 0;
  for (let step = 0; step < steps; step++) {
    const [person, voice] = [truth[step]!, heard[step]!];
    if (person >= 0) spoken++;
    if (person >= 0 && voice >= 0) together[person]![voice]!++;
    else if (person >= 0 || voice >= 0) wrong++;
  }
  const both = together.flat().reduce((sum, count) => sum + count, 0);
  return (wrong + both - bestAssignment(together)) / Math.max(1, spoken);
}

/** The most that can be right when nobody has two voices; there are few of both. */
function bestAssignment(together: readonly number[][], person = 0, taken: ReadonlySet<number> = new Set()): number {
  const row = together[person];
  if (!row) return 0;
  let best = bestAssignment(together, person + 1, taken);
  for (const [voice, count] of row.entries())
    if (count > 0 && !taken.has(voice))
      best = Math.max(best, count + bestAssignment(together, person + 1, new Set([...taken, voice])));
  return best;
}
