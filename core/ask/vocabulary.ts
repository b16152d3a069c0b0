import { objectLabels, type ObjectLabel } from '#core/picture';
import type { Term, Way } from './types';

/** Words that only hold a request together. */
export const fillers = new Set([
  'a',
  'an',
  'the',
  'of',
  'in',
  'on',
  'at',
  'is',
  'are',
  'was',
  'were',
  'there',
  'where',
  'when',
  'show',
  'find',
  'give',
  'me',
  'all',
  'any',
  'some',
  'every',
  'shot',
  'shots',
  'moment',
  'moments',
  'clip',
  'clips',
  'footage',
  'scene',
  'scenes',
  'stretch',
  'stretches',
  'picture',
  'pictures',
  'video',
  'part',
  'parts',
  'please',
  'i',
  'want',
  'it',
  'that',
  'which',
  'who',
  'this',
  'only',
  'just',
  'very',
  'really',
  'up',
  'somewhere',
  'something',
  'camera',
  'sound',
  'going',
  'seen',
  'visible',
  'has',
  'have',
  'having',
  'be',
  'being',
  'their',
  'them',
  'they',
  'from',
  'to',
  'during',
  'for',
]);

const numbers = [
  'no',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];
/** "two" or "2"; null when it is no number. */
export function numberOf(word: string): number | null {
  if (/^\d+(\.\d+)?$/.test(word)) return Number(word);
  const at = numbers.indexOf(word);
  if (at > 0) return at;
  return { fifteen: 15, twenty: 20, thirty: 30, forty: 40, sixty: 60, half: 0.5, couple: 2 }[word] ?? null;
}

