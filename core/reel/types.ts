import type { CaptionStyle } from '#core/captions';
import type { Fit, StillMove, Framing, Steady } from '#core/framing';
import type { Look } from '#core/look';
import type { Rate, SourceStart } from '#core/time';

/** How one piece goes over into the next; half of it lies before the cut. A cut is none. */
export type TransitionKind = 'dissolve' | 'black' | 'white' | 'push' | 'wipe';
/** Every transition but the cut. */
export const transitionKinds: readonly TransitionKind[] = ['dissolve', 'black', 'white', 'push', 'wipe'];
/** A transition and its length in frames of the reel. */
export interface Transition {
  kind: TransitionKind;
  frames: number;
}
/** Over these both pictures are seen at once, so both pieces need footage beyond the cut. */
export const isCross = (kind: TransitionKind): boolean => kind === 'dissolve' || kind === 'push' || kind === 'wipe';

/**
 * A piece of footage in a reel. Frames are counted at the reel's rate: `sourceIn` is the source's time at which the
 * piece begins (in hundredths of a frame where its speed makes that needful), `frames` its length in the reel. Photos
 * have no time of their own; their `sourceIn` is 0.
 */
export interface Clip {
  kind: 'clip';
  id: string;
  media: string;
  name: string;
  sourceIn: number;
  frames: number;
  /** In per cent, 25 to 400; 0 holds the frame at `sourceIn`. 100 when missing. */
  speed?: number;
  /** The montage's slot that it fills; see `core/montage`. */
  slot?: string;
  /** The same for a picture and its detached sound while they are linked. */
  link?: string;
  /** Level of its sound in dB; 0 when missing. */
  levelDb?: number;
  muted?: boolean;
  /** From black and silence, and to them, in frames. */
  fadeIn?: number;
  fadeOut?: number;
  /** From the piece before it into this one. */
  into?: Transition;
  look?: Look;
  fit?: Fit;
  move?: StillMove;
  steady?: Steady;
  /** Counts where the picture fills a frame of another shape. */
  framing?: Framing;
  /** Why it was picked, as it was said then. */
  reason?: string;
}

/** Music under the whole reel; it begins anew when it is shorter. */
export interface Music {
  media: string;
  name: string;
  levelDb: number;
  /** Where in the music the reel begins, in seconds. */
  startSeconds: number;
  /** By how much it sinks under speech, in dB; 0 for not at all. */
  duckDb: number;
  /** How long it takes to sink before the first word, and to come back after the last; usual times when missing. */
  sinkSeconds?: number;
  riseSeconds?: number;
  fadeInSeconds: number;
  fadeOutSeconds: number;
}
/** Music well under speech, up again between. Common practice, no source. */
export const musicDefaults: Omit<Music, 'media' | 'name'> = {
  levelDb: -12,
  startSeconds: 0,
  duckDb: 12,
  fadeInSeconds: 0.5,
  fadeOutSeconds: 2.5,
};

/** Nothing for so many frames: black and silent in the main track, see-through above it. */
export interface Gap {
  kind: 'gap';
  id: string;
  frames: number;
}

/** What lies in a track. */
export type ReelItem = Clip | Gap;

/**
 * The first track is the main one and gives the sound; pictures of later ones cover what lies under them. Sound tracks
 * come after all picture tracks and are heard with everything else.
 */
export interface Track {
  kind: 'picture' | 'sound';
  name: string;
  items: ReelItem[];
  /** Nothing in it can be changed, and edits elsewhere do not move it. */
  locked?: boolean;
  levelDb?: number;
  muted?: boolean;
}

/** A note at a frame of the reel. */
export interface ReelMarker {
  id: string;
  frame: number;
  note: string;
}

/** Where a title stands: at the beginning, in the lower third, at the end. */
export const titleKinds = ['opening', 'lower', 'end'] as const;
/** One of the kinds of titles. */
export type TitleKind = (typeof titleKinds)[number];
/** Words over the picture, in frames of the reel. */
export interface Title {
  id: string;
  kind: TitleKind;
  frame: number;
  frames: number;
  text: string;
  /** A smaller second line. */
  sub?: string;
}

