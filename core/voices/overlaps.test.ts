import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import { HeardPeriods, overlapsIn, periodsHz, periodsSize, withOverlaps } from './overlaps';
import { changeVoice, joinVoices, voicesTogether } from './voices';

const rate = 16_000;
/** Something like a voice: twelve harmonics of a pitch that glides, weaker the higher they are. */
function voice(seconds: number, hertz: number): Float32Array {
  let phase = 0;
  return Float32Array.from({ length: Math.round(seconds * rate) }, (_, at) => {
    phase += (2 * Math.PI * hertz * (1 + 0.05 * Math.sin((2 * Math.PI * at) / rate))) / rate;
    let sum = 0;
    for (let harmonic = 1; harmonic <= 12; harmonic++) sum += Math.sin(harmonic * phase) / harmonic;
    return sum * 0.1;
  });
}
const periodsOf = (sound: Float32Array): Float32Array => {
  const heard = new HeardPeriods();
  heard.push(sound);
  return heard.frames();
};
const turn = (start: number, end: number, own: number, also?: number) => ({
  start,
  end,
  voice: own,
  ...(also === undefined ? {} : { also }),
});

describe('periods that are heard', () => {
  it('come in pieces or at once, and are the same', () => {
    const sound = voice(1, 140);
    const parts = new HeardPeriods();
    for (let at = 0; at < sound.length; at += 777) parts.push(sound.subarray(at, at + 777));
    expect([...parts.frames()]).toEqual([...periodsOf(sound)]);
    // A frame whose window of 50 ms is not whole at the end is left out.
    expect(periodsOf(sound).length / periodsSize).toBeGreaterThan(periodsHz - 3);
  });
  it('one voice goes with its own period; of two, one stays until its period is cancelled too', () => {
    const [low, high] = [voice(2, 110), voice(2, 187)];
    const mean = (sound: Float32Array, number: number) => {
      const frames = periodsOf(sound).filter((_, at) => at % periodsSize === number);
      // Frames at the beginning reach back to where there was no sound.
      const whole = frames.slice(5);
      return whole.reduce((sum, value) => sum + value, 0) / whole.length;
    };
    const both = low.map((sample, at) => sample + high[at]!);
    expect(mean(low, 0)).toBeLessThan(-4);
    expect(mean(both, 0)).toBeGreaterThan(-2.5);
    expect(mean(both, 1)).toBeLessThan(-2);
  });
});

describe('where two speak at once', () => {
  it('is found in speech alone, not where music plays, and noise is nobody', () => {
    const random = seededRandom(3);
    const [low, high] = [voice(6, 110), voice(6, 187)];
    const talk = low.map((sample, at) => sample + (at > 2 * rate && at < 4 * rate ? high[at]! : 0));
    const hiss = talk.map((sample) => sample + 0.004 * (random() - 0.5));
    const speech = [{ start: 0, end: 6 }];
    const [found, ...more] = overlapsIn(periodsOf(hiss), speech);
    expect(more).toEqual([]);
    expect(found!.start).toBeCloseTo(2, 0);
    expect(found!.end).toBeCloseTo(4, 0);
    expect(overlapsIn(periodsOf(hiss), [{ start: 0, end: 1.5 }])).toEqual([]);
    expect(overlapsIn(periodsOf(hiss), speech, [{ start: 1, end: 5 }])).toEqual([]);
    expect(overlapsIn(periodsOf(talk.map(() => 0.1 * (random() - 0.5))), speech)).toEqual([]);
    expect(overlapsIn(new Float32Array(0), speech)).toEqual([]);
  });
  it('parts the turns, with whoever had the word last or has it next', () => {
    const turns = [turn(0, 5, 0), turn(5, 8, 1), turn(8, 20, 0)];
    expect(withOverlaps(turns, [{ start: 4.5, end: 5.5 }])).toEqual([
      turn(0, 4.5, 0),
      turn(4.5, 5, 0, 1),
      turn(5, 5.5, 1, 0),
      turn(5.5, 8, 1),
      turn(8, 20, 0),
    ]);
    // Nobody else is near.
    expect(withOverlaps(turns, [{ start: 15, end: 16 }])).toEqual(turns);
    expect(withOverlaps([turn(0, 5, 0)], [{ start: 1, end: 2 }])).toEqual([turn(0, 5, 0)]);
  });
  it('follows corrections: two that are one do not speak at once, and whoever is given words has them alone', () => {
    const turns = [turn(0, 4, 0), turn(4, 5, 0, 1), turn(5, 8, 1)];
    expect(voicesTogether(turns, { start: 3, end: 6 })).toEqual([1]);
    expect(voicesTogether(turns, { start: 4.8, end: 8 })).toEqual([]);
    expect(joinVoices(turns, 1, 0)).toEqual([turn(0, 8, 0)]);
    expect(joinVoices(turns, 1, 2)).toEqual([turn(0, 4, 0), turn(4, 5, 0, 2), turn(5, 8, 2)]);
    expect(changeVoice(turns, { start: 4, end: 5 }, 1)).toEqual([turn(0, 4, 0), turn(4, 8, 1)]);
  });
});
