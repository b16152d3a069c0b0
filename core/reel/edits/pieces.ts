import { formatClock, framesToSeconds } from '#core/time';
import type { CommandOf, EditResult } from '../command';
import { cutAt, halves, isFree, overwriteAt } from '../items';
import { sourceFrames, speedOf, type Clip, type Reel, type ReelItem } from '../types';
import {
  done,
  framesLeft,
  hundredth,
  idsFrom,
  isLocked,
  lastFrame,
  linkedWith,
  locate,
  problemOf,
  refuse,
  ripple,
  withItems,
  type Found,
  type Sources,
} from './shared';

/** What happens to one clip where it stands. */

const swapped = (items: readonly ReelItem[], clip: Clip): ReelItem[] =>
  items.map((item) => (item.id === clip.id ? clip : item));

/** A clip and what is linked with it and not locked become gaps. */
export function lift(reel: Reel, found: Found): EditResult {
  const newId = idsFrom(found.clip.id, reel);
  const gone = [found, ...(found.track.kind === 'picture' ? linkedWith(reel, found.clip) : [])];
  const locked = gone.map(({ track }) => isLocked(track)).find(Boolean);
  if (locked) return refuse(locked);
  return done(
    withItems(reel, (track) =>
      track.items.map((item) =>
        gone.some(({ clip }) => clip.id === item.id) ? { kind: 'gap', id: newId(), frames: item.frames } : item,
      ),
    ),
  );
}

export function remove(reel: Reel, found: Found): EditResult {
  const lifted = lift(reel, found);
  if (!lifted.ok || found.trackIndex > 0) return lifted;
  const newId = idsFrom(found.clip.id, lifted.reel);
  const items = found.track.items.toSpliced(found.index, 1);
  const own = withItems(lifted.reel, (track, index) => (index === 0 ? items : track.items));
  return done(ripple(own, found.start, -found.clip.frames, new Set([0]), newId));
}

/** To another place in the order; linked sounds follow their pictures. */
export function move(reel: Reel, found: Found, { to }: CommandOf<'move'>): EditResult {
  const place = Math.max(0, Math.min(found.track.items.length - 1, Math.round(to)));
  const items = found.track.items.toSpliced(found.index, 1).toSpliced(place, 0, found.clip);
  return done(
    followLinks(
      reel,
      withItems(reel, (track, index) => (index === found.trackIndex ? items : track.items)),
    ),
  );
}

/** Puts linked sounds back to where they stood against their pictures, after pictures changed their order. */
function followLinks(before: Reel, after: Reel): Reel {
  const pairs = after.tracks.flatMap((track) =>
    track.kind === 'sound' && !track.locked
      ? track.items.flatMap((item) => (item.kind === 'clip' && item.link !== undefined ? [item] : []))
      : [],
  );
  const wanted = pairs.flatMap((sound) => {
    const picture = linkedWith(after, sound).find((each) => each.track.kind === 'picture');
    const was = picture && locate(before, picture.clip.id);
    const heard = locate(after, sound.id)!;
    return picture && was && picture.start !== was.start
      ? [{ ...heard, to: Math.max(0, heard.start + picture.start - was.start) }]
      : [];
  });
  if (wanted.length === 0) return after;
  const newId = idsFrom(wanted[0]!.clip.id, after);
  const emptied = withTracksKept(after, (items) =>
    items.map((item) =>
      wanted.some(({ clip }) => clip.id === item.id) ? { kind: 'gap', id: newId(), frames: item.frames } : item,
    ),
  );
  return withItems(emptied, (track, index) =>
    wanted
      .filter((each) => each.trackIndex === index)
      .sort((a, b) => a.to - b.to)
      .reduce((items, each) => overwriteAt(items, each.to, [each.clip], newId), track.items),
  );
}
const withTracksKept = (reel: Reel, change: (items: readonly ReelItem[]) => ReelItem[]): Reel => ({
  ...reel,
  tracks: reel.tracks.map((track) => ({ ...track, items: change(track.items) })),
});

/** A clip above or beside the main track goes to another frame, when there is room. */
export function place(reel: Reel, found: Found, { at }: CommandOf<'place'>): EditResult {
  if (found.trackIndex === 0) return refuse('A piece of the main track is moved in its order.');
  const to = Math.max(0, Math.round(at));
  const newId = idsFrom(found.clip.id, reel);
  const others = found.track.items.toSpliced(found.index, 1, { kind: 'gap', id: newId(), frames: found.clip.frames });
  let from = 0;
  for (const item of others) {
    if (item.kind === 'clip' && from < to + found.clip.frames && from + item.frames > to)
      return refuse(`“${item.name}” stands there already.`);
    from += item.frames;
  }
  return done(
    withItems(reel, (track, index) =>
      index === found.trackIndex ? overwriteAt(others, to, [found.clip], newId) : track.items,
    ),
  );
}

