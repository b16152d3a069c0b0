import { existsSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import { decodeMono, realSpeech } from '../../media/testMedia';
import { goesOn, joinSampleRate } from './continuity';

const sentences = [
  'librivox/sense_and_sensibility_01_austen_64kb-0870.wav',
  'librivox/sense_and_sensibility_01_austen_64kb-0880.wav',
];
const seconds = 3 * joinSampleRate;

describe.skipIf(!existsSync(realSpeech(sentences[0]!)))('real speech (pocketsphinx-testdata)', () => {
  const [one, other] = sentences.map((name) => decodeMono(realSpeech(name), joinSampleRate)) as [
    Float32Array,
    Float32Array,
  ];
  const cuts = Array.from({ length: 24 }, (_, at) => Math.round((0.3 + at * 0.015) * one.length));
  it('goes on wherever it is parted', () => {
    const right = cuts.filter((cut) =>
      goesOn(one.subarray(Math.max(0, cut - seconds), cut), one.subarray(cut, cut + seconds)),
    );
    expect(right).toHaveLength(cuts.length);
  });
  it('does not go on in a hum, or in silence', () => {
    const random = seededRandom(1);
    const hum = Float32Array.from({ length: seconds }, (_, at) => 0.2 * Math.sin(at * 0.05) + 0.001 * random());
    const loud = cuts.filter((cut) => one.subarray(cut - 2000, cut).some((sample) => Math.abs(sample) > 0.1));
    expect(loud.length).toBeGreaterThan(10);
    for (const cut of loud) {
      const before = one.subarray(Math.max(0, cut - seconds), cut);
      expect([goesOn(before, new Float32Array(seconds)), goesOn(before, hum)]).toEqual([false, false]);
    }
    expect(goesOn(hum, other.subarray(6000, 6000 + seconds))).toBe(false);
  });
});

it('too little of it tells nothing', () => expect(goesOn(new Float32Array(3000), new Float32Array(3000))).toBe(false));
it('room noise does not go on in room noise ten decibels louder', () => {
  const random = seededRandom(2);
  const noise = (level: number) => Float32Array.from({ length: seconds }, () => level * (random() - 0.5));
  expect([goesOn(noise(0.01), noise(0.01)), goesOn(noise(0.01), noise(0.032))]).toEqual([true, false]);
});
