import { describe, expect, it } from 'vitest';
import { musicLikelihood, musicRuns, OnsetMeter, partWind } from '#core/sound';
import { songs } from '../../scripts/accuracy/songs';
import { decodeMono, realSpeech } from '../testMedia';

const rate = OnsetMeter.sampleRate;
const levelHz = 50;

function windIn(sound: Float32Array) {
  const meter = new OnsetMeter();
  meter.push(sound);
  const hop = rate / levelHz;
  const level = Float32Array.from({ length: Math.floor(sound.length / hop) }, (_, at) => {
    const part = sound.subarray(at * hop, (at + 1) * hop);
    return 10 * Math.log10(part.reduce((sum, value) => sum + value * value, 0) / hop + 1e-12);
  });
  const music = musicRuns(musicLikelihood(meter.onset, meter.tonal, level));
  return partWind(Float32Array.from(meter.centroid), level, levelHz, music).wind;
}
const seconds = (runs: readonly { start: number; end: number }[]) =>
  runs.reduce((sum, { start, end }) => sum + end - start, 0);

/** Brownian noise that swells and sinks: its power falls by 6 dB an octave (from memory of measured wind noise). */
function wind(count: number, loud: number): Float32Array {
  let state = 7;
  const noise = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 31 - 1;
  let walk = 0,
    even = 0;
  const gusts = Float32Array.from({ length: count }, (_, at) => {
    walk = 0.985 * walk + noise();
    even = 0.95 * even + 0.05 * walk;
    return even * (0.7 + 0.3 * Math.sin((2 * Math.PI * at) / rate / 3.1));
  });
  const power = Math.sqrt(gusts.reduce((sum, value) => sum + value * value, 0) / count);
  return gusts.map((value) => (value / power) * loud);
}

// Real speech of Debian's pocketsphinx-testdata, real songs of its fretsonfire-songs packages.
describe('wind in the microphone', () => {
  const speech = ['0870', '0880', '0890', '0920'].map((part) =>
    decodeMono(realSpeech(`librivox/sense_and_sensibility_01_austen_64kb-${part}.wav`), rate),
  );
  const loudness = (sound: Float32Array) =>
    Math.sqrt(sound.reduce((sum, value) => sum + value * value, 0) / sound.length);

  it('is not heard in real speech and real songs', () => {
    for (const sound of speech) expect(windIn(sound)).toEqual([]);
    for (const name of songs) {
      const song = decodeMono(`/usr/share/games/fretsonfire/data/songs/${name}/song.ogg`, rate);
      expect(seconds(windIn(song)) / (song.length / rate), name).toBeLessThan(0.02);
    }
  });
  it('is heard where it blows alone', () => {
    expect(seconds(windIn(wind(20 * rate, 0.1)))).toBeGreaterThan(19);
    expect(windIn(wind(20 * rate, 0.002))).toEqual([]);
  });
  it('is heard where it drowns real speech, and no longer where speech stands well over it', () => {
    for (const sound of speech) {
      const mixed = (decibels: number) => {
        const own = wind(sound.length, loudness(sound) * 10 ** (decibels / 20));
        return sound.map((value, at) => value + own[at]!);
      };
      const share = (decibels: number) => seconds(windIn(mixed(decibels))) / (sound.length / rate);
      expect(share(15)).toBeGreaterThan(0.8);
      expect(share(-10)).toBe(0);
    }
  });
});