const trimmed = (clip: Clip, edge: 'in' | 'out', frames: number, photo: boolean): Clip =>
  edge === 'in'
    ? {
        ...clip,
        sourceIn: photo ? 0 : hundredth(clip.sourceIn + sourceFrames(clip, frames)),
        frames: clip.frames - frames,
      }
    : { ...clip, frames: clip.frames + frames };

/** Moves one end by `frames`: positive is later, for both ends. Linked pieces that end there too are trimmed with it. */
export function trim(reel: Reel, found: Found, command: CommandOf<'trim'>, sources: Sources): EditResult {
  const { edge } = command;
  const frames = Math.round(command.frames);
  const { clip } = found;
  const partners = linkedWith(reel, clip).filter(
    (each) => !each.track.locked && (edge === 'in' ? each.start === found.start : each.end === found.end),
  );
  const next = [found, ...partners].map((each) => ({
    ...each,
    next: trimmed(each.clip, edge, frames, sources.get(each.clip.media)?.photo ?? false),
  }));
  for (const each of next) {
    const source = sources.get(each.clip.media);
    const problem = problemOf(each.next, source, reel);
    if (!problem) continue;
    const room =
      !source || each.next.frames < 1
        ? 0
        : edge === 'in'
          ? -Math.floor((each.clip.sourceIn * 100) / (speedOf(each.clip) || 100))
          : framesLeft(each.clip, source, reel);
    const more = edge === 'out' && source && each.next.frames >= 1 ? ` ${Math.max(0, room)} more frames are left.` : '';
    return refuse(
      problem.replace(/;.*by \d+ frames?\.$/, `;${more}`),
      room !== 0 && Number.isFinite(room)
        ? { says: `Trim by ${Math.abs(room)} frames, all there is`, command: { ...command, frames: room } }
        : undefined,
    );
  }
  const change = edge === 'in' ? -frames : frames;
  if (change === 0) return done(reel);
  const newId = idsFrom(clip.id, reel);
  const own = new Set(next.map((each) => each.trackIndex));
  if (command.inPlace || found.trackIndex > 0) return trimInPlace(reel, next, edge, change, newId, command);
  const changed = withItems(reel, (track) =>
    next.reduce<readonly ReelItem[]>((items, each) => swapped(items, each.next), track.items),
  );
  const place = edge === 'in' ? found.start : change > 0 ? found.end : found.end + change;
  return done(ripple(changed, place, change, own, newId));
}

/** What is cut off becomes a gap; what is added needs a gap, or the end of the track, beside it. Above the main track everything is trimmed like this at its end. */
function trimInPlace(
  reel: Reel,
  next: (Found & { next: Clip })[],
  edge: 'in' | 'out',
  change: number,
  newId: () => string,
  command: CommandOf<'trim'>,
): EditResult {
  const rows = new Map<number, ReelItem[]>();
  for (const { track, trackIndex, index, next: clip } of next) {
    const neighbour = track.items[edge === 'in' ? index - 1 : index + 1];
    if (change < 0) {
      const gap: ReelItem = { kind: 'gap', id: newId(), frames: -change };
      rows.set(trackIndex, track.items.toSpliced(index, 1, ...(edge === 'in' ? [gap, clip] : [clip, gap])));
      continue;
    }
    if (neighbour?.kind === 'gap' && neighbour.frames >= change)
      rows.set(
        trackIndex,
        swapped(track.items, clip).map((item) =>
          item.id === neighbour.id ? { ...item, frames: item.frames - change } : item,
        ),
      );
    else if (!neighbour && edge === 'out') rows.set(trackIndex, swapped(track.items, clip));
    else {
      const room = neighbour?.kind === 'gap' ? neighbour.frames : 0;
      const side = edge === 'in' ? 'before' : 'after';
      return refuse(
        `There ${room === 1 ? 'is one free frame' : `are ${room} free frames`} ${side} “${clip.name}”; in place it cannot get longer by ${change}.`,
        trimAlternative(room, edge, command, next[0]!.trackIndex),
      );
    }
  }
  return done(withItems(reel, (track, index) => rows.get(index) ?? track.items));
}
const trimAlternative = (room: number, edge: 'in' | 'out', command: CommandOf<'trim'>, trackIndex: number) =>
  room > 0
    ? { says: `Take the ${room} free frames`, command: { ...command, frames: edge === 'in' ? -room : room } }
    : trackIndex === 0
      ? { says: 'Let the rest move', command: { ...command, inPlace: false } }
      : undefined;

