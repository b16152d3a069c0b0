import type { DisplayTraces, Run } from '#core/readings';
import type { Range } from '#core/time';

/** What a moment is made of. */
export const ingredientNames = ['people', 'talk', 'action', 'camera', 'sound', 'picture'] as const;
/** What a moment is made of; each is 0 to 1 at every instant. */
export type Ingredient = (typeof ingredientNames)[number];
/** A number for each ingredient. */
export type Ingredients = Record<Ingredient, number>;

/** What sort of moment a stretch is; a reel is to have something of each. */
export const momentKinds = ['talk', 'faces', 'group', 'action', 'reaction', 'camera', 'scenery', 'photo'] as const;
/** What sort of moment a stretch is; a reel is to have something of each. */
export type MomentKind = (typeof momentKinds)[number];

/** How much each ingredient counts, 0 to 100. */
export type Mix = Record<Ingredient, number>;
/** Weights to begin with, 0 to 100. */
export const defaultMix: Mix = { people: 60, talk: 50, action: 55, camera: 30, sound: 50, picture: 25 };

/** Flaws that are not accepted. Each is a bound on a reading, 0 to 1; see `flawedStretches`. */
export interface Limits {
  /** Shake over this is out; 1 lets everything through. */
  shake: number;
  /** Sharpness under this is out; 0 lets everything through. */
  blur: number;
  /** Light under this is out; 0 lets everything through. */
  dark: number;
  /** Contrast under this is out (standard deviation of luma); missing or 0 lets everything through. */
  contrast?: number;
  /** A picture of which more than this share is pure white is out; missing or 1 lets everything through. */
  white?: number;
  /** Without faces, less structure in the large than this is out; missing or 0 lets everything through. */
  plain?: number;
  frozen: boolean;
  /** Silence longer than this many seconds is out; missing or 0 lets everything through. */
  silence?: number;
  /** Whether sound that is cut off at full scale is shut out. */
  clipped?: boolean;
  /** Whether stretches with wind in the microphone are shut out. */
  wind?: boolean;
  /** Whether whip pans are shut out; they are usually meant, and go with the good material. */
  whips?: boolean;
}
/** Limits to begin with. */
export const defaultLimits: Limits = {
  shake: 0.45,
  blur: 0.35,
  dark: 0.12,
  contrast: 0.04,
  white: 0.6,
  plain: 0.04,
  frozen: true,
};

/** How long pieces may be, in seconds. */
export interface PieceLength {
  minSeconds: number;
  preferredSeconds: number;
  maxSeconds: number;
}
/** Lengths to begin with; common practice, no source. */
export const defaultPieceLength: PieceLength = { minSeconds: 2, preferredSeconds: 4, maxSeconds: 20 };

/** Footage as the choice sees it: one file with its display traces and runs. */
export interface Footage {
  id: string;
  durationSeconds: number;
  hz: number;
  traces: DisplayTraces;
  runs: Run[];
  /** Rough looks, `lookHz` grids a second; for telling like from unlike. */
  look?: { hz: number; cells: number; values: Float32Array };
  /** How colourful it is where, see `tintOf`. */
  tint?: { hz: number; cells: number; values: Float32Array };
  /** What of the file is wanted at all, between its default in and out points; everything when missing. */
  wanted?: { start: number; end: number };
  /** Picked as a whole or not at all, like a photo. */
  whole?: boolean;
}

/** What a person decided about a stretch of footage. */
export interface Decision extends Range {
  id: string;
  media: string;
  verdict: 'keep' | 'drop';
}

/** A candidate piece, in seconds of its file. */
export interface Moment extends Range {
  media: string;
  kind: MomentKind;
  /** Mean score, 0 to 100. */
  score: number;
  /** Points a second that it added to what was in before; the water level at which it goes. */
  worth: number;
  /** Points each ingredient gives; they add up to the score. */
  shares: Ingredients;
  kept: 'score' | 'hand';
  decision?: string;
}
