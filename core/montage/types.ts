import type { BeatGrid } from '#core/sound';
import type { Range } from '#core/time';

/** How often the picture changes: every so many beats, with every bar, or at the marks set by hand. */
export type Every = 1 | 2 | 3 | 4 | 8 | 'bar' | 'marks';
/** Every way to cut to the beats. */
export const everies: readonly Every[] = [1, 2, 3, 4, 8, 'bar', 'marks'];

/** A stretch of the music that one piece fills; slots follow one another without gaps. Times are seconds of the music. */
export interface Slot extends Range {
  id: string;
  /** Its piece stays when the rest is filled again. */
  locked?: boolean;
  piece?: Placed;
}

/** What is shown in a slot. */
export interface Placed {
  /** Id of the piece. */
  piece: string;
  /** Where in its source it begins, in seconds. */
  sourceStart: number;
  /** In per cent; 100 when missing. */
  speed?: number;
  /** Begins there because somebody said so; filling again leaves it. */
  byHand?: boolean;
}

/** A stretch of footage to fill slots with. */
export interface MontagePiece extends Range {
  id: string;
  media: string;
  name: string;
  photo?: boolean;
  /** Not used while true. */
  off?: boolean;
  /** Where the action is, in seconds of the source, when it was set by hand. */
  action?: number;
}

/** In which order pieces fill slots. */
export const orders = ['matched', 'sorted', 'time', 'shuffled'] as const;
/** Matched: by what suits the music; sorted: as the list stands; time: as filmed; shuffled: by the seed. */
export type Order = (typeof orders)[number];
type TooShort = 'other' | 'slow' | 'share';

/** How slots are filled. */
export interface Filling {
  order: Order;
  seed: number;
  /** Two places take turns. */
  alternate: boolean;
  /** A piece begins at its in point, or so that its action falls on the beat. */
  start: 'in' | 'action';
  /** What happens to a piece that is shorter than its slot: another one is taken, it runs slower, or the slot is shared with the next. */
  tooShort: TooShort;
  steadyOnly: boolean;
  cameraSound: 'none' | 'low';
}
/** How slots are filled at first. */
export const defaultFilling: Filling = {
  order: 'matched',
  seed: 1,
  alternate: false,
  start: 'action',
  tooShort: 'other',
  steadyOnly: true,
  cameraSound: 'none',
};

/** How often the picture changes along the music. */
export interface Pattern {
  /** For every part of the music that is not painted. */
  every: Every;
  /** Painted over parts, by their index. */
  painted: Record<number, Every>;
  /** Denser where the music is fuller; painted parts keep theirs. */
  followEnergy: boolean;
  /** Slots are never shorter or longer, in seconds. */
  shortest: number;
  longest: number;
  /** The last slot ends with the chosen stretch of the music, or at its last stroke. */
  end: 'music' | 'hit';
}
/** Under a third of a second a picture is felt, not seen; common practice, no source. */
export const defaultPattern: Pattern = {
  every: 2,
  painted: {},
  followEnergy: true,
  shortest: 0.3,
  longest: 8,
  end: 'music',
};

/** How a project cuts to a piece of music. */
export interface Montage {
  schema: 'BrightReel.Montage.1';
  grid: BeatGrid;
  /** Parts whose doubtful count was heard and found right. */
  settled?: Range[];
  /** Set by hand while the music played, ascending. */
  marks: number[];
  /** The stretch of the music that is used. */
  span: Range & { fadeSeconds: number };
  pattern: Pattern;
  filling: Filling;
  pieces: MontagePiece[];
  slots: Slot[];
}
