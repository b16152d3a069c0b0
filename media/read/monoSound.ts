import { capture } from '../capture';
import { MediaError, inputArguments } from '../process';
import { heardAlone } from '../probe/heard';
import { probe } from '../probe/probe';
import { listenForBest } from './listen';

/**
 * The sound of a file, mixed to one channel; of several tracks the one with the voice.
 * @param why what it is wanted for, for the sentence when there is none: "it cannot be compared"
 * @returns samples −1 to 1 at `sampleRate`
 */
export async function monoSound(
  file: string,
  sampleRate: number,
  why: string,
  signal?: AbortSignal,
): Promise<Float32Array> {
  const info = await probe(file);
  if (!info.hasSound) throw new MediaError(`There is no sound in ${file}, so ${why}.`);
  const bytes = await capture(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      ...inputArguments(file),
      ...heardAlone((await listenForBest(file, info, signal)).choice),
      '-ac',
      '1',
      '-ar',
      String(sampleRate),
      '-f',
      'f32le',
      '-',
    ],
    { signal, lengthSeconds: info.durationSeconds },
  );
  const whole = bytes.byteLength - (bytes.byteLength % 4);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + whole));
}
