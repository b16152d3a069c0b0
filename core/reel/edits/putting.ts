import { formatClock } from '#core/time';
import type { CommandOf, EditResult } from '../command';
import { insertAt, isFree, overwriteAt } from '../items';
import { itemsFrames, mainTrack, type Clip, type Reel, type Track } from '../types';
import { besideAt, remove } from './pieces';
import {
  done,
  framesLeft,
  idsFrom,
  isLocked,
  lastFrame,
  locate,
  problemOf,
  refuse,
  ripple,
  withItems,
  type Sources,
} from './shared';

/** Three-point editing: pieces that come in. */
export function put(reel: Reel, command: CommandOf<'put'>, sources: Sources): EditResult {
  const { how, at, clips } = command;
  if (clips.length === 0) return refuse('Nothing is marked, so there is nothing to put into the reel.');
  const taken = new Set(reel.tracks.flatMap((track) => track.items.map((item) => item.id)));
  const added: Clip[] = [];
  for (const each of clips) {
    const source = sources.get(each.media);
    if (!source) return refuse(`The footage of “${each.name}” is missing.`);
    if (taken.has(each.id)) return refuse('This piece is in the reel already.');
    if (each.frames < 1) return refuse(`“${each.name}” is shorter than a frame of the reel.`);
    if (source.soundOnly && how !== 'sound')
      return refuse(`“${source.name}” has no picture; it can be put beside the pictures as sound.`);
    if (source.photo && how === 'sound') return refuse(`“${source.name}” is a photo and has no sound.`);
    let clip: Clip = { kind: 'clip', ...each };
    const problem = problemOf(clip, source, reel);
    if (problem) {
      const left = lastFrame(source, reel) - clip.sourceIn;
      if (!command.shorten || left < 1 || clip.sourceIn < 0)
        return refuse(
          `“${source.name}” ends at ${formatClock(source.durationSeconds, true)}; the piece reaches beyond it.`,
          left >= 1 && clip.sourceIn >= 0
            ? { says: 'Take what there is', command: { ...command, shorten: true } }
            : undefined,
        );
      clip = { ...clip, frames: clip.frames + framesLeft(clip, source, reel) };
    }
    taken.add(clip.id);
    added.push(clip);
  }
  const newId = idsFrom(added[0]!.id, reel);
  const length = itemsFrames(added);
  const main = mainTrack(reel);
  const frame = Math.max(0, Math.round(at));
  const locked = how === 'sound' || how === 'above' ? null : isLocked(main);
  if (locked) return refuse(locked);
  const onMain = (items: (now: Track) => readonly Track['items'][number][]): Reel =>
    withItems(reel, (track, index) => (index === 0 ? items(track) : track.items));
  if (how === 'append') return done(onMain((track) => [...track.items, ...added]));
  if (how === 'overwrite')
    return done(onMain((track) => overwriteAt(track.items, Math.min(frame, itemsFrames(main.items)), added, newId)));
  if (how === 'insert') {
    const place = Math.min(frame, itemsFrames(main.items));
    return done(
      ripple(
        onMain((track) => insertAt(track.items, place, added, newId)),
        place,
        length,
        new Set([0]),
        newId,
      ),
    );
  }
  if (how === 'sound') {
    let start = frame;
    return done(
      added.reduce((now, clip) => {
        const next = besideAt(now, 'Added sound', start, clip, newId);
        start += clip.frames;
        return next;
      }, reel),
    );
  }
  // The lowest track above the main one in which the place is free; a new one when none is.
  const free = reel.tracks.findIndex(
    (track, index) =>
      index > 0 && track.kind === 'picture' && !track.locked && isFree(track.items, frame, frame + length),
  );
  if (free >= 0)
    return done(
      withItems(reel, (track, index) => (index === free ? overwriteAt(track.items, frame, added, newId) : track.items)),
    );
  const pictures = reel.tracks.filter((track) => track.kind === 'picture').length;
  return done({
    ...reel,
    tracks: reel.tracks.toSpliced(pictures, 0, {
      kind: 'picture',
      name: `Above ${pictures}`,
      items: overwriteAt([], frame, added, newId),
    }),
  });
}

export function handOver(reel: Reel, id: string): EditResult {
  const found = locate(reel, id);
  if (!found) return refuse('This piece is not in the reel any more.');
  if (found.trackIndex !== 0) return refuse('Only pieces of the main track can be moved to another reel.');
  const locked = isLocked(found.track);
  if (locked) return refuse(locked);
  const { items } = found.track;
  const result = remove(reel, found);
  if (!result.ok) return result;
  const before = items.slice(found.index + 1).find((item) => item.kind === 'clip')?.id ?? null;
  // What was moved from just before this piece now stands before what follows it.
  const moved = (reel.moved ?? []).map((each) => (each.before === id ? { ...each, before } : each));
  const { link: _, ...clip } = found.clip;
  return done({ ...result.reel, moved: [...moved, { clip, before }] });
}

