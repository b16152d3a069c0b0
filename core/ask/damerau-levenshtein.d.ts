declare module 'damerau-levenshtein' {
  /** Edits between two words; `relative` to the longer one's length, `similarity` is the rest to 1. */
  export default function levenshtein(
    one: string,
    other: string,
  ): { steps: number; relative: number; similarity: number };
}
