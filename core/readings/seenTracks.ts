import { faceTracks, showsWho, type FaceSample, type SeenTrack } from '#core/picture';
import { runsOf, type Run } from './types';

/** Faces of a file followed through its shots, where they are large and sharp enough to tell who it is; their keys are "media/track". */
export function seenTracks(
  media: string,
  faces: readonly FaceSample[],
  runs: readonly Run[],
  durationSeconds: number,
): SeenTrack[] {
  const cuts = runsOf(runs, 'scene').map((scene) => scene.start);
  const blurred = runsOf(runs, 'blurred');
  return faceTracks(faces, cuts, durationSeconds)
    .filter((track) => showsWho(track, blurred))
    .map((track) => ({
      key: `${media}/${track.id}`,
      media,
      start: track.start,
      end: track.end,
      descriptor: track.descriptor!,
      track,
    }));
}
