import type { Decision, Flaw, Footage, Ingredient, Ingredients, Limits, Mix, Moment, PieceLength } from '#core/moments';

export interface Settings {
  mix: Mix;
  limits: Limits;
  piece: PieceLength;
}

/** What the screen asks of the worker. */
export type Ask =
  | { kind: 'footage'; footage: Footage[] }
  | { kind: 'choose'; settings: Settings; decisions: Decision[]; targetSeconds: number; water: number | null; columns: number }
  | { kind: 'why'; media: string; start: number; end: number };

export interface NamedMoment extends Moment {
  title: string;
}

export interface Chosen {
  kind: 'chosen';
  moments: NamedMoment[];
  water: number;
  seconds: number;
  flaws: Record<string, Flaw[]>;
  /** Score of each column of the landscape, 0 to 100, footage end to end. */
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
}

export type Answer = Chosen | Why;
