import { franc } from 'franc';

/** A BCP 47 tag as it is taken from outside, such as "de" or "pt-BR". */
export const languageTag = /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/;
/** Whether two tags name one language, wherever it is spoken. */
export const sameLanguage = (a: string, b: string): boolean => a.split('-')[0] === b.split('-')[0];

/** Shorter texts say too little for a guess by their letters. */
const lettersNeeded = 24;

/** Plain English is taken for Scots about as often as not, and hardly anybody writes that. */
const nearEnglish = ['sco'];

const known = (tag: string): string | null => {
  try {
    return Intl.getCanonicalLocales(tag)[0] ?? null;
  } catch {
    return null;
  }
};

/**
 * The language of a text, as a BCP 47 tag such as "de": what the name of its file says ("talk.de.srt"), else what the
 * frequency of its letter triples suggests (Cavnar and Trenkle 1994, N-gram-based text categorization, in `franc`).
 * @param fileName name with ending; may be empty
 * @returns null when neither tells
 */
export function guessLanguage(text: string, fileName = ''): string | null {
  const named = /[._-]([a-z]{2,3}(?:-[a-z]{2})?)\.\w+$/i.exec(fileName)?.[1];
  const name = named && new Intl.DisplayNames(['en'], { type: 'language', fallback: 'none' }).of(named);
  if (named && name) return known(named);
  // Numbers and times of subtitles are no letters of a language.
  const letters = text.replace(/<[^>]*>|\{[^}]*\}|[\d:,.>-]+/g, ' ');
  if (letters.replace(/\s/g, '').length < lettersNeeded) return null;
  const code = franc(letters, { minLength: lettersNeeded, ignore: nearEnglish });
  return code === 'und' ? null : known(code);
}