/** Moves the cut before a clip; the reel stays as long as it is. Linked sounds cut at the same place go with it. */
export function roll(reel: Reel, found: Found, command: CommandOf<'roll'>, sources: Sources): EditResult {
  const frames = Math.round(command.frames);
  const before = found.track.items[found.index - 1];
  if (before?.kind !== 'clip')
    return refuse('There is no cut before this piece that could be moved: nothing stands directly before it.');
  const cuts: { a: Clip; b: Clip }[] = [{ a: before, b: found.clip }];
  for (const partner of linkedWith(reel, found.clip)) {
    const left = partner.track.items[partner.index - 1];
    if (
      partner.start === found.start &&
      !partner.track.locked &&
      left?.kind === 'clip' &&
      left.link !== undefined &&
      left.link === before.link
    )
      cuts.push({ a: left, b: partner.clip });
  }
  const next = new Map<string, Clip>();
  for (const { a, b } of cuts) {
    const later = trimmed(a, 'out', frames, sources.get(a.media)?.photo ?? false);
    const rest = trimmed(b, 'in', frames, sources.get(b.media)?.photo ?? false);
    const problem = problemOf(later, sources.get(a.media), reel) ?? problemOf(rest, sources.get(b.media), reel);
    if (problem) return refuse(problem);
    next.set(a.id, later).set(b.id, rest);
  }
  return done(withItems(reel, (track) => track.items.map((item) => next.get(item.id) ?? item)));
}

/** Another stretch of the source in the same place; a sound slips by hundredths of a frame. */
export function slip(reel: Reel, found: Found, command: CommandOf<'slip'>, sources: Sources): EditResult {
  const frames = found.track.kind === 'sound' ? hundredth(command.frames) : Math.round(command.frames);
  const source = sources.get(found.clip.media);
  if (source?.photo) return refuse('A photo is the same at every time; there is nothing to slip.');
  const partners =
    found.track.kind === 'picture'
      ? linkedWith(reel, found.clip).filter((each) => !each.track.locked && each.clip.media === found.clip.media)
      : [];
  const next = new Map<string, Clip>();
  for (const { clip } of [found, ...partners]) {
    const moved = { ...clip, sourceIn: hundredth(clip.sourceIn + frames) };
    const problem = problemOf(moved, sources.get(clip.media), reel);
    if (problem) {
      const room = !source
        ? 0
        : frames < 0
          ? -clip.sourceIn
          : Math.floor(lastFrame(source, reel) - clip.sourceIn - sourceFrames(clip, clip.frames));
      return refuse(
        problem,
        room !== 0
          ? { says: `Slip by ${Math.abs(room)} frames, all there is`, command: { ...command, frames: room } }
          : undefined,
      );
    }
    next.set(clip.id, moved);
  }
  return done(withItems(reel, (track) => track.items.map((item) => next.get(item.id) ?? item)));
}

export function split(reel: Reel, found: Found, command: CommandOf<'split'>): EditResult {
  const at = Math.round(command.at);
  if (at < 1 || at >= found.clip.frames)
    return refuse('The cut lies at the edge of the piece; there is nothing to split.');
  const newId = idsFrom(found.clip.id, reel);
  const frame = found.start + at;
  const partners = new Set(
    linkedWith(reel, found.clip)
      .filter((each) => !each.track.locked && frame > each.start && frame < each.end)
      .map((each) => each.trackIndex),
  );
  // The second halves share a link of their own, made from the frame of the cut.
  const relink = (items: ReelItem[]) =>
    items.map((item) =>
      item.kind === 'clip' && item.link?.startsWith(`${found.clip.link}/`)
        ? { ...item, link: `${found.clip.link}/${frame}` }
        : item,
    );
  return done(
    withItems(reel, (track, index) => {
      if (index !== found.trackIndex && !partners.has(index)) return track.items;
      const [before, after] = cutAt(track.items, frame, index === found.trackIndex ? () => command.newId : newId);
      return relink([...before, ...after]);
    }),
  );
}

