import { framesPerSecond, type Rate } from '#core/time';
import type { Clip, Reel, ReelItem } from '../types';
import { withValues } from './change';
import { done, refuse, type Edit, type Outcome, type Sources } from './edit';

/** Shape and frame rate of the reel; another rate keeps every cut at its time, to the nearest frame. */
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
  const sized = size ? resized(reel, size) : reel;
  return done(rate && framesPerSecond(rate) !== framesPerSecond(reel.rate) ? conform(sized, rate, sources) : sized);
}

/** In another shape pictures fill the frame unless somebody said otherwise. Common practice, no source. */
function resized(reel: Reel, size: Reel['size']): Reel {
  const isSameShape = Math.abs(size.width / size.height / (reel.size.width / reel.size.height) - 1) < 0.01;
  return isSameShape || reel.fit ? { ...reel, size } : { ...reel, size, fit: 'fill' };
}

function conform(reel: Reel, rate: Rate, sources: Sources): Reel {
  const ratio = framesPerSecond(rate) / framesPerSecond(reel.rate);
  const frame = (frames: number) => Math.round(frames * ratio);
  const scaled = (frames: number | undefined) => (frames === undefined ? undefined : Math.max(1, frame(frames)));

  const conformClip = (clip: Clip, frames: number): Clip => {
    const next = withValues(clip, {
      frames,
      sourceIn: Math.round(clip.sourceIn * ratio),
      fadeIn: scaled(clip.fadeIn),
      fadeOut: scaled(clip.fadeOut),
      into: clip.into && { ...clip.into, frames: Math.max(2, frame(clip.into.frames)) },
    });
    const source = sources.get(clip.media);
    if (!source || source.photo) return next;
    // Rounding may reach a frame beyond the source; then it begins that much earlier.
    const last = Math.floor(source.durationSeconds * framesPerSecond(rate) + 1e-6);
    const over = Math.ceil(next.sourceIn + (frames * (next.speed ?? 100)) / 100 - last);
    return over > 0 ? { ...next, sourceIn: Math.max(0, next.sourceIn - over) } : next;
  };
  const conformItems = (items: readonly ReelItem[]): ReelItem[] => {
    let at = 0;
    return items.flatMap((item): ReelItem[] => {
      const [from, to] = [frame(at), frame((at += item.frames))];
      if (to - from < 1) return [];
      return [item.kind === 'gap' ? { ...item, frames: to - from } : conformClip(item, to - from)];
    });
  };
  const next: Reel = {
    ...reel,
    rate,
    tracks: reel.tracks.map((track) => ({ ...track, items: conformItems(track.items) })),
  };
  if (reel.markers) next.markers = reel.markers.map((marker) => ({ ...marker, frame: frame(marker.frame) }));
  if (reel.titles)
    next.titles = reel.titles.map((title) => ({
      ...title,
      frame: frame(title.frame),
      frames: Math.max(2, frame(title.frames)),
    }));
  // Pieces that went to another reel may come back.
  if (reel.moved)
    next.moved = reel.moved.map((each) => ({
      ...each,
      clip: conformClip(each.clip, Math.max(1, frame(each.clip.frames))),
    }));
  return next;
}
