import { framesPerSecond, type Rate } from '#core/time';
import type { Placing, ReelCommand } from './commands';
import { itemsFrames, mainTrack, reelFrames, startOf, type Clip, type Reel } from './types';

/** A piece on its way from one reel to another, with the separate sounds that are linked to it. */
interface CarriedPiece {
  clip: Clip;
  /** `offset`: frames of its reel by which the sound begins after the picture; negative before it. */
  sounds: { clip: Clip; offset: number }[];
  /** It stood beside the pictures, and is heard only. */
  soundOnly?: boolean;
}

/** Pieces that were taken up, and the rate at which their frames are counted. */
export interface Carried {
  pieces: CarriedPiece[];
  rate: Rate;
}

/** Takes up pieces of a reel, in the order in which they stand, with their linked sounds. */
export function takeUp(reel: Reel, ids: ReadonlySet<string>): Carried {
  const chosen = reel.tracks.flatMap((track) =>
    track.items.flatMap((item) =>
      item.kind === 'clip' && ids.has(item.id)
        ? [{ clip: item, kind: track.kind, start: startOf(track, item.id) }]
        : [],
    ),
  );
  const pictures = chosen.filter(({ kind }) => kind === 'picture');
  const linkedTo = new Set(pictures.flatMap(({ clip }) => clip.link ?? []));
  const pieces = pictures.map(({ clip, start }): CarriedPiece => {
    const linked =
      clip.link === undefined
        ? []
        : reel.tracks
            .filter((track) => track.kind === 'sound')
            .flatMap((track) =>
              track.items.flatMap((item) =>
                item.kind === 'clip' && item.link === clip.link
                  ? [{ clip: item, offset: startOf(track, item.id) - start }]
                  : [],
              ),
            );
    return { clip, sounds: linked };
  });
  // A sound that was chosen by itself comes by itself.
  const alone = chosen.filter(
    ({ clip, kind }) => kind === 'sound' && (clip.link === undefined || !linkedTo.has(clip.link)),
  );
  return { pieces: [...pieces, ...alone.map(({ clip }) => ({ clip, sounds: [], soundOnly: true }))], rate: reel.rate };
}

/**
 * A piece counted at another rate: the same stretch of its source, as long in seconds as before to a frame. Everything
 * that belongs to the piece itself comes along; what ties it to its old neighbours (transition, link, slot) does not.
 */
export function atRate(clip: Clip, from: Rate, to: Rate, id: string): Clip {
  const { into: _into, link: _link, slot: _slot, ...own } = clip;
  const ratio = framesPerSecond(to) / framesPerSecond(from);
  if (ratio === 1) return { ...own, id };
  const frames = Math.max(1, Math.floor(clip.frames * ratio + 1e-6));
  const fade = (name: 'fadeIn' | 'fadeOut') =>
    clip[name] === undefined ? {} : { [name]: Math.min(frames, Math.round(clip[name] * ratio)) };
  return {
    ...own,
    id,
    sourceIn: Math.round(clip.sourceIn * ratio * 100) / 100,
    frames,
    ...fade('fadeIn'),
    ...fade('fadeOut'),
  };
}

/**
 * The edit that puts carried pieces into a reel: speed, level, look, framing, fades, steadying and linked sounds come
 * along, at every rate.
 * @param at frame of the reel; not used for `append`
 * @returns null when nothing is carried
 */
export function transferPieces(
  { pieces, rate }: Carried,
  to: Reel,
  how: Placing,
  at: number,
  makeId: () => string,
): ReelCommand | null {
  if (pieces.length === 0) return null;
  const ratio = framesPerSecond(to.rate) / framesPerSecond(rate);
  const first = how === 'append' ? itemsFrames(mainTrack(to).items) : at;
  let frame = first;
  const clips: Clip[] = [];
  const sounds: { clip: Clip; at: number }[] = [];
  for (const { clip, sounds: own, soundOnly } of pieces) {
    const id = makeId();
    const put = atRate(clip, rate, to.rate, id);
    if (soundOnly && how !== 'sound') {
      sounds.push({ clip: put, at: frame });
      continue;
    }
    clips.push(own.length ? { ...put, link: id } : put);
    for (const sound of own)
      sounds.push({
        clip: { ...atRate(sound.clip, rate, to.rate, makeId()), link: id },
        at: Math.max(0, frame + Math.round(sound.offset * ratio)),
      });
    frame += put.frames;
  }
  const bare = ({ kind: _, ...rest }: Clip): Omit<Clip, 'kind'> => rest;
  const commands: ReelCommand[] = [
    ...(clips.length
      ? [{ type: 'put' as const, how, at: how === 'append' ? reelFrames(to) : at, clips: clips.map(bare) }]
      : []),
    ...sounds.map(({ clip, at: place }) => ({
      type: 'put' as const,
      how: 'sound' as const,
      at: place,
      clips: [bare(clip)],
    })),
  ];
  if (commands.length === 1) return commands[0]!;
  const name = `put ${pieces.length === 1 ? `“${pieces[0]!.clip.name}”` : `${pieces.length} pieces`} in, with sound`;
  return { type: 'several', name, commands };
}
