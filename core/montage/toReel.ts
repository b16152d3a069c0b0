import { framesPerSecond, secondsToFrames, type Rate } from '#core/time';
import { musicDefaults, type Clip, type Gap, type Music, type Reel, type ReelCommand, type Source } from '#core/reel';
import type { Montage, MontagePiece, Placed, Slot } from './types';

/** Camera sound that is kept low under the music, in dB. Common practice, no source. */
const lowDb = -18;

/** Music as it comes often has peaks over full scale; a montage is made for the web. Common practice, no source. */
const webLufs = -14;

/** Frame of the reel at which a time of the music falls. */
export const frameAt = (seconds: number, { span }: Pick<Montage, 'span'>, rate: Rate): number =>
  Math.max(0, secondsToFrames(seconds - span.start, rate));

/** The music of a montage under its reel: as loud as it is, faded at its end. */
export const montageMusic = ({ span }: Pick<Montage, 'span'>, media: string, name: string): Music => ({
  ...musicDefaults,
  media,
  name,
  levelDb: 0,
  duckDb: 0,
  startSeconds: span.start,
  fadeInSeconds: span.start > 0.5 ? 0.1 : 0,
  fadeOutSeconds: span.fadeSeconds,
});

/**
 * The pieces of a montage as items of a reel's main track: every cut on its slot's edge to the nearest frame, every
 * piece inside its source; slots without a piece are gaps. Ids are those of the slots.
 * @param sources by media id
 */
export function montageItems(
  { slots, pieces, filling, span }: Pick<Montage, 'slots' | 'pieces' | 'filling' | 'span'>,
  sources: ReadonlyMap<string, Source>,
  rate: Rate,
): (Clip | Gap)[] {
  const byId = new Map(pieces.map((piece) => [piece.id, piece]));
  return slots.flatMap((slot): (Clip | Gap)[] => {
    const from = frameAt(slot.start, { span }, rate);
    const frames = frameAt(slot.end, { span }, rate) - from;
    if (frames < 1) return [];
    const piece = slot.piece && byId.get(slot.piece.piece);
    const source = piece && sources.get(piece.media);
    const clip = piece && source && clipOf(slot, piece, slot.piece!, source, frames, rate);
    if (!clip) return [{ kind: 'gap', id: slot.id, frames }];
    return [filling.cameraSound === 'none' ? { ...clip, muted: true } : { ...clip, levelDb: lowDb }];
  });
}

function clipOf(
  slot: Slot,
  piece: MontagePiece,
  placed: Placed,
  source: Source,
  frames: number,
  rate: Rate,
): Clip | null {
  const base = { kind: 'clip' as const, id: slot.id, slot: slot.id, media: piece.media, name: piece.name, frames };
  if (source.photo || piece.photo) return { ...base, sourceIn: 0 };
  const whole = Math.floor(source.durationSeconds * framesPerSecond(rate) + 1e-6);
  const speed = placed.speed ?? 100;
  const needed = Math.ceil((frames * speed) / 100);
  if (needed > whole) return null;
  // Rounding to frames may reach a frame beyond the piece's end, never beyond the source's.
  return {
    ...base,
    sourceIn: Math.max(0, Math.min(whole - needed, secondsToFrames(placed.sourceStart, rate))),
    ...(speed === 100 ? {} : { speed }),
  };
}

/**
 * A montage put into another reel: its pieces inserted, or laid over what is there, and the stretch of its music as a
 * piece of sound beneath them; one step.
 * @param at frame of the reel
 * @returns null while a slot is empty
 */
export function montagePut(
  montage: Montage,
  music: { media: string; name: string },
  sources: ReadonlyMap<string, Source>,
  rate: Rate,
  how: 'insert' | 'overwrite',
  at: number,
  makeId: () => string,
): ReelCommand | null {
  const items = montageItems(montage, sources, rate);
  if (items.length === 0 || items.some((item) => item.kind === 'gap')) return null;
  const clips = items.flatMap((item) => {
    if (item.kind === 'gap') return [];
    const { kind: _, slot: __, ...clip } = item;
    return [{ ...clip, id: makeId() }];
  });
  const frames = clips.reduce((sum, clip) => sum + clip.frames, 0);
  const fadeOut = Math.min(frames, secondsToFrames(montage.span.fadeSeconds, rate));
  const song = {
    id: makeId(),
    media: music.media,
    name: music.name,
    sourceIn: secondsToFrames(montage.span.start, rate),
    frames,
    ...(fadeOut > 0 ? { fadeOut } : {}),
  };
  return {
    type: 'several',
    name: `put a montage to “${music.name}” in`,
    commands: [
      { type: 'put', how, at, clips },
      { type: 'put', how: 'sound', at, clips: [song], shorten: true },
    ],
  };
}

/** A montage as a reel. */
export function montageReel(
  montage: Montage,
  name: string,
  music: { media: string; name: string },
  sources: ReadonlyMap<string, Source>,
  rate: Rate,
  size: Reel['size'],
): Reel {
  return {
    schema: 'BrightReel.Reel.1',
    name,
    rate,
    size,
    tracks: [{ kind: 'picture', name: 'Main', items: montageItems(montage, sources, rate) }],
    music: montageMusic(montage, music.media, music.name),
    loudnessLufs: webLufs,
    fit: 'fill',
  };
}
