import { findOffset, offsetSampleRate, type RecordingOffset } from '#core/sound';
import { MediaError, capture, inputArguments } from './process';
import { probe } from './probe';

async function mono(file: string, signal?: AbortSignal): Promise<Float32Array> {
  const info = await probe(file);
  if (!info.hasSound) throw new MediaError(`There is no sound in ${file}, so it cannot be compared.`);
  const bytes = await capture('ffmpeg', ['-v', 'error', '-nostdin', ...inputArguments(file), '-map', '0:a:0', '-af', 'aresample=async=1:first_pts=0', '-ac', '1', '-ar', String(offsetSampleRate), '-f', 'f32le', '-'], signal);
  const whole = bytes.byteLength - (bytes.byteLength % 4);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + whole));
}

/** Where the sound of one file lies in that of another. */
export async function offsetBetween(reference: string, other: string, signal?: AbortSignal): Promise<RecordingOffset> {
  const [a, b] = await Promise.all([mono(reference, signal), mono(other, signal)]);
  return findOffset(a, b);
}
