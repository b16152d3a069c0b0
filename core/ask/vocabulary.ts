import { objectLabels, type ObjectLabel } from '#core/picture';
import { fillers } from './fillers';
import type { Lexicon, Term, Way } from './types';

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

const nobody = ['no', 'without', 'without any', 'not any', 'never any', 'no visible'];
/** Who is seen cannot be told from who else might be; all of these are somebody. */
const onePerson = 'man woman girl boy child kid guy lady adult baby toddler human gentleman teenager'.split(' ');
const manyPersons = 'men women girls boys children kids guys ladies adults babies humans persons folks'.split(' ');
const smiling = 'smile smiling smiles laugh laughs laughing laughter happy grin grinning giggle giggling'.split(' ');

const moves: [string, Extract<Term, { kind: 'camera' }>['move']][] = [
  ['pan', 'pan'],
  ['pans', 'pan'],
  ['tilts', 'tilt'],
  ['zooms', 'zoom'],
  ['whips', 'whip'],
  ['whip pans', 'whip'],
  ['panning', 'pan'],
  ['tilt', 'tilt'],
  ['tilting', 'tilt'],
  ['zoom', 'zoom'],
  ['zooming', 'zoom'],
  ['whip', 'whip'],
  ['whip pan', 'whip'],
];
/** Words that ask for the most of something. */
export const superlatives: ReadonlyMap<string, Term> = new Map<string, Term>([
  ['loudest', sound('loud')],
  ['noisiest', sound('loud')],
  ['quietest', sound('quiet')],
  ['fastest', action('fast')],
  ['quickest', action('fast')],
  ['busiest', action('fast')],
  ['wildest', action('fast')],
  ['slowest', action('calm')],
  ['calmest', action('calm')],
  ['closest', size('close')],
  ['biggest', size('close')],
  ['largest', size('close')],
  ['nearest', size('close')],
  ['widest', size('wide')],
  ['farthest', size('wide')],
  ['smallest', size('wide')],
  ['darkest', light('dark')],
  ['brightest', light('bright')],
  ['sharpest', light('sharp')],
  ['blurriest', light('blurred')],
  ['happiest', { kind: 'smile', all: false }],
  ['shakiest', camera('shaky')],
]);

const ways: Way[] = ['left', 'right', 'up', 'down', 'in', 'out'];

/** Phrases and what they mean; longer ones are tried first. */
export const phrases = new Map<string, Term>([
  ...nobody.flatMap((no): [string, Term][] =>
    ['people', 'faces', 'face', 'person', 'persons', 'humans'].map((word) => [`${no} ${word}`, faces(0, 0)]),
  ),
  ...['without anybody', 'without anyone', 'not anybody', 'nobody there', 'no one there', 'unoccupied', 'deserted'].map(
    (phrase): [string, Term] => [phrase, faces(0, 0)],
  ),
  ...onePerson.map((word): [string, Term] => [word, faces(1)]),
  ...manyPersons.map((word): [string, Term] => [word, faces(1)]),
  ['somebody', faces(1)],
  ['anybody', faces(1)],
  ['anyone', faces(1)],
  ['someone', faces(1)],
  ['face', faces(1)],
  ['person', faces(1)],
  ['people', faces(1)],
  ['faces', faces(1)],
  ['nobody else', faces(1, 1)],
  ['no one else', faces(1, 1)],
  ['group', faces(3)],
  ['group shot', faces(3)],
  ['everyone', faces(3)],
  ['everybody', faces(3)],
  ['crowd', faces(4)],
  ['audience', faces(4)],
  ['spectators', faces(4)],
  ['nobody', faces(0, 0)],
  ['no one', faces(0, 0)],
  ['nobody in frame', faces(0, 0)],
  ['alone', faces(1, 1)],
  ['empty', faces(0, 0)],
  ...smiling.map((word): [string, Term] => [word, { kind: 'smile', all: false }]),
  ...['everyone', 'everybody', 'all'].flatMap((all) =>
    ['', 'is ', 'are ', 'of them '].flatMap((is) =>
      smiling.map((word): [string, Term] => [`${all} ${is}${word}`, { kind: 'smile', all: true }]),
    ),
  ),
  ...['photo', 'photos', 'photograph', 'photographs', 'stills', 'snapshot', 'snapshots'].map((word): [string, Term] => [
    word,
    { kind: 'photo' },
  ]),
  ...moves.flatMap(([word, move]): [string, Term][] => [
    [word, camera(move)],
    ...ways.flatMap((way): [string, Term][] => [
      [`${word} ${way}`, camera(move, way)],
      [`${word} to the ${way}`, camera(move, way)],
      [`${way} ${word}`, camera(move, way)],
    ]),
  ]),
  ['still', camera('still')],
  ['static', camera('still')],
  ['locked off', camera('still')],
  ['tripod', camera('still')],
  ['moving camera', camera('move')],
  ['camera movement', camera('move')],
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
  ['roar', sound('cheer')],
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
  mug: 'cup',
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

/** Which thing of the reader's list a phrase is, by its names here or as a kind of it in the thesaurus. */
export const thingNamed = (phrase: string, { thesaurus }: Pick<Lexicon, 'thesaurus'>): ObjectLabel | null =>
  things.get(phrase) ?? (fillers.has(phrase) || phrase.length < 3 ? null : thesaurus.thing(phrase));

/** Single words of the vocabulary by their stems, for other forms of them ("cheered"). Things have none but their plural. */
export const phraseStems: ReadonlyMap<string, string> = new Map(
  [...phrases.keys()].filter((phrase) => !/[ -]/.test(phrase)).map((phrase) => [stem(phrase), phrase]),
);

function plural(word: string): string {
  if (/(s|x|ch|sh)$/.test(word)) return `${word}es`;
  if (/[^aeiou]y$/.test(word)) return `${word.slice(0, -1)}ies`;
  return word.endsWith('s') ? word : `${word}s`;
}
