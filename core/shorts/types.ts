import type { Footage } from '#core/moments';
import type { Range } from '#core/time';
import type { Word } from '#core/words';

/** What recordings can be. */
export const materials = ['talk', 'sport', 'lesson', 'comment', 'travel'] as const;
/** What the recording is; decides what counts in a short. */
export type Material = (typeof materials)[number];
/** The same for people. */
export const materialNames: Readonly<Record<Material, string>> = {
  talk: 'Talk or interview',
  sport: 'Sport or play',
  lesson: 'Lesson',
  comment: 'Comment',
  travel: 'Travel',
};

/** Usual lengths of shorts in seconds; common practice, no source. */
export const lengthRanges = {
  'up to 30 s': [8, 30],
  '30 to 60 s': [30, 60],
  'up to 90 s': [15, 90],
  'up to 300 s': [60, 300],
  'any length': [6, 300],
} as const;

/** What shorts are wished for. */
export interface ShortsWish {
  count: number;
  minSeconds: number;
  maxSeconds: number;
  /** Null: the footage says. */
  material: Material | null;
  /** One stretch of the recording, or several pieces of it that belong together. */
  form: 'stretch' | 'pieces';
  /** Whether pauses in which nothing happens are cut out, and starts that were begun again. */
  cutPauses: boolean;
  cutRepeats: boolean;
  /** Only this stretch of the recording; all of it when missing. */
  range?: Range;
  /** Stretches that answer a request in words; each short should show some of them. */
  asked?: readonly Range[];
}
/** What is wished for at first. */
export const shortsDefaults: ShortsWish = {
  count: 5,
  minSeconds: 15,
  maxSeconds: 45,
  material: null,
  form: 'stretch',
  cutPauses: true,
  cutRepeats: true,
};

/** A recording with what is known of it. */
export interface Recording {
  footage: Footage;
  words: readonly Word[];
}

/** What the score of a short is made of. */
export const shortParts = ['hook', 'speech', 'faces', 'action', 'reactions', 'whole', 'picture'] as const;
/** What a short's score is made of. */
export type ShortPart = (typeof shortParts)[number];
/** The same for people. */
export const partNames: Readonly<Record<ShortPart, string>> = {
  hook: 'Hook',
  speech: 'Clear speech',
  faces: 'Faces',
  action: 'Action',
  reactions: 'Reactions',
  whole: 'Whole thought',
  picture: 'Picture',
};

/** A place to end, with the words it ends on. */
export interface Ending {
  end: number;
  says: string;
  kind: 'sentence' | 'action';
}

/** A short that was found; times in seconds of its recording. */
export interface Short {
  /** Stays the same for the same stretch. */
  id: string;
  media: string;
  /** What of the recording is shown, in order; without overlaps. */
  pieces: Range[];
  title: string;
  reason: string;
  /** 0 to 100: the sum of its parts. */
  score: number;
  /** Points of each part. */
  parts: Record<ShortPart, number>;
  /** Up to three, in the order of time; the one that is taken is among them. */
  endings: Ending[];
}

/** How long a short is, in seconds. */
export const lengthOfShort = ({ pieces }: Pick<Short, 'pieces'>): number =>
  pieces.reduce((sum, piece) => sum + piece.end - piece.start, 0);
