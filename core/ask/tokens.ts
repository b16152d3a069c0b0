/** A word, quotation or sign of a request. */
export interface Token {
  text: string;
  /** Lower case. */
  word: string;
  start: number;
  end: number;
  quoted: boolean;
}

/** Words, quotations, brackets and commas; signs at the end of words are left out. */
export function tokenize(text: string): Token[] {
  return [...text.matchAll(/["“”]([^"“”]*)["“”]|[(),&]|[^\s(),&"“”]+/gu)].flatMap((match): Token[] => {
    const quoted = match[1] !== undefined;
    const plain = quoted ? match[1]! : match[0].replace(/[.!?;:…]+$/u, '');
    if (!plain.trim()) return [];
    const end = match.index + (quoted ? match[0].length : plain.length);
    return [{ text: plain, word: plain.toLowerCase().replaceAll('’', "'"), start: match.index, end, quoted }];
  });
}

/** Some tokens as they stand in a row, in lower case. */
export const phraseOf = (tokens: readonly Token[], at: number, count: number): string =>
  tokens
    .slice(at, at + count)
    .map((token) => token.word)
    .join(' ');
