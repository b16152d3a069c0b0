import { seededRandom } from './random';

export const sampleRate = 48000;

/** A stereo mix under construction, samples from -1 to 1. */
export class Mix {
  readonly left: Float32Array;
  readonly right: Float32Array;

  constructor(seconds: number) {
    this.left = new Float32Array(Math.round(seconds * sampleRate));
    this.right = new Float32Array(this.left.length);
  }

  /** Adds a mono sound at `seconds`; `pan` is -1 (left) to 1 (right). */
  add(sound: Float32Array, seconds: number, gain = 1, pan = 0) {
    const at = Math.round(seconds * sampleRate);
    const l = gain * Math.cos(((pan + 1) * Math.PI) / 4) * Math.SQRT2;
    const r = gain * Math.sin(((pan + 1) * Math.PI) / 4) * Math.SQRT2;
    for (let index = 0; index < sound.length; index++) {
      const to = at + index;
      if (to < 0 || to >= this.left.length) continue;
      this.left[to]! += sound[index]! * l;
      this.right[to]! += sound[index]! * r;
    }
  }

  /** 16-bit interleaved PCM, softly limited. */
  toPcm(): Buffer {
    const pcm = Buffer.alloc(this.left.length * 4);
    const limit = (value: number) => Math.round(Math.tanh(value * 1.05) * 0.93 * 32767);
    for (let index = 0; index < this.left.length; index++) {
      pcm.writeInt16LE(limit(this.left[index]!), index * 4);
      pcm.writeInt16LE(limit(this.right[index]!), index * 4 + 2);
    }
    return pcm;
  }
}

/** One-pole band-limited noise between about `lowHz` and `highHz`. */
export function bandNoise(seed: number, seconds: number, lowHz: number, highHz: number): Float32Array {
  const random = seededRandom(seed);
  const out = new Float32Array(Math.round(seconds * sampleRate));
  const a = 1 - Math.exp((-2 * Math.PI * highHz) / sampleRate);
  const b = 1 - Math.exp((-2 * Math.PI * lowHz) / sampleRate);
  let low = 0;
  let low2 = 0;
  let base = 0;
  for (let index = 0; index < out.length; index++) {
    low += (random() * 2 - 1 - low) * a;
    low2 += (low - low2) * a;
    base += (low2 - base) * b;
    out[index] = low2 - base;
  }
  return out;
}

function shaped(sound: Float32Array, level: (seconds: number) => number): Float32Array {
  for (let index = 0; index < sound.length; index++) sound[index]! *= level(index / sampleRate);
  return sound;
}

/** Wind over water and a few birds, very quiet: the room tone of the pond. */
export function pondTone(seed: number, seconds: number): Float32Array {
  const out = shaped(bandNoise(seed, seconds, 120, 900), (t) => 0.018 * (1 + 0.3 * Math.sin(t * 0.7)));
  const random = seededRandom(seed + 5);
  for (let at = 2 + random() * 4; at < seconds - 1; at += 5 + random() * 9) {
    const pitch = 2600 + random() * 1500;
    for (let chirp = 0; chirp < 3; chirp++) {
      const start = Math.round((at + chirp * 0.13) * sampleRate);
      for (let index = 0; index < 3400 && start + index < out.length; index++) {
        const t = index / 3400;
        out[start + index]! +=
          0.012 * Math.sin(Math.PI * t) * Math.sin((2 * Math.PI * (pitch + 700 * t) * index) / sampleRate);
      }
    }
  }
  return out;
}

/** Many open voices at once, with clapping: rises, holds and falls over `seconds`. */
export function cheer(seed: number, seconds: number): Float32Array {
  const random = seededRandom(seed);
  const roar = bandNoise(seed + 1, seconds, 500, 2600);
  const out = new Float32Array(roar.length);
  const voices = Array.from({ length: 16 }, () => ({
    hz: 190 + random() * 330,
    delay: random() * 0.5,
    drift: random() * 3,
    phase: random(),
  }));
  for (let index = 0; index < out.length; index++) {
    const t = index / sampleRate;
    const level = Math.min(1, t / 0.4) * Math.min(1, (seconds - t) / (seconds * 0.5));
    let sum = roar[index]! * 1.7;
    for (const voice of voices) {
      if (t < voice.delay) continue;
      voice.phase += (voice.hz * (1 + 0.04 * Math.sin(t * voice.drift + voice.hz))) / sampleRate;
      const p = voice.phase * 2 * Math.PI;
      sum += (Math.sin(p) + 0.7 * Math.sin(2 * p) + 0.5 * Math.sin(3 * p) + 0.25 * Math.sin(5 * p)) * 0.028;
    }
    out[index] = sum * level * 0.6;
  }
  for (let clap = 0; clap < seconds * 42; clap++) {
    const start = Math.round(random() * (seconds - 0.2) * sampleRate);
    const gain = 0.09 * random();
    for (let index = 0; index < 900; index++) out[start + index]! += (random() * 2 - 1) * gain * Math.exp(-index / 170);
  }
  return out;
}

/** A splash: a burst of noise that sinks in pitch. */
export function splash(seed: number): Float32Array {
  const high = shaped(bandNoise(seed, 1.6, 900, 7000), (t) => Math.exp(-t * 4.5));
  const low = shaped(bandNoise(seed + 1, 1.6, 60, 500), (t) => Math.exp(-t * 3) * 2.4);
  return high.map((value, index) => (value * 0.9 + low[index]!) * 0.8);
}

/** A starting horn. */
export function horn(seconds: number): Float32Array {
  const out = new Float32Array(Math.round(seconds * sampleRate));
  for (let index = 0; index < out.length; index++) {
    const t = index / sampleRate;
    const level = Math.min(1, t / 0.03) * Math.min(1, (seconds - t) / 0.1);
    for (const [part, gain] of [
      [1, 1],
      [2, 0.6],
      [3, 0.45],
      [4, 0.3],
      [5, 0.2],
    ] as const)
      out[index]! += Math.sin(2 * Math.PI * 311 * part * t) * gain * 0.13 * level;
  }
  return out;
}
