import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import { Cepstra, cepstraSize } from './cepstra';
import { twoVoices, VoiceSum } from './gaussian';
import { speakersOf } from './speakers';
import { turnsOf } from './turns';
import { changeVoice, joinVoices, namesOfVoices, voiceAt, voiceNow, voicesIn } from './voices';

const turn = (start: number, end: number, voice: number) => ({ start, end, voice });
/** Rows of normal numbers around a place (Box & Muller 1958). */
function frames(count: number, mean: number, seed: number): Float32Array {
  const random = seededRandom(seed);
  const normal = () => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
  return Float32Array.from({ length: count * cepstraSize }, () => mean + normal());
}
const joined = (...parts: Float32Array[]): Float32Array => Float32Array.from(parts.flatMap((part) => [...part]));

describe('cepstra', () => {
  const tone = (samples: number) => Float32Array.from({ length: samples }, (_, at) => Math.sin(at * 0.2) * 0.3);
  it('come in pieces or at once, and are the same', () => {
    const whole = new Cepstra(),
      parts = new Cepstra();
    const sound = tone(16_000);
    whole.push(sound);
    for (let at = 0; at < sound.length; at += 777) parts.push(sound.subarray(at, at + 777));
    expect([...parts.frames()]).toEqual([...whole.frames()]);
    // Frames of 512 samples, 160 apart.
    expect(whole.frames().length / cepstraSize).toBe(Math.floor((16_000 - 512) / 160) + 1);
  });
  it('do not mind how loud it is', () => {
    const loud = new Cepstra(),
      quiet = new Cepstra();
    const random = seededRandom(5);
    const noise = Float32Array.from({ length: 4000 }, () => random() - 0.5);
    loud.push(noise);
    quiet.push(noise.map((sample) => sample / 8));
    // The cosine transform of a constant is nothing but its number 0, which is left out.
    const [a, b] = [loud.frames(), quiet.frames()];
    for (let at = 0; at < a.length; at++) expect(b[at]).toBeCloseTo(a[at]!, 2);
  });
});

describe('the Bayesian information criterion', () => {
  it('is what its definition says', () => {
    // Two numbers, by hand: ΔBIC = N/2 log|Σ| − N₁/2 log|Σ₁| − N₂/2 log|Σ₂| − λ/2 (d + d(d+1)/2) log N (Chen & Gopalakrishnan 1998).
    const sum = (values: number[][]) => new VoiceSum(2).add(Float32Array.from(values.flat()), 0, values.length);
    const a = sum([
        [0, 0],
        [2, 0],
        [0, 2],
        [2, 2],
      ]),
      b = sum([
        [10, 0],
        [12, 0],
        [10, 2],
        [12, 2],
      ]);
    // Each has variances of 1 and no covariance; together the first has 1 + 25.
    const small = 1e-4;
    const expected = (8 / 2) * (Math.log(26 + small) + Math.log(1 + small)) - 8 * Math.log(1 + small);
    expect(twoVoices(a, b, 0)).toBeCloseTo(expected, 6);
    expect(twoVoices(a, b, 2)).toBeCloseTo(expected - 5 * Math.log(8), 6);
    expect(a.plus(b).take(b, -1).spread()).toBeCloseTo(a.spread(), 9);
  });
});

describe('turns', () => {
  it('two distributions that take turns are two voices, in the order in which they are heard', () => {
    const all = joined(frames(400, 0, 1), frames(300, 3, 2), frames(500, 0, 3), frames(300, 3, 4));
    const speech = [
      { start: 0, end: 4 },
      { start: 4.1, end: 7 },
      { start: 7, end: 15 },
    ];
    const turns = turnsOf(all, speech);
    expect(turns.map(({ voice }) => voice)).toEqual([0, 1, 0, 1]);
    // Inside a run without a pause the change is found as well.
    expect(turns.at(-1)!.start).toBeCloseTo(12, 0);
    expect(voicesIn(turns)).toMatchObject([{ voice: 0 }, { voice: 1 }]);
  });
  it('nothing is said, nobody speaks', () => {
    expect(turnsOf(new Float32Array(0), [{ start: 0, end: 1 }])).toEqual([]);
    expect(turnsOf(frames(100, 0, 1), [])).toEqual([]);
  });
});

