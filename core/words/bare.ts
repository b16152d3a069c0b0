/** A word without its case and its punctuation, for comparing: “Don't!” is “don't”. */
export const bareWord = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/[^\p{L}\p{N}']/gu, '');
