import { runsOf } from '#core/readings';
import { counted } from '#core/sentences';
import { coveredSeconds, formatClock, lengthOf, overlap, type Range } from '#core/time';
import { kindOf, usualFaces } from './kinds';
import { meanIngredients, type Prepared } from './score';
import { cameraWords } from './why';

/** What is known of footage beside its readings: what was said in which file, and who is in it. */
export interface Known {
  words: Readonly<Record<string, readonly (Range & { text: string })[]>>;
  people: readonly { name: string; tracks: readonly (Range & { media: string })[] }[];
}

/** Nobody said anything that is known, and nobody is known. */
export const nothingKnown: Known = { words: {}, people: [] };

/** Longest line of speech in a title, in letters. */
const longestLine = 44;

/**
 * What a stretch is, in a few words: the line that is said and by whom, who is in the picture and how, what moves and how
 * fast, where the camera goes. By its strongest ingredient, as `kindOf` says.
 */
export function momentTitle(prepared: Prepared, range: Range, known: Known = nothingKnown): string {
  const { id } = prepared.footage;
  const who = namesIn(known, id, range);
  const faces = facesSaid(prepared, range, who);
  const things = thingsIn(prepared, range);
  const title = (() => {
    switch (kindOf(prepared, range)) {
      case 'talk': {
        const line = lineIn(known.words[id] ?? [], range);
        const speaker = who.length === 1 ? who[0]! : null;
        if (line) return speaker ? `${speaker}: “${line}”` : `“${line}”`;
        return speaker ? `${speaker} talks` : faces ? `Talk, ${faces}` : 'Talk, nobody seen';
      }
      case 'reaction':
        return faces
          ? `${usualFaces(prepared, range) > 2 ? 'The crowd cheers' : 'Loud laugh or call'}, ${faces}`
          : joined('A loud moment', things);
      case 'action': {
        const pace = meanIngredients(prepared, range.start, range.end).action > 0.6 ? 'fast' : 'moving';
        return things ? `${things}, ${pace}` : joined(pace === 'fast' ? 'Fast action' : 'Movement', faces);
      }
      case 'camera':
        return joined(cameraWords(prepared, range), faces ?? things);
      case 'group':
      case 'faces':
        return faces!;
      case 'photo':
        return joined('Photo', faces ?? things);
      case 'scenery':
        return things ? `Still view, ${things}` : 'Still view, nobody in it';
    }
  })();
  return title.charAt(0).toUpperCase() + title.slice(1);
}

/** Titles of moments that stand on one screen: where two would be the same, each says when it is, and at last which one. */
export function titlesApart(moments: readonly (Range & { media: string })[], titles: readonly string[]): string[] {
  const parted = (list: readonly string[], more: (index: number, nth: number) => string) => {
    const count = new Map<string, number>();
    for (const title of list) count.set(title, (count.get(title) ?? 0) + 1);
    const nth = new Map<string, number>();
    return list.map((title, index) => {
      if (count.get(title) === 1) return title;
      nth.set(title, (nth.get(title) ?? 0) + 1);
      return `${title}${more(index, nth.get(title)!)}`;
    });
  };
  const timed = parted(titles, (index) => `, at ${formatClock(moments[index]!.start)}`);
  return parted(timed, (_, nth) => ` (${nth})`);
}

const joined = (...parts: (string | null)[]): string => parts.filter(Boolean).join(', ');

/** Named people who are in the picture for a good part of a stretch, longest first. */
function namesIn({ people }: Known, media: string, range: Range): string[] {
  return people
    .map(({ name, tracks }) => ({
      name,
      seconds: coveredSeconds(
        range,
        tracks.filter((track) => track.media === media),
      ),
    }))
    .filter(({ name, seconds }) => name !== '' && seconds > 0.4 * lengthOf(range))
    .sort((a, b) => b.seconds - a.seconds)
    .map(({ name }) => name);
}

/** "Willa and Ned, smiling", "5 faces, wide"; null where nobody is seen. */
function facesSaid(prepared: Prepared, range: Range, who: readonly string[]): string | null {
  const { traces, hz } = prepared.footage;
  const count = usualFaces(prepared, range);
  if (count === 0) return null;
  const from = Math.round(range.start * hz);
  const to = Math.max(from + 1, Math.round(range.end * hz));
  const area = traces.faceArea.subarray(from, to).reduce((most, value) => Math.max(most, value), 0);
  const smile = traces.smile.subarray(from, to).reduce((sum, value) => sum + value, 0) / (to - from);
  const named = who.slice(0, 2).join(' and ');
  const others = count - Math.min(2, who.length);
  const people = named ? (others > 1 ? `${named} and ${others} others` : named) : counted(count, 'face');
  const size = area > 0.07 ? 'close' : area > 0.015 ? 'medium' : 'wide';
  return `${people}, ${smile > 0.6 ? 'smiling' : size}`;
}

/** "2 boats": what else than people is in the picture most of the time. */
function thingsIn({ footage }: Prepared, range: Range): string | null {
  const seen = runsOf(footage.runs, 'object')
    .filter((run) => run.label !== 'person' && overlap(run, range) > lengthOf(range) / 2)
    .sort((a, b) => (b.size ?? 0) - (a.size ?? 0))[0];
  if (!seen?.label) return null;
  const most = Math.max(1, Math.round(seen.amount ?? 1));
  return counted(most, seen.label);
}

/** What is said in a stretch, shortened at a word. */
function lineIn(words: readonly (Range & { text: string })[], range: Range): string | null {
  let line = '';
  for (const word of words) {
    if (overlap(word, range) < lengthOf(word) / 2) continue;
    const longer = line ? `${line} ${word.text}` : word.text;
    if (longer.length > longestLine)
      return line ? `${line.replace(/[.,;:!?]$/, '')}…` : `${longer.slice(0, longestLine)}…`;
    line = longer;
  }
  return line ? line.replace(/[.,;:]$/, '') : null;
}
