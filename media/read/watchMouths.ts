import { MouthWatch, type MouthTrace } from '#core/framing';
import type { FaceTrack } from '#core/picture';
import type { Range } from '#core/time';
import { fixedBlocks } from './blocks';
import { MediaError, closing, inputArguments } from '../process';
import { noLongerThan } from '../probe/shown';
import { startProgram } from '../startProgram';

/** Pictures a second: lips open and close about five times a second (syllable rate of speech, common practice). */
const hz = 12.5;
const width = 640;

/**
 * Watches the mouths of faces in stretches of a film.
 * @param shape height ÷ width of the picture
 * @throws MediaError, Cancelled
 */
export async function watchMouths(
  file: string,
  tracks: readonly FaceTrack[],
  ranges: readonly Range[],
  shape: number,
  signal?: AbortSignal,
): Promise<MouthTrace[]> {
  const height = Math.max(2, Math.round((width * shape) / 2) * 2);
  const found: MouthTrace[] = [];
  for (const range of ranges) {
    const within = tracks.filter((track) => track.start < range.end && track.end > range.start);
    const watch = new MouthWatch(within, range.start, hz);
    const child = startProgram<'out'>(
      'ffmpeg',
      [
        '-v',
        'error',
        '-nostdin',
        '-ss',
        Math.max(0, range.start).toFixed(3),
        '-t',
        (range.end - range.start).toFixed(3),
        ...inputArguments(file),
        '-map',
        '0:v:0',
        '-vf',
        `fps=${hz}:start_time=0:round=near,${noLongerThan(range.end - range.start)}scale=${width}:${height}:flags=area,format=gray`,
        '-f',
        'rawvideo',
        '-',
      ],
      ['ignore', 'pipe', 'ignore'],
      { signal },
    );
    const ended = closing(child, signal);
    for await (const values of fixedBlocks(child.stdout, width * height))
      watch.push({ width, height, values: new Uint8Array(values) });
    const [code] = await ended;
    if (code !== 0) throw new MediaError('The pictures of a piece could not be decoded.');
    found.push(...watch.traces());
  }
  return found;
}
