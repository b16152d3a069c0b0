import { seededRandom } from './random';
import { Mix, bandNoise, sampleRate } from './sound';

export interface Song {
  name: string;
  mix: Mix;
  beats: number[];
  downbeats: number[];
  sections: { start: number; name: string }[];
  drop: number | null;
}

const midi = (note: number) => 440 * 2 ** ((note - 69) / 12);

function tone(hz: number, seconds: number, partials: number[], attack: number, decay: number): Float32Array {
  const out = new Float32Array(Math.round(seconds * sampleRate));
  for (let index = 0; index < out.length; index++) {
    const t = index / sampleRate;
    const level = Math.min(1, t / attack) * Math.exp(-t * decay) * Math.min(1, (seconds - t) / 0.02);
    let sum = 0;
    for (let part = 0; part < partials.length; part++)
      sum += partials[part]! * Math.sin(2 * Math.PI * hz * (part + 1) * t);
    out[index] = sum * level;
  }
  return out;
}

function kick(): Float32Array {
  const out = new Float32Array(Math.round(0.28 * sampleRate));
  let phase = 0;
  for (let index = 0; index < out.length; index++) {
    const t = index / sampleRate;
    phase += (48 + 120 * Math.exp(-t * 34)) / sampleRate;
    out[index] = Math.sin(2 * Math.PI * phase) * Math.exp(-t * 13);
  }
  return out;
}

function hit(seed: number, seconds: number, low: number, high: number, decay: number): Float32Array {
  return bandNoise(seed, seconds, low, high).map(
    (value, index) => value * Math.exp((-index / sampleRate) * decay) * 2.5,
  );
}

interface Section {
  name: string;
  bars: number;
  bpm: number;
  bpmEnd?: number;
  drums: 0 | 1 | 2;
  lead: boolean;
}

/** Four-four song from sections; the beats are exact by construction. */
function compose(name: string, seed: number, root: number, sections: Section[], drop: string | null): Song {
  const beats: number[] = [];
  const downbeats: number[] = [];
  const starts: Song['sections'] = [];
  const plan: { beat: number; length: number; section: Section; bar: number; first: number }[] = [];
  let at = 0;
  let bar = 0;
  for (const section of sections) {
    starts.push({ start: at, name: section.name });
    const count = section.bars * 4;
    for (let beat = 0; beat < count; beat++) {
      const bpm = section.bpm + ((section.bpmEnd ?? section.bpm) - section.bpm) * (beat / count);
      beats.push(at);
      if (beat % 4 === 0) downbeats.push(at);
      plan.push({ beat: beat % 4, length: 60 / bpm, section, bar: bar + (beat >> 2), first: at });
      at += 60 / bpm;
    }
    bar += section.bars;
  }
  const mix = new Mix(at + 1.5);
  const sounds = { kick: kick(), snare: hit(seed, 0.2, 900, 6500, 20), hat: hit(seed + 1, 0.07, 5000, 15000, 60) };
  const random = seededRandom(seed + 2);
  const chords = [
    [0, 4, 7],
    [-3, 0, 4],
    [5, 9, 12],
    [7, 11, 14],
  ];
  for (const each of plan) {
    const chord = chords[each.bar % 4]!;
    const full = each.section.drums === 2;
    if (each.section.drums > 0) {
      if (full || each.beat % 2 === 0) mix.add(sounds.kick, each.first, full ? 0.62 : 0.4);
      if (each.beat % 2 === 1) mix.add(sounds.snare, each.first, full ? 0.5 : 0.24, 0.1);
      for (let half = 0; half < 2; half++)
        mix.add(sounds.hat, each.first + (half * each.length) / 2, full ? 0.3 : 0.16, -0.25);
    }
    const bass = tone(midi(root - 24 + chord[0]!), each.length * 0.9, [1, 0.5, 0.25], 0.008, 3);
    if (each.section.drums > 0) mix.add(bass, each.first, full ? 0.28 : 0.2);
    if (each.beat === 0)
      for (const [voice, note] of chord.entries())
        mix.add(
          tone(midi(root + note), each.length * 4, [1, 0.35, 0.2, 0.1], 0.03, 0.9),
          each.first,
          full ? 0.1 : 0.075,
          (voice - 1) * 0.4,
        );
    const pluck = tone(midi(root + 12 + chord[(each.beat * 2 + each.bar) % 3]!), 0.5, [1, 0.6, 0.3, 0.15], 0.004, 7);
    mix.add(pluck, each.first, each.section.drums ? 0.09 : 0.14, 0.35);
    if (each.section.lead && random() > 0.25) {
      const note = root + 24 + chord[Math.floor(random() * 3)]!;
      mix.add(
        tone(midi(note), each.length * 0.8, [1, 0.2, 0.3], 0.015, 3),
        each.first + (random() > 0.6 ? each.length / 2 : 0),
        0.1,
        -0.3,
      );
    }
  }
  mix.add(tone(midi(root - 12), 1.4, [1, 0.5, 0.3], 0.01, 2.4), at, 0.3);
  mix.add(sounds.kick, at, 0.6);
  const dropStart = starts.find((section) => section.name === drop)?.start ?? null;
  return { name, mix, beats, downbeats, sections: starts, drop: dropStart };
}

/** Steady at 112 bpm, with a break and a clear drop. */
export const paperSails = () =>
  compose(
    'paper-sails',
    41,
    60,
    [
      { name: 'opening', bars: 4, bpm: 112, drums: 0, lead: false },
      { name: 'verse', bars: 8, bpm: 112, drums: 1, lead: true },
      { name: 'break', bars: 4, bpm: 112, drums: 0, lead: false },
      { name: 'full', bars: 12, bpm: 112, drums: 2, lead: true },
      { name: 'verse again', bars: 4, bpm: 112, drums: 1, lead: true },
      { name: 'ending', bars: 2, bpm: 112, drums: 0, lead: false },
    ],
    'full',
  );

/** Starts slowly at 84 bpm, gathers speed to 126 and stays there. */
export const dryShoes = () =>
  compose(
    'dry-shoes',
    77,
    57,
    [
      { name: 'opening', bars: 4, bpm: 84, drums: 1, lead: false },
      { name: 'gathering', bars: 6, bpm: 84, bpmEnd: 126, drums: 1, lead: true },
      { name: 'running', bars: 12, bpm: 126, drums: 2, lead: true },
      { name: 'ending', bars: 2, bpm: 126, drums: 0, lead: false },
    ],
    null,
  );
