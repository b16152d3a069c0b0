import { formatClock } from '#core/time';
import { insertAt, isFree, overwriteAt } from '../items';
import { itemsFrames, mainTrack, type Clip, type Reel, type Track } from '../types';
import { besideAt, idsFrom, ripple, withItems } from './change';
import { done, refuse, type Edit, type Outcome, type Sources } from './edit';
import { isLocked } from './found';
import { framesLeft, lastFrame, problemOf } from './room';

/** Where pieces go: pushed in, laid over, at the end, above the main track without touching it, or heard beside it. */
export const placings = ['insert', 'overwrite', 'append', 'above', 'sound'] as const;
export type Placing = (typeof placings)[number];

/** A piece on its way in. What ties one to its neighbours or to a montage does not come along. */
type NewClip = Omit<Clip, 'kind' | 'into' | 'slot'>;

/** Three-point editing: pieces of sources, put at a frame of the reel; `shorten` cuts them to what their sources hold. */
export interface Put {
  type: 'put';
  how: Placing;
  at: number;
  clips: NewClip[];
  shorten?: boolean;
}
const placingWords: Record<Placing, string> = {
  append: 'to the end',
  insert: 'in',
  overwrite: 'over what was there',
  above: 'above',
  sound: 'beside, as sound',
};
export const put: Edit<Put> = {
  apply: putPieces,
  says: ({ how, clips }) =>
    `put ${clips.length === 1 ? `“${clips[0]!.name}”` : `${clips.length} pieces`} ${placingWords[how]}`,
};

function putPieces(reel: Reel, command: Put, sources: Sources): Outcome<Put> {
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
