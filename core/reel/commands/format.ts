import { framesPerSecond, type Rate } from '#core/time';
import type { Reel, ReelItem } from '../types';
import { withValues } from './change';
import { done, refuse, type Edit, type Outcome, type Sources } from './edit';

/** Shape and rate of the reel; another rate keeps every cut at its time, to the nearest frame. */
export interface Format {
  type: 'format';
  size?: Reel['size'];
  rate?: Rate;
}
export const format: Edit<Format> = { apply: setFormat, says: () => 'changed the shape or the rate' };

/** Another shape, another rate: cuts stay at their times, to the nearest frame, and no piece gets longer than its source. */
function setFormat(reel: Reel, { size, rate }: Format, sources: Sources): Outcome {
  if (
    size &&
    !(
      size.width >= 16 &&
      size.height >= 16 &&
      size.width <= 4096 &&
      size.height <= 4096 &&
      size.width % 2 === 0 &&
      size.height % 2 === 0
    )
  )
    return refuse('A size has even numbers of 16 to 4096 pixels.');
  if (rate && !(framesPerSecond(rate) >= 10 && framesPerSecond(rate) <= 120))
    return refuse('A rate lies between 10 and 120 frames per second.');
  const sized = size ? { ...reel, size } : reel;
  return done(rate && framesPerSecond(rate) !== framesPerSecond(reel.rate) ? conform(sized, rate, sources) : sized);
}

function conform(reel: Reel, rate: Rate, sources: Sources): Reel {
  const ratio = framesPerSecond(rate) / framesPerSecond(reel.rate);
  const frame = (frames: number) => Math.round(frames * ratio);
  const next = { ...reel, rate };
  const tracks = reel.tracks.map((track) => {
    let at = 0;
    return {
      ...track,
      items: track.items.flatMap((item): ReelItem[] => {
        const [from, to] = [frame(at), frame((at += item.frames))];
        if (to - from < 1) return [];
        if (item.kind === 'gap') return [{ ...item, frames: to - from }];
        const source = sources.get(item.media);
        const scaled = (frames: number | undefined) => (frames === undefined ? undefined : Math.max(1, frame(frames)));
        const clip = withValues(item, {
          frames: to - from,
          sourceIn: Math.round(item.sourceIn * ratio),
          fadeIn: scaled(item.fadeIn),
          fadeOut: scaled(item.fadeOut),
          into: item.into && { ...item.into, frames: Math.max(2, frame(item.into.frames)) },
        });
        // Rounding may reach a frame beyond the source; then it begins that much earlier.
        const over =
          source && !source.photo
            ? Math.max(
                0,
                Math.ceil(
                  clip.sourceIn +
                    (clip.frames * (clip.speed ?? 100)) / 100 -
                    Math.floor(source.durationSeconds * framesPerSecond(rate) + 1e-6),
                ),
              )
            : 0;
        return [over > 0 ? { ...clip, sourceIn: Math.max(0, clip.sourceIn - over) } : clip];
      }),
    };
  });
  return {
    ...next,
    tracks,
    ...(reel.markers ? { markers: reel.markers.map((marker) => ({ ...marker, frame: frame(marker.frame) })) } : {}),
    ...(reel.titles
      ? {
          titles: reel.titles.map((title) => ({
            ...title,
            frame: frame(title.frame),
            frames: Math.max(2, frame(title.frames)),
          })),
        }
      : {}),
  };
}
