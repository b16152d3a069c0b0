import { lengthOf, overlap, type Range } from '#core/time';
import type { VoiceTurn } from './turns';

/** What is known of one voice. */
export interface VoiceLine {
  voice: number;
  /** That it speaks, in all. */
  seconds: number;
  /** Its longest turn, by which it is known again. */
  longest: Range;
}

/** Every voice, the one that speaks most first. */
export function voicesIn(turns: readonly VoiceTurn[]): VoiceLine[] {
  const lines = new Map<number, VoiceLine>();
  for (const { voice, start, end } of turns) {
    const line = lines.get(voice) ?? { voice, seconds: 0, longest: { start, end } };
    line.seconds += end - start;
    if (end - start > lengthOf(line.longest)) line.longest = { start, end };
    lines.set(voice, line);
  }
  return [...lines.values()].sort((a, b) => b.seconds - a.seconds || a.voice - b.voice);
}

/** Whose turn it is for most of a stretch; null where nobody's is. */
export function voiceAt(turns: readonly VoiceTurn[], range: Range): number | null {
  const seconds = new Map<number, number>();
  for (let at = firstIn(turns, range); at < turns.length && turns[at]!.start < range.end; at++) {
    const turn = turns[at]!;
    seconds.set(turn.voice, (seconds.get(turn.voice) ?? 0) + overlap(turn, range));
  }
  let most: number | null = null;
  for (const [voice, own] of seconds) if (own > 0 && (most === null || own > seconds.get(most)!)) most = voice;
  return most;
}

/** Whose turn it is at a second; null where nobody's is. */
export const voiceNow = (turns: readonly VoiceTurn[], seconds: number): number | null =>
  voiceAt(turns, { start: seconds, end: seconds + 0.001 });

/** Less than this at once is two who give each other the word, in seconds. */
const leastTogether = 0.3;

/** Whoever else speaks in a stretch while another one does, the one who does so longest first. */
export function voicesTogether(turns: readonly VoiceTurn[], range: Range): number[] {
  const own = voiceAt(turns, range);
  const seconds = new Map<number, number>();
  for (let at = firstIn(turns, range); at < turns.length && turns[at]!.start < range.end; at++) {
    const { voice, also, ...turn } = turns[at]!;
    if (also === undefined) continue;
    for (const each of [voice, also])
      if (each !== own) seconds.set(each, (seconds.get(each) ?? 0) + overlap(turn, range));
  }
  return [...seconds]
    .filter(([, length]) => length >= leastTogether)
    .sort((a, b) => b[1] - a[1])
    .map(([voice]) => voice);
}

/** The first turn that does not end before a stretch: turns follow one another. */
function firstIn(turns: readonly VoiceTurn[], range: Range): number {
  let [low, high] = [0, turns.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (turns[middle]!.end <= range.start) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Two voices are one person: all turns of one become turns of the other. */
export const joinVoices = (turns: readonly VoiceTurn[], from: number, into: number): VoiceTurn[] =>
  inARow(
    turns.map(({ also, ...turn }) => {
      const [voice, other] = [turn.voice, also].map((each) => (each === from ? into : each)) as [number, number?];
      // Nobody speaks at the same time as himself.
      return { ...turn, voice, ...(other !== undefined && other !== voice ? { also: other } : {}) };
    }),
  );

/**
 * A stretch is of another voice: turns are parted at its edges, and what of them lies in it changes hands.
 * @param voice null for one that speaks nowhere else yet
 */
export function changeVoice(turns: readonly VoiceTurn[], range: Range, voice: number | null): VoiceTurn[] {
  const own = voice ?? Math.max(-1, ...turns.map((turn) => turn.voice)) + 1;
  return inARow(
    turns.flatMap((turn) => {
      if (overlap(turn, range) <= 0) return [turn];
      const parts: VoiceTurn[] = [
        { ...turn, end: Math.max(turn.start, range.start) },
        { start: Math.max(turn.start, range.start), end: Math.min(turn.end, range.end), voice: own },
        { ...turn, start: Math.min(turn.end, range.end) },
      ];
      return parts.filter(({ start, end }) => end - start > 1e-6);
    }),
  );
}

/** Turns of one voice that touch are one turn. */
function inARow(turns: readonly VoiceTurn[]): VoiceTurn[] {
  const out: VoiceTurn[] = [];
  for (const turn of turns) {
    const last = out.at(-1);
    if (last?.voice === turn.voice && last.also === turn.also && turn.start - last.end < 1e-6) last.end = turn.end;
    else out.push({ ...turn });
  }
  return out;
}

/** So much of what is known of a voice has to speak for one name, and so many seconds at the least. */
const clearShare = 0.6,
  clearSeconds = 2;

/**
 * What voices are called, by stretches of which it is known who speaks, for instance by the mouth that moves: the name that most
 * of them have. Two voices do not get the same name: whoever has more of it gets it.
 */
export function namesOfVoices(
  turns: readonly VoiceTurn[],
  named: readonly (Range & { name: string })[],
): Map<number, string> {
  const seconds = new Map<number, Map<string, number>>();
  for (const { name, ...range } of named)
    for (const turn of turns) {
      const own = overlap(turn, range);
      if (own <= 0) continue;
      const names = seconds.get(turn.voice) ?? new Map<string, number>();
      names.set(name, (names.get(name) ?? 0) + own);
      seconds.set(turn.voice, names);
    }
  const claims = [...seconds].flatMap(([voice, names]) => {
    const all = [...names.values()].reduce((sum, own) => sum + own, 0);
    return [...names].flatMap(([name, own]) =>
      own >= clearSeconds && own >= clearShare * all ? [{ voice, name, own }] : [],
    );
  });
  const found = new Map<number, string>();
  const taken = new Set<string>();
  for (const { voice, name } of claims.sort((a, b) => b.own - a.own)) {
    if (found.has(voice) || taken.has(name)) continue;
    found.set(voice, name);
    taken.add(name);
  }
  return found;
}
