import type { SoundChoice } from '#core/sound';
import { heardAlone } from '../probe/heard';
import { capture } from '../capture';
import { inputArguments } from '../process';

/** A stretch of the sound of a file, as a browser plays it: Opus in WebM. @param from seconds */
export const excerptOf = (
  file: string,
  sound: SoundChoice,
  { from, seconds }: { from: number; seconds: number },
  signal?: AbortSignal,
): Promise<Buffer> =>
  capture(
    'ffmpeg',
    [
      ...['-v', 'error', '-nostdin', '-ss', from.toFixed(3), '-t', seconds.toFixed(3)],
      ...inputArguments(file),
      ...[...heardAlone(sound), '-ac', '2', '-ar', '48000', '-c:a', 'libopus', '-b:a', '96k', '-f', 'webm', '-'],
    ],
    { signal },
  );