/** A word's stem, so that "boats" finds "boat" and "cheering" "cheer" (the plainest steps of Porter 1980). */
export function stem(word: string): string {
  let plain = word
    .toLowerCase()
    .replace(/[’']s?$/u, '')
    .replace(/[^\p{L}\p{N}]/gu, '');
  if (plain.length > 4 && /(ss|x|ch|sh)es$/.test(plain)) plain = plain.slice(0, -2);
  else if (plain.length > 4 && plain.endsWith('ies')) plain = `${plain.slice(0, -3)}y`;
  else if (plain.length > 3 && /[^s]s$/.test(plain)) plain = plain.slice(0, -1);
  for (const ending of ['ing', 'ed']) {
    if (!plain.endsWith(ending) || plain.length < ending.length + 3) continue;
    plain = plain.slice(0, -ending.length);
    if (/([^aeiouls])\1$/.test(plain)) plain = plain.slice(0, -1);
  }
  return plain;
}

const camera = (move: Extract<Term, { kind: 'camera' }>['move'], way: Way | null = null): Term => ({
  kind: 'camera',
  move,
  way,
});
const sound = (what: Extract<Term, { kind: 'sound' }>['what']): Term => ({ kind: 'sound', what });
const faces = (least: number, most: number | null = null): Term => ({ kind: 'faces', least, most });
const size = (value: 'close' | 'medium' | 'wide'): Term => ({ kind: 'size', size: value });
const light = (what: Extract<Term, { kind: 'light' }>['what']): Term => ({ kind: 'light', what });
const action = (much: 'fast' | 'calm'): Term => ({ kind: 'action', much });

const moves: [string, Extract<Term, { kind: 'camera' }>['move']][] = [
  ['pan', 'pan'],
  ['panning', 'pan'],
  ['tilt', 'tilt'],
  ['tilting', 'tilt'],
  ['zoom', 'zoom'],
  ['zooming', 'zoom'],
  ['whip', 'whip'],
  ['whip pan', 'whip'],
];
const ways: Way[] = ['left', 'right', 'up', 'down', 'in', 'out'];

/** Phrases and what they mean; longer ones are tried first. */
export const phrases = new Map<string, Term>([
  ['somebody', faces(1)],
  ['someone', faces(1)],
  ['face', faces(1)],
  ['person', faces(1)],
  ['people', faces(2)],
  ['faces', faces(2)],
  ['group', faces(3)],
  ['crowd', faces(4)],
  ['everyone', faces(2)],
  ['everybody', faces(2)],
  ['nobody', faces(0, 0)],
  ['no one', faces(0, 0)],
  ['nobody in frame', faces(0, 0)],
  ['alone', faces(1, 1)],
  ['empty', faces(0, 0)],
  ['smile', { kind: 'smile' }],
  ['smiling', { kind: 'smile' }],
  ['smiles', { kind: 'smile' }],
  ['laugh', { kind: 'smile' }],
  ['laughs', { kind: 'smile' }],
  ['laughing', { kind: 'smile' }],
  ['laughter', { kind: 'smile' }],
  ['happy', { kind: 'smile' }],
  ['everyone laughing', { kind: 'smile' }],
  ['everybody laughing', { kind: 'smile' }],
  ...moves.flatMap(([word, move]): [string, Term][] => [
    [word, camera(move)],
    ...ways.map((way): [string, Term] => [`${word} ${way}`, camera(move, way)]),
  ]),
  ['still', camera('still')],
  ['static', camera('still')],
  ['locked off', camera('still')],
  ['tripod', camera('still')],
  ['moving camera', camera('move')],
  ['camera move', camera('move')],
  ['camera moves', camera('move')],
  ['shaky', camera('shaky')],
  ['shaking', camera('shaky')],
  ['shake', camera('shaky')],
  ['wobbly', camera('shaky')],
  ['steady', camera('steady')],
  ['smooth', camera('steady')],
  ['stable', camera('steady')],
  ['fast', action('fast')],
  ['quick', action('fast')],
  ['action', action('fast')],
  ['moving', action('fast')],
  ['motion', action('fast')],
  ['busy', action('fast')],
  ['calm', action('calm')],
  ['slow', action('calm')],
  ['peaceful', action('calm')],
  ['motionless', action('calm')],
  ['loud', sound('loud')],
  ['noisy', sound('loud')],
  ['bang', sound('loud')],
  ['cheer', sound('cheer')],
  ['cheers', sound('cheer')],
  ['cheering', sound('cheer')],
  ['applause', sound('cheer')],
  ['clapping', sound('cheer')],
  ['shouting', sound('cheer')],
  ['quiet', sound('quiet')],
  ['soft sound', sound('quiet')],
  ['silent', sound('silence')],
  ['silence', sound('silence')],
  ['talk', sound('talk')],
  ['talking', sound('talk')],
  ['talks', sound('talk')],
  ['speech', sound('talk')],
  ['speaking', sound('talk')],
  ['speaks', sound('talk')],
  ['interview', sound('talk')],
  ['music', sound('music')],
  ['song', sound('music')],
  ['close', size('close')],
  ['close up', size('close')],
  ['close-up', size('close')],
  ['closeup', size('close')],
  ['near', size('close')],
  ['medium', size('medium')],
  ['medium shot', size('medium')],
  ['wide', size('wide')],
  ['wide shot', size('wide')],
  ['far', size('wide')],
  ['distant', size('wide')],
  ['dark', light('dark')],
  ['night', light('dark')],
  ['bright', light('bright')],
  ['well lit', light('bright')],
  ['sunny', light('bright')],
  ['sharp', light('sharp')],
  ['in focus', light('sharp')],
  ['blurred', light('blurred')],
  ['blurry', light('blurred')],
  ['out of focus', light('blurred')],
  ['soft', light('blurred')],
]);

/** Everyday words for things of the reader's list, besides their own names. */
const otherNames: Record<string, ObjectLabel> = {
  boats: 'boat',
  ship: 'boat',
  raft: 'boat',
  canoe: 'boat',
  bike: 'bicycle',
  plane: 'airplane',
  motorbike: 'motorcycle',
  lorry: 'truck',
  ball: 'sports ball',
  phone: 'cell phone',
  television: 'tv',
  table: 'dining table',
  sofa: 'couch',
  plant: 'potted plant',
  glass: 'wine glass',
  bag: 'handbag',
  puppy: 'dog',
  kitten: 'cat',
};

/** Names of things, one and many, and how many are meant. */
export const things: ReadonlyMap<string, ObjectLabel> = new Map<string, ObjectLabel>([
  ...objectLabels
    .filter((label) => label !== 'person')
    .flatMap((label): [string, ObjectLabel][] => [
      [label, label],
      [plural(label), label],
    ]),
  ...Object.entries(otherNames).flatMap(([name, label]): [string, ObjectLabel][] => [
    [name, label],
    [plural(name), label],
  ]),
]);

function plural(word: string): string {
  if (/(s|x|ch|sh)$/.test(word)) return `${word}es`;
  if (/[^aeiou]y$/.test(word)) return `${word.slice(0, -1)}ies`;
  return word.endsWith('s') ? word : `${word}s`;
}
