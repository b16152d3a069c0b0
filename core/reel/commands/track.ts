import type { Reel } from '../types';
import { done, refuse, type Edit, type Outcome } from './edit';
import { isLevel } from '../level';

export interface SetTrack {
  type: 'track';
  track: number;
  locked?: boolean;
  muted?: boolean;
  levelDb?: number;
  name?: string;
}
export const track: Edit<SetTrack> = { apply: setTrack, says: () => 'changed a track' };

function setTrack(reel: Reel, command: SetTrack): Outcome {
  const track = reel.tracks[command.track];
  if (!track) return refuse('This track is not in the reel any more.');
  if (command.levelDb !== undefined && !isLevel(command.levelDb)) return refuse('A level lies between −60 and +12 dB.');
  const {
    locked = track.locked ?? false,
    muted = track.muted ?? false,
    levelDb = track.levelDb ?? 0,
    name = track.name,
  } = command;
  const { locked: _, muted: __, levelDb: ___, ...plain } = track;
  const next = {
    ...plain,
    name: name.trim() || track.name,
    ...(locked ? { locked } : {}),
    ...(muted ? { muted } : {}),
    ...(levelDb ? { levelDb } : {}),
  };
  return done({ ...reel, tracks: reel.tracks.with(command.track, next) });
}
