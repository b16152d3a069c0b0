import { counted } from '#core/sentences';
import { clipsOf, pictureTracks, soundTracks, type Clip, type Reel } from './types';

/** What was set on a reel beyond its cuts, a few words each, as a render makes it; empty for plain cuts. */
export function whatIsSet(reel: Reel): string[] {
  const clips = clipsOf(reel);
  const pieces = (what: (count: number) => string, has: (clip: Clip) => unknown): string[] => {
    const count = clips.filter(has).length;
    return count === 0 ? [] : [what(count)];
  };
  const above = pictureTracks(reel)
    .slice(1)
    .reduce((count, { items }) => count + items.filter(({ kind }) => kind === 'clip').length, 0);
  const beside = soundTracks(reel).filter(({ items }) => items.some(({ kind }) => kind === 'clip')).length;
  return [
    ...pieces(
      (count) => counted(count, 'transition'),
      ({ into }) => into,
    ),
    ...pieces(
      (count) => counted(count, 'steadied piece'),
      ({ steady }) => steady,
    ),
    ...pieces(
      (count) => `${counted(count, 'piece')} at another speed`,
      ({ speed = 100 }) => speed !== 100,
    ),
    ...(above > 0 ? [`${counted(above, 'piece')} above`] : []),
    ...(beside > 0 ? [counted(beside, 'sound track')] : []),
    ...(reel.titles?.length ? [counted(reel.titles.length, 'title')] : []),
    ...(reel.captions ? ['captions'] : []),
    ...(reel.logo ? ['a logo'] : []),
    ...(reel.look
      ? ['a look']
      : pieces(
          (count) => `the look of ${counted(count, 'piece')}`,
          ({ look }) => look,
        )),
    ...(reel.music ? [`the music “${reel.music.name}”`] : []),
    ...(reel.loudnessLufs === undefined ? [] : [`${reel.loudnessLufs} LUFS`]),
  ];
}
