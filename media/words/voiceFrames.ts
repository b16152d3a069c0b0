import { firstTrack, type SoundChoice } from '#core/sound';
import { Cepstra, HeardPeriods, voiceRate } from '#core/voices';
import { inputArguments } from '../process';
import { heardAlone } from '../probe/heard';
import { capture } from '../capture';

/** What voices are told apart by. */
interface VoiceFrames {
  /** Of `Cepstra`. */
  cepstra: Float32Array;
  /** Of `HeardPeriods`. */
  periods: Float32Array;
}

/**
 * What is heard of a file, as the cepstra of its voices, and their periods.
 * @param onSeconds so much of it is decoded
 */
export async function voiceFrames(
  file: string,
  sound: SoundChoice = firstTrack,
  signal?: AbortSignal,
  onSeconds?: (seconds: number) => void,
): Promise<VoiceFrames> {
  const cepstra = new Cepstra();
  const periods = new HeardPeriods();
  let rest: Buffer = Buffer.alloc(0);
  let samples = 0;
  const format = ['-ac', '1', '-ar', String(voiceRate), '-f', 's16le', '-'];
  await capture('ffmpeg', ['-v', 'error', '-nostdin', ...inputArguments(file), ...heardAlone(sound), ...format], {
    signal,
    onChunk: (chunk) => {
      const all = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
      const whole = all.length - (all.length % 2);
      const piece = new Float32Array(whole / 2);
      for (let at = 0; at < piece.length; at++) piece[at] = all.readInt16LE(2 * at) / 32_768;
      rest = all.subarray(whole);
      cepstra.push(piece);
      periods.push(piece);
      onSeconds?.((samples += piece.length) / voiceRate);
    },
  });
  return { cepstra: cepstra.frames(), periods: periods.frames() };
}
