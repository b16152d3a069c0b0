import { findOffset, offsetSampleRate, type RecordingOffset } from '#core/sound';
import { monoSound } from './monoSound';

/** Where the sound of one file lies in that of another. */
export async function offsetBetween(reference: string, other: string, signal?: AbortSignal): Promise<RecordingOffset> {
  const [a, b] = await Promise.all(
    [reference, other].map((file) => monoSound(file, offsetSampleRate, 'it cannot be compared', signal)),
  );
  return findOffset(a!, b!);
}