export function takeBack(reel: Reel, id: string): EditResult {
  const own = reel.moved?.find((each) => each.clip.id === id);
  if (!own) return refuse('This piece was not moved away, or it is back already.');
  const main = mainTrack(reel);
  const locked = isLocked(main);
  if (locked) return refuse(locked);
  const index = own.before === null ? -1 : main.items.findIndex((item) => item.id === own.before);
  const place = index < 0 ? itemsFrames(main.items) : itemsFrames(main.items.slice(0, index));
  const newId = idsFrom(id, reel);
  const back = ripple(
    withItems(reel, (track, at) => (at === 0 ? insertAt(track.items, place, [own.clip], newId) : track.items)),
    place,
    own.clip.frames,
    new Set([0]),
    newId,
  );
  return done({ ...back, moved: reel.moved!.filter((each) => each !== own) });
}

/** Mutes a clip and lays another recording under it; only as much of it as there is. */
export function replaceSound(reel: Reel, command: CommandOf<'replaceSound'>, sources: Sources): EditResult {
  const found = locate(reel, command.clip);
  const source = sources.get(command.sound.media);
  if (!found || found.track.kind !== 'picture') return refuse('Choose the piece whose sound is to be replaced.');
  if (!source) return refuse(`The recording “${command.sound.name}” is missing.`);
  if ((found.clip.speed ?? 100) !== 100)
    return refuse('A piece at another speed keeps its own sound; bring it to 100 % first.');
  const from = Math.max(0, command.sound.sourceIn);
  const late = Math.ceil(from - command.sound.sourceIn);
  const frames = Math.min(found.clip.frames - late, Math.floor(lastFrame(source, reel) - from));
  if (frames < 1) return refuse(`“${source.name}” was not running while this piece was filmed.`);
  const newId = idsFrom(command.sound.id, reel);
  const link = found.clip.link ?? found.clip.id;
  const clip: Clip = {
    kind: 'clip',
    id: command.sound.id,
    media: command.sound.media,
    name: command.sound.name,
    sourceIn: Math.round((command.sound.sourceIn + late) * 100) / 100,
    frames,
    link,
  };
  // Sounds that were laid under it before are replaced too.
  const cleared = withItems(reel, (track) =>
    track.items.map((item) =>
      track.kind === 'sound' && item.kind === 'clip' && found.clip.link !== undefined && item.link === found.clip.link
        ? { kind: 'gap', id: newId(), frames: item.frames }
        : item.id === found.clip.id
          ? { ...item, link, muted: true }
          : item,
    ),
  );
  const reel2 = besideAt(cleared, 'Added sound', found.start + late, clip, newId);
  return frames + late < found.clip.frames || late > 0
    ? {
        ok: true,
        reel: reel2,
        note: `“${source.name}” covers ${Math.round((frames / found.clip.frames) * 100)} % of the piece; the rest is silent.`,
      }
    : done(reel2);
}

/** The clip's sound as a piece of its own, linked to the picture. */
export function detach(reel: Reel, command: CommandOf<'detach'>, sources: Sources): EditResult {
  const found = locate(reel, command.clip);
  if (!found || found.track.kind !== 'picture') return refuse('Choose a piece with a picture.');
  const { clip } = found;
  if (
    clip.link !== undefined &&
    reel.tracks.some(
      (track) => track.kind === 'sound' && track.items.some((item) => item.kind === 'clip' && item.link === clip.link),
    )
  )
    return refuse('Its sound is a piece of its own already.');
  if (sources.get(clip.media)?.photo || clip.speed === 0)
    return refuse('There is no sound in it that could be detached.');
  const sound: Clip = {
    kind: 'clip',
    id: command.newId,
    media: clip.media,
    name: clip.name,
    sourceIn: clip.sourceIn,
    frames: clip.frames,
    link: clip.id,
    ...(clip.speed === undefined ? {} : { speed: clip.speed }),
    ...(clip.levelDb === undefined ? {} : { levelDb: clip.levelDb }),
  };
  const muted = withItems(reel, (track) =>
    track.items.map((item) => (item.id === clip.id ? { ...item, link: clip.id, muted: true } : item)),
  );
  return done(besideAt(muted, 'Camera sound', found.start, sound, idsFrom(command.newId, reel)));
}

/** The detached or replaced sound goes away, and the piece sounds by itself again. */
export function attach(reel: Reel, id: string): EditResult {
  const found = locate(reel, id);
  const link = found?.clip.link;
  if (!found || link === undefined) return refuse('Its sound is its own already.');
  const newId = idsFrom(id, reel);
  return done(
    withItems(reel, (track) =>
      track.items.map((item) => {
        if (item.kind !== 'clip' || item.link !== link) return item;
        if (track.kind === 'sound') return { kind: 'gap', id: newId(), frames: item.frames };
        const { link: _, muted: __, ...own } = item;
        return own;
      }),
    ),
  );
}

export function unlink(reel: Reel, id: string): EditResult {
  const link = locate(reel, id)?.clip.link;
  if (link === undefined) return refuse('This piece is linked with nothing.');
  return done(
    withItems(reel, (track) =>
      track.items.map((item) => {
        if (item.kind !== 'clip' || item.link !== link) return item;
        const { link: _, ...own } = item;
        return own;
      }),
    ),
  );
}