export function speed(
  reel: Reel,
  found: Found,
  { percent, keepLength }: CommandOf<'speed'>,
  sources: Sources,
): EditResult {
  if (percent !== 0 && !(percent >= 25 && percent <= 400))
    return refuse('Speed goes from 25 to 400 per cent; 0 holds the first frame.');
  const { clip } = found;
  if (sources.get(clip.media)?.photo) return refuse('A photo has no speed; give it another length instead.');
  const linked = linkedWith(reel, clip).filter((each) => !each.track.locked);
  if (percent === 0 && linked.length > 0) return refuse('A held frame has no sound. Unlink the sound first.');
  const newId = idsFrom(clip.id, reel);
  const change = (each: Clip): Clip => {
    const kept = keepLength || percent === 0 || speedOf(each) === 0;
    const { speed: _, ...plain } = each;
    return {
      ...plain,
      sourceIn: each.sourceIn,
      frames: kept ? each.frames : Math.max(1, Math.round((sourceFrames(each, each.frames) * 100) / percent)),
      ...(percent === 100 ? {} : { speed: percent }),
    };
  };
  const next = [found, ...linked].map((each) => ({ ...each, next: change(each.clip) }));
  for (const each of next) {
    const problem = problemOf(each.next, sources.get(each.next.media), reel);
    if (problem)
      return refuse(
        problem,
        keepLength
          ? { says: 'Let the piece change its length', command: { type: 'speed', clip: clip.id, percent } }
          : undefined,
      );
  }
  const difference = next[0]!.next.frames - clip.frames;
  if (found.trackIndex > 0 && difference > 0) {
    const after = found.track.items[found.index + 1];
    if (after && !(after.kind === 'gap' && after.frames >= difference))
      return refuse(`There is no room after “${clip.name}” for ${difference} more frames.`);
  }
  const changed = withItems(reel, (track, index) => {
    const items = next.reduce<readonly ReelItem[]>((row, each) => swapped(row, each.next), track.items);
    if (index === 0 || index !== found.trackIndex || difference === 0) return items;
    const gap = items[found.index + 1];
    if (difference < 0) return items.toSpliced(found.index + 1, 0, { kind: 'gap', id: newId(), frames: -difference });
    return gap
      ? items.map((item) => (item.id === gap.id ? { ...item, frames: item.frames - difference } : item))
      : items;
  });
  if (found.trackIndex > 0) return done(changed);
  return done(
    ripple(
      changed,
      difference > 0 ? found.end : found.end + difference,
      difference,
      new Set(next.map((each) => each.trackIndex)),
      newId,
    ),
  );
}

/** A held frame between the two halves of a clip; silent. */
export function hold(reel: Reel, found: Found, command: CommandOf<'hold'>): EditResult {
  const at = Math.round(command.at);
  const frames = Math.round(command.frames);
  if (found.trackIndex > 0) return refuse('Frames are held in the main track.');
  if (frames < 1) return refuse('A held frame lasts at least one frame.');
  if (at < 0 || at >= found.clip.frames) return refuse('This frame is not in the piece.');
  const newId = idsFrom(found.clip.id, reel);
  const { into: _, fadeIn: __, fadeOut, link: ___, ...plain } = found.clip;
  const held: Clip = {
    ...plain,
    id: command.newId,
    sourceIn: hundredth(found.clip.sourceIn + sourceFrames(found.clip, at)),
    frames,
    speed: 0,
    muted: true,
  };
  // Held after its last frame, the piece is not cut.
  const whole = at === found.clip.frames - 1;
  const parts: ReelItem[] =
    at === 0
      ? [held, found.clip]
      : whole
        ? [{ ...found.clip }, { ...held, ...(fadeOut ? { fadeOut } : {}) }]
        : halves(found.clip, at, newId()).toSpliced(1, 0, held);
  if (whole && at > 0) delete (parts[0] as Clip).fadeOut;
  const changed = withItems(reel, (track, index) =>
    index === 0 ? track.items.toSpliced(found.index, 1, ...parts) : track.items,
  );
  const place = found.start + (at === 0 ? 0 : whole ? found.clip.frames : at);
  return done(ripple(changed, place, frames, new Set([0]), newId));
}

/** Other footage in the same place. */
export function replace(reel: Reel, found: Found, command: CommandOf<'replace'>, sources: Sources): EditResult {
  const source = sources.get(command.with.media);
  if (!source) return refuse(`The footage of “${command.with.name}” is missing.`);
  if (source.soundOnly && found.track.kind === 'picture') return refuse(`“${source.name}” has no picture.`);
  const { speed: _, steady: __, move: ___, ...kept } = found.clip;
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
      const short = trim(reel, found, { type: 'trim', clip: found.clip.id, edge: 'out', frames: -missing }, sources);
      return short.ok
        ? replace(short.reel, locate(short.reel, found.clip.id)!, { ...command, shorten: false }, sources)
        : short;
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

/** Puts a sound into the first track of that name in which its place is free, else into a new one. */
export function besideAt(reel: Reel, name: string, frame: number, clip: Clip, newId: () => string): Reel {
  const free = reel.tracks.findIndex(
    (track) =>
      track.kind === 'sound' &&
      track.name.startsWith(name) &&
      !track.locked &&
      isFree(track.items, frame, frame + clip.frames),
  );
  if (free >= 0)
    return withItems(reel, (track, index) =>
      index === free ? overwriteAt(track.items, frame, [clip], newId) : track.items,
    );
  const count = reel.tracks.filter((track) => track.kind === 'sound' && track.name.startsWith(name)).length;
  return {
    ...reel,
    tracks: [
      ...reel.tracks,
      { kind: 'sound', name: count ? `${name} ${count + 1}` : name, items: overwriteAt([], frame, [clip], newId) },
    ],
  };
}
