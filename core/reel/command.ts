import type { Rate } from '#core/time';
import type {
  CaptionStyle,
  Clip,
  Fit,
  Framing,
  Gap,
  Logo,
  Look,
  Music,
  Reel,
  ReelMarker,
  Steady,
  StillMove,
  Title,
  Transition,
} from './types';

/** Where pieces go: pushed in, laid over, at the end, above the main track without touching it, or heard beside it. */
export type Placing = 'insert' | 'overwrite' | 'append' | 'above' | 'sound';

/** One edit; plain data, so that it can be stored, sent and shown. Ids of what it makes new come with it, or are made up from them. */
export type ReelCommand =
  | { type: 'rename'; name: string }
  /** Shape and rate of the reel; another rate keeps every cut at its time, to the nearest frame. */
  | { type: 'format'; size?: Reel['size']; rate?: Rate }
  /** Takes a clip out and closes the gap, in all tracks when it is in the main one; its linked sound goes with it. */
  | { type: 'remove'; clip: string }
  /** Takes a clip out, and its linked sound, and leaves a gap as long. */
  | { type: 'lift'; clip: string }
  /** Takes a clip out because it went to another reel; its place is remembered. */
  | { type: 'handOver'; clip: string }
  /** Puts a clip that was handed over back to its place. */
  | { type: 'takeBack'; clip: string }
  /** To another place in the order of its track. */
  | { type: 'move'; clip: string; to: number }
  /** A clip above or beside the main track, to another frame. */
  | { type: 'place'; clip: string; at: number }
  /** Moves one end; what follows moves too, or stays in place. */
  | { type: 'trim'; clip: string; edge: 'in' | 'out'; frames: number; inPlace?: boolean }
  /** Moves the cut at the beginning of a clip: the one before gets longer, this one shorter, or the other way round. */
  | { type: 'roll'; clip: string; frames: number }
  /** Shows another stretch of the source in the same place; positive is later in the source. */
  | { type: 'slip'; clip: string; frames: number }
  | { type: 'split'; clip: string; at: number; newId: string }
  /** 25 to 400 per cent, or 0 for a held frame. The piece gets shorter or longer, or keeps its length and shows more or less. */
  | { type: 'speed'; clip: string; percent: number; keepLength?: boolean }
  /** Holds the frame `at` of a clip for so many frames, between its two halves. */
  | { type: 'hold'; clip: string; at: number; frames: number; newId: string }
  /** Other footage in the same place and of the same length; `shorten` takes what there is. */
  | {
      type: 'replace';
      clip: string;
      with: { media: string; name: string; sourceIn: number };
      keepSound?: boolean;
      shorten?: boolean;
    }
  /** Three-point editing: pieces of sources, put at a frame of the reel; `shorten` cuts them to what their sources hold. */
  | { type: 'put'; how: Placing; at: number; clips: Omit<Clip, 'kind'>[]; shorten?: boolean }
  | { type: 'track'; track: number; locked?: boolean; muted?: boolean; levelDb?: number; name?: string }
  /** Level of a clip's sound in dB, or whether it is heard at all. */
  | { type: 'sound'; clip: string; levelDb?: number; muted?: boolean }
  /** The clip's sound becomes a piece of its own, linked to the picture; or goes back into it. */
  | { type: 'detach'; clip: string; newId: string }
  | { type: 'attach'; clip: string }
  | { type: 'unlink'; clip: string }
  /** Mutes the clip and lays another recording under it, linked; `sourceIn` is the recording's frame at the clip's first. */
  | { type: 'replaceSound'; clip: string; sound: { id: string; media: string; name: string; sourceIn: number } }
  | { type: 'fade'; clip: string; edge: 'in' | 'out'; frames: number }
  /** Music under the reel, other settings of it, or none. */
  | { type: 'music'; music: Music | null }
  | { type: 'loudness'; lufs: number | null }
  /** How the piece before goes over into this one. */
  | { type: 'transition'; clip: string; into: Transition | null }
  /** The same at every cut of the main track, as long as the footage beyond each allows. */
  | { type: 'transitions'; into: Transition | null }
  /** Of one clip, or of all that have none of their own. */
  | { type: 'look'; clip: string | null; look: Look | null }
  | { type: 'fit'; clip: string | null; fit: Fit | null }
  | { type: 'stillMove'; clip: string; move: StillMove | null }
  | { type: 'steady'; clip: string; steady: Steady | null }
  /** Which part of its picture a clip shows in a frame of another shape; several at once when they were computed together. */
  | { type: 'framing'; framings: { clip: string; framing: Framing | null }[] }
  | { type: 'captions'; style: CaptionStyle | null }
  | { type: 'logo'; logo: Logo | null }
  | { type: 'title'; title: Title }
  | { type: 'removeTitle'; id: string }
  /** Titles, transitions, look and photo moves together. */
  | { type: 'theme'; theme: string | null }
  | { type: 'mark'; marker: ReelMarker }
  | { type: 'unmark'; id: string }
  /** The pieces of a montage as its slots stand now, and its music; what was done to a piece's look stays. */
  | { type: 'slots'; items: (Clip | Gap)[]; music: Music }
  /** A reel as it was in another version. */
  | { type: 'restore'; reel: Reel; name: string }
  /** Several edits that are one step. */
  | { type: 'several'; name: string; commands: ReelCommand[] };

export type EditResult =
  /** `note` says what had to give way, such as a dissolve that became shorter. */
  | { ok: true; reel: Reel; note?: string }
  /** `instead` is an edit that would fit, for one who wants it. */
  | { ok: false; reason: string; instead?: { says: string; command: ReelCommand } };
export type CommandOf<K extends ReelCommand['type']> = Extract<ReelCommand, { type: K }>;
