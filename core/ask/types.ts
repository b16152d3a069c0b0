import type { ObjectLabel } from '#core/picture';

/** Which way the camera goes. */
export type Way = 'left' | 'right' | 'up' | 'down' | 'in' | 'out';
/** A place in all footage laid end to end: seconds from its start, from its end, or where a marker stands. */
export type TimePoint = { from: 'start' | 'end'; seconds: number } | { from: 'marker'; note: string };

/** One thing that can be asked for. */
export type Term =
  | { kind: 'said'; words: string[] }
  | { kind: 'person'; id: string; name: string }
  | { kind: 'faces'; least: number; most: number | null }
  | { kind: 'thing'; label: ObjectLabel; least: number }
  | { kind: 'smile' }
  | { kind: 'camera'; move: 'still' | 'pan' | 'tilt' | 'zoom' | 'move' | 'whip' | 'shaky' | 'steady'; way: Way | null }
  | { kind: 'action'; much: 'fast' | 'calm' }
  | { kind: 'sound'; what: 'loud' | 'cheer' | 'quiet' | 'talk' | 'music' | 'silence' }
  | { kind: 'size'; size: 'close' | 'medium' | 'wide' }
  | { kind: 'light'; what: 'dark' | 'bright' | 'sharp' | 'blurred' }
  | { kind: 'time'; from: TimePoint; to: TimePoint }
  /** What the camera's or recorder's count says, with or without frames: "10:20:30", "10:20:30:12". */
  | { kind: 'timecode'; code: string };

/** How a piece of the request was understood. `start` and `end` are places in its text. */
export interface Chip {
  start: number;
  end: number;
  text: string;
  term: Term;
  not: boolean;
  /** In plain words. */
  label: string;
  /** Other ways to understand the same words, as text to put in their place. */
  instead: { label: string; text: string }[];
}

/** A request as it was understood: parts, and how they are joined. */
export type Node = { op: 'chip'; chip: Chip } | { op: 'not'; of: Node } | { op: 'and' | 'or'; of: Node[] };

/** A request in words with what was made of it. */
export interface Request {
  /** Null when nothing was understood. */
  tree: Node | null;
  chips: Chip[];
  /** Words that say nothing to the reader, as they were written. */
  unknown: string[];
}

/** What words can mean in this project. */
export interface Lexicon {
  people: readonly { id: string; name: string }[];
  /** Notes of markers. */
  notes: readonly string[];
  /** Whether the words, in this order, are spoken anywhere. */
  spoken(words: readonly string[]): boolean;
}
