import { beatSampleRate, hearMusic, type MusicHearing } from '#core/sound';
import { monoSound } from './monoSound';
import { MediaError } from '../process';

/** Longer recordings are not music that anybody cuts to. */
const longestSeconds = 30 * 60;

/** Beats, bars, sections and energy of a file's sound. */
export async function hearMusicIn(file: string, signal?: AbortSignal): Promise<MusicHearing> {
  const samples = await monoSound(file, beatSampleRate, 'no beats can be found in it', signal);
  if (samples.length / beatSampleRate > longestSeconds)
    throw new MediaError(
      `This recording is ${Math.round(samples.length / beatSampleRate / 60)} minutes long; beats are looked for in music of at most 30 minutes.`,
    );
  return hearMusic(samples);
}
