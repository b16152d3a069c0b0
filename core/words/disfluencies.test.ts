import { describe, expect, it } from 'vitest';
import { disfluenciesIn, type Word } from '.';

/** Words a quarter of a second long with a tenth between; a bar is a pause of half a second, a question mark makes a word doubtful. */
function said(text: string): Word[] {
  let at = 0;
  return text.split(' ').flatMap((part) => {
    if (part === '|') {
      at += 0.5;
      return [];
    }
    const start = at;
    at += 0.35;
    const isDoubt = part.startsWith('?');
    return [{ text: isDoubt ? part.slice(1) : part, start, end: start + 0.25, confidence: isDoubt ? 0.3 : 1 }];
  });
}
const found = (text: string, language?: string) => {
  const words = said(text);
  return disfluenciesIn(words, language).map(
    ({ kind, from, to }) =>
      `${kind}: ${words
        .slice(from, to)
        .map((word) => word.text)
        .join(' ')}`,
  );
};

// What counts as a filler, a false start and a take: common practice of editing speech, no source.
describe('fillers', () => {
  it('are sounds of hesitation, in the language that is spoken', () => {
    expect(found('Um, the boats are, uh, in the water.')).toEqual(['filler: Um,', 'filler: uh,']);
    expect(found('Ähm, die Boote sind im Wasser.', 'de-DE')).toEqual(['filler: Ähm,']);
    // “Er” is a word in German, and “um” too.
    expect(found('Er geht um den Teich.', 'de')).toEqual([]);
  });
  it('are phrases only where they stand apart', () => {
    expect(found('It was, you know, quite wet.')).toEqual(['filler: you know,']);
    expect(found('Do you know the way? It is | sort of | far.')).toEqual(['filler: sort of']);
    expect(found('Boats like these sink. You know. I like it.')).toEqual([]);
  });
});

describe('false starts', () => {
  it('are words that are begun anew, of which the last stay', () => {
    expect(found('We we paddle to the the pier.')).toEqual(['false start: We', 'false start: the']);
    expect(found('I was going I was going to sink.')).toEqual(['false start: I was going']);
    expect(found('The card- cardboard got wet.')).toEqual(['false start: card-']);
  });
  it('are found after words that lead nowhere, where speech breaks off', () => {
    expect(found('I think the red | I think it sank.')).toEqual(['false start: I think the red']);
    expect(found('I think the red— I think it sank.')).toEqual(['false start: I think the red—']);
  });
  it('are not what is said twice on purpose', () => {
    expect(found('It was very very wet, no no no!')).toEqual([]);
    expect(found('The boat and the boat house burned.')).toEqual([]);
    expect(found('Go on. Go on and paddle.')).toEqual([]);
    expect(found('I think so and I think it floats.')).toEqual([]);
  });
  it('are not built on doubtful words', () => {
    expect(found('We ?we paddle.')).toEqual([]);
  });
});

describe('earlier takes', () => {
  it('are sentences that are said again right after, almost the same; the last is kept', () => {
    expect(
      found('The first boat sank in the bath. | The first boat sank in the tub. | Then it rained all day.'),
    ).toEqual(['earlier take: The first boat sank in the bath.']);
    expect(found('Every boat has two seats. | Every oar has a red blade. | Every boat has two seats.')).toEqual([]);
  });
  it('lie over nothing else', () => {
    const words = said('Um, the the boat sank fast here. | Um, the boat sank fast here.');
    const places = disfluenciesIn(words);
    for (const [at, slip] of places.entries()) if (at > 0) expect(slip.from).toBeGreaterThanOrEqual(places[at - 1]!.to);
    expect(places[0]!.kind).toBe('earlier take');
    expect(places.at(-1)).toEqual({ kind: 'filler', from: 7, to: 8 });
  });
});

it('takes time about as the number of words, and nothing of nothing', () => {
  expect(disfluenciesIn([])).toEqual([]);
  const long = said(Array.from({ length: 20_000 }, (_, at) => (at % 10 === 9 ? 'um' : `word${at % 97}`)).join(' '));
  expect(disfluenciesIn(long)).toHaveLength(2000);
});
