import { describe, expect, it } from 'vitest';
import { findOffset, offsetSampleRate as rate } from '.';

let state = 7;
const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
const noise = () => random() * 2 - 1;

/** Something like speech: syllables of coloured noise with pauses, so that only one shift fits. */
function talk(seconds: number): Float32Array {
  const out = new Float32Array(seconds * rate);
  for (let at = 0; at < out.length;) {
    const length = Math.round((0.08 + random() * 0.25) * rate);
    const tone = 150 + random() * 900;
    const level = 0.1 + random() * 0.4;
    let low = 0;
    for (let i = 0; i < length && at + i < out.length; i++) {
      low += 0.35 * (noise() - low);
      out[at + i] = level * Math.sin((Math.PI * i) / length) * (0.5 * Math.sin((2 * Math.PI * tone * i) / rate) + low);
    }
    at += length + Math.round((random() < 0.15 ? 0.5 + random() : 0.03 + random() * 0.1) * rate);
  }
  return out;
}

/** What a recorder hears that starts at `start` seconds and whose clock runs `ppm` fast. */
function recorded(scene: Float32Array, start: number, seconds: number, ppm = 0): Float32Array {
  return Float32Array.from({ length: Math.floor(seconds * rate) }, (_, index) => {
    const at = start * rate + index / (1 + ppm * 1e-6);
    const low = Math.floor(at);
    return (scene[low] ?? 0) + ((scene[low + 1] ?? 0) - (scene[low] ?? 0)) * (at - low);
  });
}
const mixed = (clean: Float32Array, level: number) => clean.map((value) => value + level * noise());
function room(dry: Float32Array): Float32Array {
  const out = dry.slice();
  for (const [delay, gain] of [
    [0.013, 0.5],
    [0.031, 0.35],
    [0.057, 0.25],
    [0.11, 0.15],
  ] as const)
    for (let index = Math.round(delay * rate); index < dry.length; index++)
      out[index]! += gain * dry[index - Math.round(delay * rate)]!;
  return out;
}
function muffled(sharp: Float32Array): Float32Array {
  let low = 0;
  return sharp.map((value) => (low += 0.3 * (value - low)));
}

describe('where one recording lies in another (asked for: under 5 ms)', () => {
  const scene = talk(100);
  const reference = recorded(scene, 10, 70);
  it.each([
    ['as it is', 12.345, (sound: Float32Array) => sound],
    ['in noise', 31.007, (sound: Float32Array) => mixed(sound, 0.08)],
    ['from the next room', 17.25, muffled],
    ['with echoes', 25.5, room],
    ['started before the reference', 4.2, (sound: Float32Array) => sound],
  ])('%s', (_name, start, change) => {
    const { offsetSeconds, confidence } = findOffset(mixed(reference, 0.01), change(recorded(scene, start, 40)));
    expect(Math.abs(offsetSeconds - (start - 10))).toBeLessThan(0.005);
    expect(confidence).toBeGreaterThan(0.5);
  });
  it('measures clocks that drift apart by 40 parts in a million', () => {
    const long = talk(400);
    const { offsetSeconds, driftPpm } = findOffset(recorded(long, 0, 380), mixed(recorded(long, 20.5, 340, 40), 0.02));
    expect(Math.abs(offsetSeconds - 20.5)).toBeLessThan(0.005);
    expect(Math.abs(driftPpm - 40)).toBeLessThan(5);
  });
  it('has no confidence where there is nothing in common, and none in silence', () => {
    expect(findOffset(talk(30), talk(30)).confidence).toBeLessThan(0.3);
    expect(findOffset(new Float32Array(rate * 10), talk(10)).confidence).toBe(0);
    expect(findOffset(new Float32Array(10), talk(10)).confidence).toBe(0);
  });
});
