import { beatSampleRate } from './novelty';

/** Music with known beats, made for tests and `npm run accuracy`: drums, bass, chords that change by the bar, a melody. */
export interface TestSong {
  name: string;
  samples: Float32Array;
  beats: number[];
  downbeats: number[];
  /** First beats of parts that sound different. */
  parts: number[];
}

export type Groove = 'rock' | 'floor' | 'ballad' | 'offbeat' | 'waltz' | 'plain';
export const grooves: readonly Groove[] = ['rock', 'floor', 'ballad', 'offbeat', 'waltz', 'plain'];

/** Strokes in half beats of a bar: kick, snare, hat. Patterns of the trade, from memory. */
const strokes: Record<Groove, { beats: number; kick: number[]; snare: number[]; hat: number[] }> = {
  rock: { beats: 4, kick: [0, 4, 5], snare: [2, 6], hat: [0, 1, 2, 3, 4, 5, 6, 7] },
  floor: { beats: 4, kick: [0, 2, 4, 6], snare: [2, 6], hat: [1, 3, 5, 7] },
  ballad: { beats: 4, kick: [0, 5], snare: [4], hat: [0, 2, 4, 6] },
  offbeat: { beats: 4, kick: [0, 4], snare: [2, 6], hat: [1, 3, 5, 7] },
  waltz: { beats: 3, kick: [0], snare: [2, 4], hat: [0, 2, 4] },
  plain: { beats: 4, kick: [0, 2, 4, 6], snare: [], hat: [] },
};

function generator(seed: number) {
  let state = seed >>> 0 || 1;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

/**
 * @param bpmAt tempo at a beat
 * @param seconds at least so long; ends with a whole bar
 */
export function testSong(
  groove: Groove,
  bpmAt: (beat: number) => number,
  seconds: number,
  seed = 1,
  startSeconds = 0.4,
): TestSong {
  const random = generator(seed);
  const pattern = strokes[groove];
  const rate = beatSampleRate;
  const beats: number[] = [],
    downbeats: number[] = [],
    parts: number[] = [];
  const events: { at: number; half: number; length: number; bar: number; loud: boolean }[] = [];
  let at = startSeconds;
  for (let beat = 0; at < seconds || beat % pattern.beats !== 0; beat++) {
    const length = 60 / bpmAt(beat);
    const bar = Math.floor(beat / pattern.beats);
    beats.push(at);
    if (beat % pattern.beats === 0) {
      downbeats.push(at);
      if (bar % 8 === 0) parts.push(at);
    }
    // Eight quiet bars, eight loud ones.
    const loud = bar % 16 >= 8;
    for (let half = 0; half < 2; half++)
      events.push({ at: at + (half * length) / 2, half: (beat % pattern.beats) * 2 + half, length, bar, loud });
    at += length;
  }
  const samples = new Float32Array(Math.ceil((at + 0.5) * rate));
  const add = (start: number, length: number, wave: (t: number) => number) => {
    const from = Math.round(start * rate);
    for (let index = 0; index < length * rate && from + index < samples.length; index++)
      samples[from + index]! += wave(index / rate);
  };
  const note = (hertz: number, t: number, decay: number) =>
    Math.exp(-t * decay) *
    Math.min(1, t / 0.004) *
    (Math.sin(2 * Math.PI * hertz * t) +
      0.4 * Math.sin(4 * Math.PI * hertz * t) +
      0.2 * Math.sin(6 * Math.PI * hertz * t));
  const tone = (step: number) => 220 * 2 ** (step / 12);
  const chords = [
    [0, 4, 7],
    [9, 12, 16],
    [5, 9, 12],
    [7, 11, 14],
  ];
  for (const { at: start, half, length, bar, loud } of events) {
    const chord = chords[bar % 4]!;
    if (pattern.kick.includes(half))
      add(
        start,
        0.2,
        (t) => 0.6 * Math.exp(-t * 16) * Math.sin(2 * Math.PI * (50 * t + 3.2 * (1 - Math.exp(-t * 35)))),
      );
    if (pattern.snare.includes(half) && (loud || groove !== 'plain'))
      add(start, 0.15, (t) => 0.35 * Math.exp(-t * 22) * (random() * 2 - 1));
    if (pattern.hat.includes(half))
      add(start, 0.05, (t) => (loud ? 0.16 : 0.09) * Math.exp(-t * 70) * (random() * 2 - 1));
    if (half === 0)
      for (const step of chord)
        add(start, length * pattern.beats, (t) => (loud ? 0.07 : 0.04) * note(tone(step), t, 0.8));
    if (half % 2 === 0) add(start, length * 0.9, (t) => 0.14 * note(tone(chord[0]! - 24), t, 3));
    if (random() < 0.5) {
      const step = chord[Math.floor(random() * 3)]! + 12;
      add(start, length, (t) => 0.07 * note(tone(step), t, 4));
    }
  }
  let peak = 0;
  for (const sample of samples) peak = Math.max(peak, Math.abs(sample));
  for (let index = 0; index < samples.length; index++) samples[index]! *= 0.9 / peak;
  return { name: `${groove} ${Math.round(bpmAt(0))}`, samples, beats, downbeats, parts };
}

/** A song whose beginning has no beat: knocks 150 to 650 ms apart for 20 s (Park and Miller 1988 for chance), then rock at 112 a minute. */
export function looseBeginning(): { samples: Float32Array; beginsAt: number } {
  const beginsAt = 20;
  const song = testSong('rock', () => 112, 40, 3).samples;
  const samples = new Float32Array(song.length + beginsAt * beatSampleRate);
  samples.set(song, beginsAt * beatSampleRate);
  let state = 7;
  const chance = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  for (let at = 0.3; at < beginsAt - 0.5; at += 0.15 + 0.5 * chance())
    for (let index = 0; index < 1600; index++)
      samples[Math.round(at * beatSampleRate) + index]! += 0.6 * (chance() - 0.5) * Math.exp(-index / 300);
  return { samples, beginsAt };
}
