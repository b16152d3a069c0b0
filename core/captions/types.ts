import type { Word } from '#core/words';

/** A word as it is heard in a reel, with its place in the transcript of its footage. */
export interface HeardWord extends Word {
  media: string;
  index: number;
  /** Whoever says it, where subtitles are to name them. */
  speaker?: string;
  /** Which of the project's speakers says it, from 0, where captions are coloured by speaker. */
  voice?: number;
}

/** One caption: up to two rows of words that stand together. Times are seconds of the reel. */
export interface CaptionLine {
  start: number;
  end: number;
  words: HeardWord[];
  /** How many of the words stand in the first row. */
  firstRow: number;
  /** Characters a second; see `fastestReading`. */
  pace: number;
}

/** How words are parted into captions. */
export interface CaptionRules {
  /** Letters of a whole caption, over both rows. */
  letters: number;
  /** No caption stands longer, in seconds. */
  longestSeconds: number;
}

/** 32 to 42 letters over two rows on a phone; common practice in subtitling, no source. */
export const captionRules: CaptionRules = { letters: 36, longestSeconds: 7 };
/** Letters a second that can be read well, and at the most; common practice in subtitling (17 for adults, 20 at the most), no source. */
export const easyReading = 17,
  fastestReading = 20;

/** Words as one line of text. */
export const lineText = (words: readonly { text: string }[]): string => words.map((word) => word.text).join(' ');

/** Fonts that ship with the application. */
export type CaptionFont = 'Figtree' | 'Archivo Black' | 'Bricolage Grotesque' | 'Fraunces' | 'Spline Sans Mono';
/** How captions look. Colours are `#rrggbb` or `#rrggbbaa`. */
export interface CaptionStyle {
  font: CaptionFont;
  /** Of the letters, in hundredths of the picture's shorter side. */
  size: number;
  colour: string;
  /** Of the word that is being spoken. */
  lit: string;
  /** Of words that were marked as important. */
  emphasis: string;
  outline: string;
  /** In hundredths of the letters' size. */
  outlineWidth: number;
  /** Behind the rows; null for none. */
  box: string | null;
  /** Middle of the caption as a share of the picture's height. */
  place: number;
  upper: boolean;
  motion: 'none' | 'fade' | 'pop';
  /** At most, over both rows. */
  letters: number;
  /** What the project's second and each further speaker has in place of `colour`, over and over; none where everybody has the same. */
  speakers?: string[];
  /** BCP 47: the language that stands below the one that is shown; none for one language. */
  second?: string;
}

/** Captions that are seen at the same time as others. */
export interface CaptionTrack {
  lines: CaptionLine[];
  style: CaptionStyle;
  /** Whether the word that is being spoken is lit: not in another language than the spoken one. */
  follows: boolean;
}
