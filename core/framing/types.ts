/** How a picture of another shape fills the frame: cut to fill it, whole over a blurred copy of itself, or with bars. */
export const fits = ['fill', 'blur', 'bars'] as const;
/** How a picture of another shape fills the frame. */
export type Fit = (typeof fits)[number];

/** A part of a picture in shares of its width and height. */
export interface Frame {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A slow move over a photo, from one part of it to another. */
export interface StillMove {
  from: Frame;
  to: Frame;
}

/** A point of a crop's path: second of the source, middle of what is shown in shares of the source. Two points at one second are a jump. */
export type PathPoint = [seconds: number, x: number, y: number];

/** Where somebody put the crop; its path runs through it. */
export interface FramingKey {
  seconds: number;
  x: number;
  y: number;
}

/** What a crop follows: who speaks (else the largest face, else a thing, else motion), one face by its track, one thing by where it was pointed at, two speakers over one another, or nothing. */
export type FramingSubject = 'auto' | 'fixed' | 'stack' | `face:${string}` | `thing:${string}`;
/** What a subject may look like as text. */
export const framingSubjects =
  /^(auto|fixed|stack|face:[\d.]{1,40}|thing:\d{1,6}\.\d\d:[01]\.\d{3}:[01]\.\d{3}:[a-z ]{1,24})$/;

/** Which part of a picture of another shape is shown; see `core/framing`. */
export interface Framing {
  subject: FramingSubject;
  /** 1 shows as much as the shape allows, 2 half of that. */
  zoom: number;
  keys: FramingKey[];
  /** As computed when it was last changed; between points it runs straight. */
  path: PathPoint[];
  /** Of the lower picture when two speakers are stacked. */
  below?: PathPoint[];
  /** What it found to follow, for people: "the speaker", "a boat". */
  follows?: string;
}

/** Strengths 0 to 1; see `steadyingPrice`. */
export interface Steady {
  position: number;
  rotation: number;
  scale: number;
  /** Enlarged until no border shows, or whole with the border filled by a blurred copy. */
  edges: 'crop' | 'fill';
}
