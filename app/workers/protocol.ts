import type { Hit, Name, Request } from '#core/ask';
import type {
  Example,
  Arrangement,
  Decision,
  Flaw,
  Footage,
  Ingredient,
  Ingredients,
  Limits,
  Mix,
  Moment,
  PieceLength,
  Preference,
  Remedy,
} from '#core/moments';
import type { Range, SourceStart } from '#core/time';
import type { Word } from '#core/words';

export interface PickSettings {
  mix: Mix;
  limits: Limits;
  piece: PieceLength;
  variety: number;
}

/** What a request in words may be about, besides the readings. */
export interface AskWorld {
  /** A name that nobody gave (“Person 3”) is not `named`. */
  people: { id: string; name: string; named: boolean; tracks: (Range & { media: string })[] }[];
  words: Record<string, readonly Word[]>;
  markers: { media: string; seconds: number; note: string }[];
  /** What files and bins are called. */
  names: readonly Name[];
  /** Where files begin by the camera's or recorder's count, by id. */
  starts: Record<string, SourceStart>;
  /** When files were recorded, by id; ISO 8601. */
  recorded: Record<string, string>;
  /** Where files lie that were recorded together, by id. */
  clocks: Record<string, { group: string; offsetSeconds: number }>;
}

/** What the screen asks of the worker. */
export type Ask =
  /** A file under a number of its own, as soon as it is there. */
  | { kind: 'read'; number: number; footage: Footage }
  /** Which files the page is about, in their order; each was read before. */
  | { kind: 'footage'; numbers: number[] }
  | {
      kind: 'choose';
      settings: PickSettings;
      decisions: Decision[];
      targetSeconds: number;
      water: number | null;
      arrangement: Arrangement;
      columns: number;
    }
  | { kind: 'why'; media: string; start: number; end: number }
  /** Which mix the decisions speak for, and what it would change; `decisions` without those forgotten; `others` were decided in
   * other projects of the same taste. */
  | { kind: 'learn'; decisions: Decision[]; others: readonly Example[]; targetSeconds: number; water: number | null }
  | { kind: 'world'; world: AskWorld }
  | { kind: 'ask'; text: string };

interface NamedMoment extends Moment {
  title: string;
  /** Why it was picked, in one line. */
  reason: string;
}

export interface Chosen {
  kind: 'chosen';
  /** In the order of the footage. */
  moments: NamedMoment[];
  /** In which order a reel has them, and what was done for its shape. */
  story: { moment: number; because?: string }[];
  water: number;
  seconds: number;
  flaws: Record<string, Flaw[]>;
  /** What each column of the landscape is worth a second, 0 to 100, footage end to end. */
  landscape: Float32Array;
  tookMilliseconds: number;
}

export interface Why {
  kind: 'why';
  media: string;
  start: number;
  end: number;
  title: string;
  score: number;
  shares: Ingredients;
  phrases: Record<Ingredient, string>;
  /** Place among all kept moments by score, from 1; and their number. */
  rank: number;
  of: number;
  /** Water level above which it goes; null when no level keeps it. */
  leavesAt: number | null;
  flaws: Flaw[];
  verdict: 'keep' | 'drop' | null;
  kept: boolean;
  /** The same thing once more, elsewhere: what is left out for this, or what this is left out for; and how it differs, in words. */
  doubles: (Range & { media: string; differs: string })[];
  /** What it does for the shape of the reel, if it has its place for that. */
  because: string | null;
  /** What would bring it in or take it out at this water; null while that is being found. */
  remedies: Remedy[] | null;
}

export interface Learned {
  kind: 'learned';
  preference: Preference | null;
  /** The mix it speaks for, and what would change: seconds that come in and go out. */
  proposal: { mix: Mix; comeIn: number; goOut: number; moments: number } | null;
}

export interface AskAnswer {
  kind: 'found';
  text: string;
  request: Request;
  hits: Hit[];
  /** How many stretches each part would find alone, in the order of the request's chips. */
  alone: number[];
}

export type WorkerAnswer = Chosen | Why | Learned | AskAnswer;
