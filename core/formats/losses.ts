import { clipsOf, pictureTracks, soundTracks, type Clip, type Reel } from '#core/reel';
import { counted } from '#core/sentences';

/** The list has four channels of sound; the first is that of the pictures. */
const soundTracksInEdl = 3;

/**
 * What a CMX 3600 edit decision list cannot say of a reel, a few words each; empty when it says everything. Transitions
 * other than dissolves, levels, size and rate stand in its comments and come back from there.
 */
export function notInEdl(reel: Reel): string[] {
  const clips = clipsOf(reel);
  const ofPieces = (what: string, has: (clip: Clip) => unknown): string[] => {
    const count = clips.filter(has).length;
    return count === 0 ? [] : [`${what} of ${counted(count, 'piece')}`];
  };
  const tooMany = soundTracks(reel).filter(({ items }) => items.length > 0).length - soundTracksInEdl;
  const covered = pictureTracks(reel)
    .slice(1)
    .some(({ items }) => items.some(({ kind }) => kind === 'clip'));
  return [
    ...(reel.titles?.length ? [counted(reel.titles.length, 'title')] : []),
    ...(reel.captions ? ['captions'] : []),
    ...(reel.music ? [`the music “${reel.music.name}”`] : []),
    ...(reel.logo ? ['the logo'] : []),
    ...(reel.markers?.length ? [counted(reel.markers.length, 'marker')] : []),
    ...(covered ? ['what lies under other pictures'] : []),
    ...(tooMany > 0 ? [counted(tooMany, 'sound track')] : []),
    ...(reel.look ? ['the look of the reel'] : []),
    ...ofPieces('the look', ({ look }) => look),
    ...ofPieces('the framing', ({ framing, fit }) => framing ?? fit),
    ...ofPieces('the move', ({ move }) => move),
    ...ofPieces('the steadying', ({ steady }) => steady),
    ...ofPieces('the fades', ({ fadeIn, fadeOut }) => fadeIn || fadeOut),
    ...(reel.tracks.some(({ levelDb }) => levelDb) ? ['the levels of tracks'] : []),
    ...(reel.loudnessLufs === undefined ? [] : ['the loudness']),
  ];
}
