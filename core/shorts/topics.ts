import { stem } from '#core/ask';
import { isDoubtful, type Sentence, type Word } from '#core/words';

/** Words that say nothing about a topic: articles, pronouns, prepositions, auxiliaries, the commonest verbs of English. From memory. */
const stopWords = new Set(
  'a about above after again against all am an and any are as at be because been before being below between both but by can did do does doing down during each few for from further get go goes going got had has have having he her here hers him his how i if in into is it its itself just know let like look make many me more most much must my no nor not now of off oh on once one only or other our out over own put really right said same say see she should so some such take than that the their them then there these they thing things this those through to too two under until up us very want was way we well were what when where which while who whom why will with would yes you your ll re ve don doesn didn isn wasn won can couldn'.split(
    ' ',
  ),
);

/** Content words in their basic form; null for words that say nothing about a topic. */
export function termOf(text: string): string | null {
  const bare = text
    .toLowerCase()
    .replace(/['’].*$/, '')
    .replace(/[^\p{L}\p{N}]/gu, '');
  return bare.length < 3 || stopWords.has(bare) ? null : stem(bare);
}

/** How text is parted into topics. */
export interface TilingRules {
  /** Words of a token sequence. */
  sequence: number;
  /** Sequences of a block. */
  block: number;
}
/** Hearst 1997, section 5: sequences of 20 words; blocks about as long as a paragraph. What is said in a few minutes has shorter subjects, so that blocks are half as long there. */
const tilingFor = (words: number): TilingRules =>
  words > 1200 ? { sequence: 20, block: 6 } : { sequence: 15, block: 3 };

/** Where a topic begins. */
export interface TopicBoundary {
  /** Index of the sentence with which the new topic begins. */
  sentence: number;
  /** How deep the valley of likeness is there; see `depthScores`. */
  depth: number;
}

/**
 * Where the subject changes: TextTiling (Hearst 1997, "TextTiling: Segmenting Text into Multi-paragraph Subtopic
 * Passages", Computational Linguistics 23). Blocks of words before and after every gap are compared by the cosine of
 * their counts; valleys deeper than the mean less half a standard deviation are boundaries, moved to sentence ends.
 */
export function topicBoundaries(
  words: readonly Word[],
  sentences: readonly Sentence[],
  rules: TilingRules = tilingFor(words.length),
): TopicBoundary[] {
  const terms = words.map((word) => (isDoubtful(word) ? null : termOf(word.text)));
  const count = Math.floor(terms.length / rules.sequence);
  if (count < 4 || sentences.length < 2) return [];
  const sequences = Array.from({ length: count }, (_, index) =>
    countsOf(terms.slice(index * rules.sequence, index === count - 1 ? undefined : (index + 1) * rules.sequence)),
  );
  const likeness = smooth(gapLikeness(sequences, rules.block));
  const depths = depthScores(likeness);
  const mean = depths.reduce((sum, depth) => sum + depth, 0) / depths.length;
  const deviation = Math.sqrt(depths.reduce((sum, depth) => sum + (depth - mean) ** 2, 0) / depths.length);
  const found: TopicBoundary[] = [];
  for (const [gap, depth] of depths.entries()) {
    // Near the ends there is too little text on one side to compare with.
    if (gap + 1 < rules.block || depths.length - gap < rules.block) continue;
    // Only the bottom of a valley, and not next to a deeper one (at least three sequences between, as published).
    if (
      depth <= mean - deviation / 2 ||
      depth < 0.05 ||
      depths.some(
        (other, at) => at !== gap && Math.abs(at - gap) < 3 && (other > depth || (other === depth && at < gap)),
      )
    )
      continue;
    const word = (gap + 1) * rules.sequence;
    const nearest = sentences
      .slice(1)
      .reduce(
        (best, sentence) => (Math.abs(sentence.from - word) < Math.abs(best.from - word) ? sentence : best),
        sentences[1]!,
      );
    const sentence = sentences.indexOf(nearest);
    if (!found.some((each) => each.sentence === sentence)) found.push({ sentence, depth });
  }
  return found;
}

type Counts = Map<string, number>;
function countsOf(terms: readonly (string | null)[]): Counts {
  const counts: Counts = new Map();
  for (const term of terms) if (term !== null) counts.set(term, (counts.get(term) ?? 0) + 1);
  return counts;
}

function merged(parts: readonly Counts[]): Counts {
  const sum: Counts = new Map();
  for (const part of parts) for (const [term, count] of part) sum.set(term, (sum.get(term) ?? 0) + count);
  return sum;
}

/** Cosine of two lists of counts, 0 to 1. */
export function cosine(a: Counts, b: Counts): number {
  let [dot, aa, bb] = [0, 0, 0];
  for (const [term, count] of a) {
    dot += count * (b.get(term) ?? 0);
    aa += count * count;
  }
  for (const count of b.values()) bb += count * count;
  return aa && bb ? dot / Math.sqrt(aa * bb) : 0;
}

const gapLikeness = (sequences: readonly Counts[], block: number): number[] =>
  Array.from({ length: sequences.length - 1 }, (_, gap) => {
    // At both ends blocks are as long as there is text on both sides.
    const size = Math.min(block, gap + 1, sequences.length - gap - 1);
    return cosine(merged(sequences.slice(gap + 1 - size, gap + 1)), merged(sequences.slice(gap + 1, gap + 1 + size)));
  });

const smooth = (values: readonly number[]): number[] =>
  values.map((value, index) => ((values[index - 1] ?? value) + value + (values[index + 1] ?? value)) / 3);

/** How far likeness climbs on both sides of every gap before it falls again, added up. */
export function depthScores(likeness: readonly number[]): number[] {
  return likeness.map((own, gap) => {
    const climb = (step: number) => {
      let top = own;
      for (let at = gap + step; at >= 0 && at < likeness.length && likeness[at]! >= top; at += step)
        top = likeness[at]!;
      return top - own;
    };
    return climb(-1) + climb(1);
  });
}
