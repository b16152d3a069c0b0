/** A word without its case and its punctuation, for comparing: “Don't!” is “don't”. */
export const bareWord = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/[^\p{L}\p{N}']/gu, '');

/** A word as it is to be said: without case and the marks around it, but with those that are said, as in “$5”, “50%” and “12:30”. */
export const spokenWord = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/^[^\p{L}\p{N}$€£]+|[^\p{L}\p{N}%']+$/gu, '')
    .replace(/(?<=\p{L})[^\p{L}\p{N}'-]+(?=\p{L})/gu, ' ');
