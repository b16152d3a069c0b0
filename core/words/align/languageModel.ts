/** What is taken from every count for what was not seen: Ney, Essen and Kneser (1994), absolute discounting. */
const discount = 0.5;
/** What stands at the beginning and the end of what is said. */
const [opening, closing] = ['<s>', '</s>'];
const floor = 1e-5;

const log10 = (value: number) => Math.log10(value).toFixed(4);

/**
 * A language model of three words in a row for what somebody will say who follows a text, in the ARPA format (as SRILM and CMU Sphinx
 * read it), with back-off to two and one (Katz 1987).
 * @param words names in the dictionary, in the order of the text
 */
export function languageModelOf(words: readonly string[]): string {
  const text = [opening, ...words, closing];
  const counts = [1, 2, 3].map((length) => {
    const found = new Map<string, number>();
    for (let at = 0; at + length <= text.length; at++) {
      const key = text.slice(at, at + length).join(' ');
      found.set(key, (found.get(key) ?? 0) + 1);
    }
    return found;
  });
  const [single, double, triple] = counts as [Map<string, number>, Map<string, number>, Map<string, number>];
  const total = text.length - 1;
  const one = new Map([...single].map(([word, count]) => [word, word === opening ? floor : count / total]));
  const two = backedOff(double, single, one);
  const three = backedOff(triple, double, two.probability);
  const section = (length: number, rows: string[]) => ['', `\\${length}-grams:`, ...rows];
  return [
    '\\data\\',
    ...counts.map((found, at) => `ngram ${at + 1}=${found.size}`),
    ...section(
      1,
      [...one].map(([word, p]) => `${log10(p)} ${word} ${log10(two.weight.get(word) ?? 1)}`),
    ),
    ...section(
      2,
      [...two.probability].map(([key, p]) => `${log10(p)} ${key} ${log10(three.weight.get(key) ?? 1)}`),
    ),
    ...section(
      3,
      [...three.probability].map(([key, p]) => `${log10(p)} ${key}`),
    ),
    '',
    '\\end\\',
    '',
  ].join('\n');
}

/** Probabilities of longer sequences, and what each beginning leaves to shorter ones. */
function backedOff(
  longer: ReadonlyMap<string, number>,
  beginnings: ReadonlyMap<string, number>,
  shorter: ReadonlyMap<string, number>,
) {
  const probability = new Map<string, number>();
  const kept = new Map<string, { seen: number; below: number }>();
  for (const [key, count] of longer) {
    const beginning = key.slice(0, key.lastIndexOf(' '));
    const p = (count - discount) / beginnings.get(beginning)!;
    probability.set(key, p);
    const sum = kept.get(beginning) ?? { seen: 0, below: 0 };
    sum.seen += p;
    sum.below += shorter.get(key.slice(key.indexOf(' ') + 1)) ?? 0;
    kept.set(beginning, sum);
  }
  const weight = new Map(
    [...kept].map(([key, { seen, below }]) => [key, Math.max(floor, 1 - seen) / Math.max(floor, 1 - below)]),
  );
  return { probability, weight };
}