/** A picture in a corner, all along. */
export interface Logo {
  media: string;
  corner: 'top left' | 'top right' | 'bottom left' | 'bottom right';
  /** Its longer side as a share of the picture's shorter one. */
  size: number;
  opacity: number;
}

/** How the reels of a house look: captions, logo, opening, name strip and end card. */
export interface HouseStyle {
  captions: CaptionStyle;
  theme: string | null;
  logo: Logo | null;
  opening: { text: string; seconds: number } | null;
  lower: { text: string; sub: string; seconds: number } | null;
  end: { text: string; sub: string; seconds: number } | null;
}

/** An edit list, modelled on OpenTimelineIO's timeline, track, clip. */
export interface Reel {
  schema: 'BrightReel.Reel.1';
  name: string;
  rate: Rate;
  size: { width: number; height: number };
  tracks: Track[];
  /** Pieces that were moved to another reel: still shown at their old place, but not part of this one any more. */
  moved?: MovedClip[];
  music?: Music;
  /** Programme loudness of the finished file, in LUFS; as it comes when missing. */
  loudnessLufs?: number;
  markers?: ReelMarker[];
  titles?: Title[];
  /** Name of a theme; sets how titles look. */
  theme?: string;
  /** For all pieces that have none of their own. */
  look?: Look;
  fit?: Fit;
  /** Burnt-in captions out of the words that are heard; none when missing. */
  captions?: CaptionStyle;
  logo?: Logo;
}

/** A piece that went to another reel, and what stood behind it. */
export interface MovedClip {
  clip: Clip;
  /** The item of the main track before which it stood; null for the end. */
  before: string | null;
}

/** What a reel must know of a source to check an edit. */
export interface Source {
  id: string;
  name: string;
  durationSeconds: number;
  photo?: boolean;
  /** Nothing to see in it. */
  soundOnly?: boolean;
  /** Where it begins by the camera's or recorder's count. */
  start?: SourceStart | null;
  /** Of the tape or card it was on. */
  reelName?: string | null;
}

/** The track that everything else is laid over or beside. */
export const mainTrack = (reel: Reel): Track => reel.tracks[0]!;
/** Tracks of pictures, the main one first. */
export const pictureTracks = (reel: Reel): Track[] => reel.tracks.filter((track) => track.kind === 'picture');
/** Tracks that are only heard. */
export const soundTracks = (reel: Reel): Track[] => reel.tracks.filter((track) => track.kind === 'sound');
/** How long items are together, in frames. */
export const itemsFrames = (items: readonly ReelItem[]): number => items.reduce((sum, item) => sum + item.frames, 0);
/** Length of the reel: that of its longest track of pictures. */
export const reelFrames = (reel: Reel): number =>
  Math.max(0, ...pictureTracks(reel).map((track) => itemsFrames(track.items)));
/** Every piece of a reel, track by track. */
export const clipsOf = (reel: Reel): Clip[] =>
  reel.tracks.flatMap((track) => track.items.filter((item) => item.kind === 'clip'));
/** The piece with an id; null when it is not in the reel. */
export const findClip = (reel: Reel, id: string): Clip | null => clipsOf(reel).find((clip) => clip.id === id) ?? null;
/** First frame of an item in its track; -1 when it is not in it. */
export function startOf(track: Track, id: string): number {
  const index = track.items.findIndex((item) => item.id === id);
  return index < 0 ? -1 : itemsFrames(track.items.slice(0, index));
}
/** The speed of a piece in per cent; 0 for a frame that is held. */
export const speedOf = (clip: Clip): number => clip.speed ?? 100;
/** Frames of the source (at the reel's rate) that so many frames of a piece take, to a hundredth. */
export const sourceFrames = (clip: Clip, frames: number): number => Math.round(frames * speedOf(clip)) / 100;
