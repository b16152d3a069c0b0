/**
 * A piece of text as a finite state grammar in the form that CMU Sphinx reads: one word after the other. Every word may be
 * left out, and between any two of them something else may be said, which is heard as single phones; both cost.
 * Words go by the names that their pronunciations stand under in the dictionary.
 */
export interface Looseness {
  /** Probability that a word of the text was left out; 0 for texts that are said to the letter. */
  leftOut: number;
  /** Probability of each phone that is said besides the text; 0 to leave them out of the grammar. */
  added: number;
}

/** What is said besides the text is heard as these; a dictionary has to name them. */
export const strayPrefix = 'stray-';

export function pieceGrammar(
  name: string,
  words: readonly string[],
  phones: readonly string[],
  { leftOut, added }: Looseness,
): string {
  const lines = [`FSG_BEGIN ${name}`, `NUM_STATES ${words.length + 1}`, 'START_STATE 0', `FINAL_STATE ${words.length}`];
  for (const [at, word] of words.entries()) {
    lines.push(`TRANSITION ${at} ${at + 1} ${1 - leftOut} ${word}`);
    if (leftOut > 0) lines.push(`TRANSITION ${at} ${at + 1} ${leftOut}`);
  }
  if (added > 0)
    for (let at = 0; at <= words.length; at++)
      for (const phone of phones) lines.push(`TRANSITION ${at} ${at} ${added} ${strayPrefix}${phone}`);
  return [...lines, 'FSG_END', ''].join('\n');
}
