import type { ColourName, ObjectLabel } from '#core/picture';

/** Which way the camera goes. */
export type Way = 'left' | 'right' | 'up' | 'down' | 'in' | 'out';
/** A place in all footage laid end to end: seconds from its start, from its end, or where a marker stands. */
export type TimePoint = { from: 'start' | 'end'; seconds: number } | { from: 'marker'; note: string };

/** A day, or some days, by the clock of the recorder; what is null does not matter. Hours from `from` up to `to`. */
export interface Days {
  year: number | null;
  /** From 1. */
  month: number | null;
  day: number | null;
  /** 0 for Sunday. */
  weekday: number | null;
  hours: { from: number; to: number; name: string } | null;
}

/** One thing that can be asked for. */
export type Term =
  /** Words in this order, as stems; or one word of the same meaning. */
  | { kind: 'said'; words: string[]; alike?: string[] }
  | { kind: 'person'; id: string; name: string }
  | { kind: 'faces'; least: number; most: number | null }
  | { kind: 'thing'; label: ObjectLabel; least: number }
  /** Something of a colour: a thing, what somebody wears, either of clothes and head, or whatever it is. */
  | { kind: 'coloured'; colour: ColourName; of: ObjectLabel | 'clothes' | 'head' | 'worn' | 'anything' }
  | { kind: 'photo' }
  /** Files, or a bin with its files. */
  | { kind: 'named'; what: 'file' | 'bin'; name: string; media: readonly string[] }
  | { kind: 'smile'; all: boolean }
  | { kind: 'camera'; move: 'still' | 'pan' | 'tilt' | 'zoom' | 'move' | 'whip' | 'shaky' | 'steady'; way: Way | null }
  | { kind: 'action'; much: 'fast' | 'calm' }
  | { kind: 'sound'; what: 'loud' | 'cheer' | 'quiet' | 'talk' | 'music' | 'silence' }
  | { kind: 'size'; size: 'close' | 'medium' | 'wide' }
  | { kind: 'light'; what: 'dark' | 'bright' | 'sharp' | 'blurred' }
  | { kind: 'time'; from: TimePoint; to: TimePoint }
  | { kind: 'date'; days: Days }
  /** What the camera's or recorder's count says, with or without frames: "10:20:30", "10:20:30:12". */
  | { kind: 'timecode'; code: string }
  /** Not what, but which of what is found: the longest, the first three, the one with most of something. */
  | { kind: 'pick'; by: PickBy; count: number; of: Term | null };

/** What stands first when only some are wanted. */
export type PickBy = 'best' | 'most' | 'longest' | 'shortest' | 'first' | 'last';

/** How a piece of the request was understood. `start` and `end` are places in its text. */
export interface Chip {
  start: number;
  end: number;
  text: string;
  term: Term;
  not: boolean;
  /** In plain words. */
  label: string;
  /** What was written, where it was taken for another word: an error of typing, or a word of the same meaning. */
  taken?: { from: string; because: 'spelling' | 'meaning' };
  /** Other ways to understand the same words, as text to put in their place. */
  instead: { label: string; text: string }[];
}

/** A request as it was understood: parts, and how they are joined. `near` is what lies around, before or after a part. */
export type Node =
  { op: 'chip'; chip: Chip } | { op: 'not'; of: Node } | { op: 'near'; where: Where; of: Node } | Joined;
/** Parts that must all hold, or one of which must. */
export interface Joined {
  op: 'and' | 'or';
  of: Node[];
}
/** Where something lies, seen from something else. */
export type Where = 'before' | 'after' | 'near';

/** A request in words with what was made of it. */
export interface Request {
  /** Null when nothing was understood. */
  tree: Node | null;
  chips: Chip[];
  /** Words that say nothing to the reader, as they were written. */
  unknown: string[];
  /** Words of asking that were passed over. */
  passed: string[];
}

/** What words can mean in this project. */
export interface Lexicon {
  people: readonly { id: string; name: string }[];
  /** Notes of markers. */
  notes: readonly string[];
  /** Files and bins. */
  names: readonly Name[];
  /** Whether the words, in this order, are spoken anywhere. */
  spoken(words: readonly string[]): boolean;
  /** Every word that is spoken, as it stands. */
  spokenWords: readonly string[];
  thesaurus: Thesaurus;
}

/** What a file or bin is called, and which files it is or holds. */
export interface Name {
  what: 'file' | 'bin';
  name: string;
  media: readonly string[];
}

/** What is known of words in general. */
export interface Thesaurus {
  /** Whether there is such a word. */
  knows(word: string): boolean;
  /** Words of the same meaning. */
  alike(word: string): readonly string[];
  /** Which thing of the reader's list a word is a kind of. */
  thing(phrase: string): ObjectLabel | null;
}
