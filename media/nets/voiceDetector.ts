import type { Trace } from '#core/signal';
import type { SoundChoice } from '#core/sound';
import { heardAlone } from '../probe/heard';
import { floatChunks } from '../read/blocks';
import { loadVoiceNet } from './models';
import { closing, inputArguments } from '../process';
import { startProgram } from '../startProgram';
import { ort, type InferenceSession } from './runtime';

const hop = 512;
const context = 64;

/** Silero voice activity (v5): a probability for each 32 ms of 16 kHz mono sound. Keeps its state between calls. */
export class VoiceDetector {
  static readonly sampleRate = 16000;
  static readonly hz = VoiceDetector.sampleRate / hop;
  private state = new Float32Array(2 * 128);
  private readonly window = new Float32Array(context + hop);
  private filled = 0;
  readonly probabilities: number[] = [];

  private constructor(private readonly session: InferenceSession) {}

  static async load(): Promise<VoiceDetector> {
    return new VoiceDetector(await loadVoiceNet());
  }

  /** @param samples mono, 16 kHz, -1 to 1; any number */
  async push(samples: Float32Array): Promise<void> {
    for (let at = 0; at < samples.length;) {
      const take = Math.min(hop - this.filled, samples.length - at);
      this.window.set(samples.subarray(at, at + take), context + this.filled);
      this.filled += take;
      at += take;
      if (this.filled === hop) await this.step();
    }
  }

  /** Takes what is left of the last hop, filled up with silence. */
  async end(): Promise<void> {
    if (this.filled === 0) return;
    this.window.fill(0, context + this.filled);
    await this.step();
  }

  private async step() {
    const result = await this.session.run({
      input: new ort.Tensor('float32', this.window, [1, context + hop]),
      state: new ort.Tensor('float32', this.state, [2, 1, 128]),
      sr: new ort.Tensor('int64', BigInt64Array.of(BigInt(VoiceDetector.sampleRate)), []),
    });
    this.state = result.stateN!.data as Float32Array<ArrayBuffer>;
    this.probabilities.push((result.output!.data as Float32Array)[0]!);
    this.window.copyWithin(0, hop, context + hop);
    this.filled = 0;
  }
}

/** Voice probabilities of what is heard of a whole file. @param onSeconds so much of it was listened to */
export async function voiceOf(
  file: string,
  sound: SoundChoice,
  signal?: AbortSignal,
  onSeconds?: (seconds: number) => void,
): Promise<Trace> {
  const child = startProgram<'out'>(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      ...inputArguments(file),
      ...heardAlone(sound),
      '-ac',
      '1',
      '-ar',
      String(VoiceDetector.sampleRate),
      '-f',
      'f32le',
      '-',
    ],
    ['ignore', 'pipe', 'ignore'],
    { signal },
  );
  const ended = closing(child, signal);
  ended.catch(() => undefined);
  const detector = await VoiceDetector.load();
  for await (const samples of floatChunks(child.stdout)) {
    await detector.push(samples);
    onSeconds?.(detector.probabilities.length / VoiceDetector.hz);
  }
  await detector.end();
  await ended;
  return { name: 'sound.voice', hz: VoiceDetector.hz, start: 0, values: Float32Array.from(detector.probabilities) };
}
