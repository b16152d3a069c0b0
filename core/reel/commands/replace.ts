import { formatClock, framesToSeconds } from '#core/time';
import type { Clip, Reel } from '../types';
import { besideAt, idsFrom, swapped, withItems } from './change';
import { done, onClip, refuse, type Outcome, type Sources } from './edit';
import { linkedWith, locate, type FoundClip } from './found';
import { framesLeft, hundredth, lastFrame } from './room';
import { trimClip } from './trim';

/** Other footage in the same place and of the same length; `shorten` takes what there is. */
export interface Replace {
  type: 'replace';
  clip: string;
  with: { media: string; name: string; sourceIn: number };
  keepSound?: boolean;
  shorten?: boolean;
}
export const replace = onClip<Replace>({ apply: replaceClip, says: (_, name) => `replaced “${name}”` });

function replaceClip(reel: Reel, found: FoundClip, command: Replace, sources: Sources): Outcome<Replace> {
  const source = sources.get(command.with.media);
  if (!source) return refuse(`The footage of “${command.with.name}” is missing.`);
  if (source.soundOnly && found.track.kind === 'picture') return refuse(`“${source.name}” has no picture.`);
  const { speed: _, steady: __, move: ___, framing: ____, reason: _____, ...kept } = found.clip;
  const wanted: Clip = {
    ...kept,
    media: command.with.media,
    name: command.with.name,
    sourceIn: source.photo ? 0 : hundredth(command.with.sourceIn),
  };
  const missing = -framesLeft(wanted, source, reel);
  if (missing > 0 || wanted.sourceIn < 0) {
    const there = lastFrame(source, reel);
    if (wanted.sourceIn < 0) return refuse(`“${source.name}” begins later than that.`);
    if (command.shorten && found.clip.frames - missing >= 1) {
      const short = trimClip(
        reel,
        found,
        { type: 'trim', clip: found.clip.id, edge: 'out', frames: -missing },
        sources,
      );
      return short.ok
        ? replaceClip(short.reel, locate(short.reel, found.clip.id)!, { ...command, shorten: false }, sources)
        : refuse(short.reason);
    }
    const reason = `“${source.name}” has ${formatClock(framesToSeconds(Math.max(0, there - wanted.sourceIn), reel.rate), true)} left from there; ${formatClock(framesToSeconds(found.clip.frames, reel.rate), true)} are needed.`;
    if (there >= found.clip.frames)
      return refuse(reason, {
        says: 'Begin earlier in it',
        command: { ...command, with: { ...command.with, sourceIn: there - found.clip.frames } },
      });
    return refuse(
      reason,
      found.clip.frames > missing
        ? { says: 'Make the piece shorter', command: { ...command, shorten: true } }
        : undefined,
    );
  }
  const linked = linkedWith(reel, found.clip);
  let base = reel;
  if (
    command.keepSound &&
    linked.length === 0 &&
    found.track.kind === 'picture' &&
    !sources.get(found.clip.media)?.photo
  ) {
    const newId = idsFrom(found.clip.id, reel);
    const sound: Clip = {
      kind: 'clip',
      id: newId(),
      media: found.clip.media,
      name: found.clip.name,
      sourceIn: found.clip.sourceIn,
      frames: found.clip.frames,
      link: found.clip.id,
      ...(found.clip.speed === undefined ? {} : { speed: found.clip.speed }),
      ...(found.clip.levelDb === undefined ? {} : { levelDb: found.clip.levelDb }),
      ...(found.clip.muted ? { muted: true } : {}),
    };
    base = besideAt(reel, 'Camera sound', found.start, sound, newId);
    Object.assign(wanted, { link: found.clip.id, muted: true });
  } else if (!command.keepSound && linked.length > 0) {
    // The old picture's own sound goes with it.
    const gone = new Set(
      linked
        .filter((each) => each.track.kind === 'sound' && each.clip.media === found.clip.media && !each.track.locked)
        .map((each) => each.clip.id),
    );
    const newId = idsFrom(found.clip.id, reel);
    base = withItems(reel, (track) =>
      track.items.map((item) => (gone.has(item.id) ? { kind: 'gap', id: newId(), frames: item.frames } : item)),
    );
    if (gone.size > 0) {
      delete wanted.link;
      delete wanted.muted;
    }
  }
  return done(
    withItems(base, (track, index) => (index === found.trackIndex ? swapped(track.items, wanted) : track.items)),
  );
}
