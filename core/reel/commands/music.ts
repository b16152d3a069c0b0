import { formatClock } from '#core/time';
import { isLevel, loudnessTargets } from '../level';
import type { Music, Reel } from '../types';
import { done, refuse, type Edit, type Outcome, type Sources } from './edit';

/** Music under the reel, other settings of it, or none. */
export interface SetMusic {
  type: 'music';
  music: Music | null;
}
export const music: Edit<SetMusic> = {
  apply: (reel, command, sources) => setMusic(reel, command.music, sources),
  says: (command) => (command.music ? `put “${command.music.name}” under the reel` : 'took the music away'),
};

/** In LUFS; null leaves it as it comes. */
export interface Loudness {
  type: 'loudness';
  lufs: number | null;
}
export const loudness: Edit<Loudness> = {
  apply: setLoudness,
  says: ({ lufs }) => (lufs === null ? 'left the loudness as it comes' : `set the loudness to ${lufs} LUFS`),
};

export function setMusic(reel: Reel, music: Music | null, sources: Sources): Outcome {
  const { music: _, ...rest } = reel;
  if (!music) return done(rest);
  const source = sources.get(music.media);
  if (!source) return refuse(`The music “${music.name}” is missing.`);
  if (source.photo || source.durationSeconds < 1) return refuse(`“${source.name}” has no sound that could be music.`);
  if (!isLevel(music.levelDb) || !(music.duckDb >= 0 && music.duckDb <= 60))
    return refuse('The level of the music lies between −60 and +12 dB, and it sinks by 0 to 60.');
  if (!(music.startSeconds >= 0) || music.startSeconds >= source.durationSeconds)
    return refuse(
      `“${source.name}” ends at ${formatClock(source.durationSeconds, true)}; the music cannot begin after that.`,
    );
  return done({ ...rest, music });
}

function setLoudness(reel: Reel, { lufs }: Loudness): Outcome {
  const { loudnessLufs: _, ...rest } = reel;
  if (lufs !== null && !(loudnessTargets as readonly number[]).includes(lufs))
    return refuse(`Loudness can be ${loudnessTargets.join(', ')} LUFS, or as it comes.`);
  return done(lufs === null ? rest : { ...rest, loudnessLufs: lufs });
}