describe('corrections', () => {
  const turns = [turn(0, 2, 0), turn(2, 5, 1), turn(6, 9, 0)];
  it('whoever speaks most of a stretch has it', () => {
    expect(voiceAt(turns, { start: 1, end: 4 })).toBe(1);
    expect(voiceAt(turns, { start: 5.2, end: 5.8 })).toBeNull();
    expect(voiceAt(turns, { start: 8, end: 20 })).toBe(0);
  });
  it('two voices become one, and turns that touch one turn', () =>
    expect(joinVoices(turns, 1, 0)).toEqual([turn(0, 5, 0), turn(6, 9, 0)]));
  it('a stretch changes hands, to a voice that is there or to a new one', () => {
    expect(changeVoice(turns, { start: 3, end: 7 }, 0)).toEqual([
      turn(0, 2, 0),
      turn(2, 3, 1),
      turn(3, 5, 0),
      turn(6, 9, 0),
    ]);
    expect(changeVoice(turns, { start: 6, end: 7 }, null)).toEqual([
      turn(0, 2, 0),
      turn(2, 5, 1),
      turn(6, 7, 2),
      turn(7, 9, 0),
    ]);
  });
  it('a voice has the name of the face that speaks while it is heard; no name is given twice', () => {
    const named = [
      { start: 0, end: 2, name: 'Ada' },
      { start: 2, end: 4.5, name: 'Bo' },
      { start: 4.5, end: 5, name: 'Ada' },
    ];
    expect(namesOfVoices(turns, named)).toEqual(
      new Map([
        [1, 'Bo'],
        [0, 'Ada'],
      ]),
    );
    expect(namesOfVoices(turns, [{ start: 0, end: 5, name: 'Ada' }])).toEqual(new Map([[1, 'Ada']]));
    expect(namesOfVoices(turns, [{ start: 2, end: 3, name: 'Bo' }])).toEqual(new Map());
  });
});

describe('speakers of several files', () => {
  it('are numbered as they come; a name in two files is one person, voices without one are not', () => {
    const { names, turnsOf } = speakersOf([
      { media: 'a', turns: [turn(0, 5, 1), turn(5, 9, 0)], names: { 1: 'The host' } },
      { media: 'b', turns: [turn(0, 5, 0), turn(5, 9, 1), turn(9, 12, 2)], names: { 1: 'The host' } },
    ]);
    expect(names).toEqual([null, 'The host', null, null]);
    expect([0, 6].map((seconds) => voiceNow(turnsOf('a'), seconds))).toEqual([1, 0]);
    expect([0, 6, 10].map((seconds) => voiceNow(turnsOf('b'), seconds))).toEqual([2, 1, 3]);
    expect(turnsOf('b').map(({ voice }) => voice)).toEqual([2, 1, 3]);
  });
  it('stay as they are when another file comes', () => {
    const files = [
      { media: 'a', turns: [turn(0, 5, 0)], names: {} as Record<string, string> },
      { media: 'b', turns: [turn(0, 5, 0)], names: { 0: 'The caller' } as Record<string, string> },
    ];
    const more = speakersOf([...files, { media: 'c', turns: [turn(0, 5, 0)], names: { 0: 'The caller' } }]);
    expect(more.names).toEqual(speakersOf(files).names);
    expect(voiceNow(more.turnsOf('c'), 1)).toBe(1);
  });
  it('are nobody where nobody speaks, and in a file that is not known', () => {
    const { turnsOf } = speakersOf([{ media: 'a', turns: [turn(0, 5, 0)], names: {} }]);
    expect(voiceNow(turnsOf('a'), 7)).toBeNull();
    expect(voiceNow(turnsOf('x'), 1)).toBeNull();
  });
});
