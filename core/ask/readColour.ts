import { colourNames, type ColourName } from '#core/picture';
import type { Token } from './tokens';
import type { Lexicon, Term } from './types';
import { thingNamed } from './vocabulary';

/** Other words for the basic colours. */
const otherColours: Record<string, ColourName> = {
  gray: 'grey',
  silver: 'grey',
  crimson: 'red',
  scarlet: 'red',
  ginger: 'orange',
  golden: 'yellow',
  gold: 'yellow',
  blond: 'yellow',
  blonde: 'yellow',
  turquoise: 'green',
  teal: 'green',
  navy: 'blue',
  violet: 'purple',
  lilac: 'purple',
  magenta: 'pink',
  beige: 'brown',
  tan: 'brown',
};
const colours: ReadonlyMap<string, ColourName> = new Map([
  ...colourNames.map((name): [string, ColourName] => [name, name]),
  ...Object.entries(otherColours),
]);

const shades = new Set(['dark', 'light', 'bright', 'pale', 'deep']);
const articles = new Set(['a', 'an', 'the', 'his', 'her', 'their', 'my', 'something']);
const onHead = new Set('hat hats cap caps helmet helmets hood beanie scarf headscarf hair haired bonnet'.split(' '));
const clothes = new Set(
  (
    'clothes clothing shirt shirts t-shirt t-shirts tshirt blouse jacket jackets coat coats dress dresses jumper sweater ' +
    'hoodie vest vests jersey jerseys uniform uniforms suit top overalls cardigan pullover life-jacket'
  ).split(' '),
);

/**
 * A colour, of what: "red boats", "dark green jacket", "in the red hat", "wearing blue", "something yellow". Without
 * a word behind it, whatever is of that colour; behind “in” or “wearing”, somebody.
 */
export function readColour(
  tokens: readonly Token[],
  at: number,
  lexicon: Lexicon,
): { term: Term; count: number } | null {
  const word = (index: number) => (tokens[index]?.quoted ? undefined : tokens[index]?.word);
  let next = at;
  const isWorn = ['in', 'wearing', 'wears', 'wear', 'dressed'].includes(word(next) ?? '');
  if (isWorn) next += word(next) === 'dressed' && word(next + 1) === 'in' ? 2 : 1;
  if (isWorn || word(next) === 'something') while (articles.has(word(next) ?? '')) next++;
  if (shades.has(word(next) ?? '') && colours.has(word(next + 1) ?? '')) next++;
  const colour = colours.get(word(next) ?? '');
  if (!colour) return null;
  next++;
  const noun = word(next) ?? '';
  const after = word(next + 1) ?? '';
  const coloured = (of: Extract<Term, { kind: 'coloured' }>['of'], words: number) => ({
    term: { kind: 'coloured' as const, colour, of },
    count: next + words - at,
  });
  if (onHead.has(noun)) return coloured('head', 1);
  if (clothes.has(noun)) return coloured('clothes', 1);
  if (noun === 'life' && /^jackets?$/.test(after)) return coloured('clothes', 2);
  const long = after ? thingNamed(`${noun} ${after}`, lexicon) : null;
  const thing = long ?? thingNamed(noun, lexicon);
  if (thing) return coloured(thing, long ? 2 : 1);
  // "An orange" is a fruit.
  if (!isWorn && tokens[at]!.word === 'orange') return null;
  return coloured(isWorn ? 'worn' : 'anything', /^(ones?|things?|stuff|colou?red)$/.test(noun) ? 1 : 0);
}
