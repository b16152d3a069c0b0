import { clamp } from '#core/signal';
import { findDoubts, type Doubt } from './doubts';
import { downbeats, emptyGrid, tempoOf, type BeatGrid } from './grid';
import { barContrast, findMeter } from './meter';
import { beatSampleRate, fullness, hearNovelty, onsetHz, toneHz, type Novelty } from './novelty';
import { findRivals, type Rival } from './rivals';
import { onsetPeaks, strokesOf } from './strokes';
import type { WeighedStroke } from './taps';
import { findDrops, findSections, type Section } from './sections';
import { evenedOnset } from './tempo';
import { onsetNear, smoothedBeats } from './track';

/** Raised when what is heard changes its meaning; then music is heard again. */
export const hearingVersion = 4;

/** Everything that the product knows about a piece of music. */
export interface MusicHearing {
  durationSeconds: number;
  /** Beats a minute. */
  tempo: number;
  /** How sure the beats are, 0 to 1: share of the half beats that hear something, against the next best count. */
  confidence: number;
  grid: BeatGrid;
  /** Where the grid may be wrong. */
  doubts: Doubt[];
  /** Other ways to count it, best first. */
  rivals: { tempo: number; share: number; grid: BeatGrid }[];
  sections: Section[];
  /** Where the music breaks out, strongest first. */
  drops: number[];
  /** The last clear stroke, in seconds; null when there is none. */
  lastHit: number | null;
  /** Loudest strokes, seconds and strength 0 to 1; where a cut or an action falls well. */
  hits: { seconds: number; strength: number }[];
  /** Every stroke, also the soft ones, against the loudness around it: what beats are counted by. */
  strokes: WeighedStroke[];
  /** How full the sound is, 0 to 1, ten a second, smoothed over a second. */
  energy: number[];
  /** Peaks of the waveform for drawing, 0 to 100, `waveHz` a second. */
  wave: number[];
}

/** Peaks of the waveform a second. */
export const waveHz = 40;

/**
 * Beats, bars, sections, drops and energy of a piece of music.
 * @param samples mono at 16 kHz (`beatSampleRate`), −1 to 1; silence and sounds without a pulse give a grid without beats
 */
export function hearMusic(samples: Float32Array): MusicHearing {
  const novelty = hearNovelty(samples);
  const onset = evenedOnset(novelty.onset),
    low = evenedOnset(novelty.low);
  const peaks = onsetPeaks(onset);
  const energy = energyOf(novelty),
    wave = waveOf(samples);
  const nothing: MusicHearing = {
    durationSeconds: novelty.durationSeconds,
    tempo: 0,
    confidence: 0,
    grid: emptyGrid,
    doubts: [],
    rivals: [],
    sections: [],
    drops: [],
    lastHit: null,
    hits: [],
    strokes: strokesOf(peaks, onset).map(({ at, weight }) => ({
      seconds: rounded(at / onsetHz),
      weight: Math.round(weight * 100) / 100,
    })),
    energy,
    wave,
  };
  if (peaks.length < 8) return nothing;
  const counted = findRivals(onset, evenedOnset(added(novelty.low, novelty.middle)));
  if (!counted[0] || counted[0].score < 0.05) return nothing;
  const gridOf = ({ pulses }: Rival): BeatGrid => {
    const meter = findMeter(novelty, pulses, low, onset);
    const even = smoothedBeats(
      pulses.map((at) => at / onsetHz),
      pulses.map((at) => Math.min(3, onsetNear(onset, at, 4))),
      12,
    );
    const { beats, before } = ended(
      meter.beats.map((index) => even[index]!),
      novelty.durationSeconds,
      onset,
    );
    // Beats in front, put there by counting back from the first that is heard, move the bars along.
    const starts = meter.starts
      .map((index) => meter.beats.indexOf(index) + before)
      .filter((index) => index >= 0 && index < beats.length);
    for (let at = (starts[0] ?? 0) - meter.bar; starts.length > 0 && at >= 0; at -= meter.bar) starts.unshift(at);
    for (let at = (starts.at(-1) ?? 0) + meter.bar; starts.length > 0 && at < beats.length; at += meter.bar)
      starts.push(at);
    return { beats, bar: meter.bar, starts };
  };
  const found = byBars(counted, (rival) => barContrast(novelty, downbeats(gridOf(rival)), low));
  const best = found[0]!;
  const grid = gridOf(best);
  const sections = findSections(novelty, grid, onset, onsetHz);
  const loudest = peaks.reduce((most, at) => Math.max(most, novelty.onset[at]!), 1e-9);
  const hits = peaks
    .map((at) => ({ seconds: at / onsetHz, strength: novelty.onset[at]! / loudest }))
    .filter(({ strength }) => strength > 0.25);
  const doubts = findDoubts(found, onset);
  const likely = found.slice(1).filter((rival) => rival.score > best.score * likelyShare);
  const offered = [...new Set([...likely.slice(0, mostLikely), ...doubts.flatMap((doubt) => doubt.rivals)])];
  return {
    ...nothing,
    tempo: tempoOf(grid),
    confidence: Math.max(0, Math.min(1, best.explains * (1.5 - (found[1]?.score ?? 0) / best.score))),
    grid,
    doubts: doubts.map((doubt) => ({ ...doubt, rivals: doubt.rivals.map((rival) => offered.indexOf(rival)) })),
    rivals: offered.map((rival) => ({ tempo: rival.bpm, share: rival.score / best.score, grid: gridOf(rival) })),
    sections,
    drops: findDrops(novelty, sections),
    lastHit: lastHit(hits),
    hits: hits.map(({ seconds, strength }) => ({ seconds, strength: Math.round(strength * 1000) / 1000 })),
  };
}

/** Other counts of the whole that are offered: so many, each worth at least this share of the best. */
const mostLikely = 4,
  likelyShare = 0.35;
const rounded = (seconds: number): number => Math.round(seconds * 1000) / 1000;

/** So much more must begin with the bars of a count than in their middles before it counts, and counts in full. */
const clearBars = { from: 0.8, to: 1.2, worth: 0.4 };

/** Of counts that are the double or the half of the best, those whose bars are clear are worth more. */
function byBars(found: readonly Rival[], contrast: (rival: Rival) => number): Rival[] {
  const best = found[0]!;
  const isLevel = ({ bpm, score }: Rival) => {
    const octaves = Math.log2(bpm / best.bpm);
    return Math.abs(octaves) < 1.1 && Math.abs(octaves - Math.round(octaves)) < 0.06 && score > best.score / 2;
  };
  return found
    .map((rival) => {
      if (!isLevel(rival)) return rival;
      const clear = clamp((contrast(rival) - clearBars.from) / (clearBars.to - clearBars.from));
      return { ...rival, score: rival.score * (1 + clearBars.worth * clear) };
    })
    .sort((a, b) => b.score - a.score);
}

const added = (a: Float32Array, b: Float32Array): Float32Array => a.map((value, index) => value + b[index]!);

/** Beats to the first and the last sound, counted on from those that were heard; none where nothing sounds. */
function ended(beats: number[], duration: number, onset: Float32Array): { beats: number[]; before: number } {
  const out = beats.map((beat) => Math.min(duration, Math.max(0, beat)));
  let first = 0,
    last = onset.length - 1;
  while (first < onset.length && onset[first]! < 0.3) first++;
  while (last > first && onset[last]! < 0.3) last--;
  let before = 0;
  if (out.length > 1) {
    const head = out[1]! - out[0]!;
    while (out[0]! - head >= first / onsetHz - 0.05 && out[0]! - head >= 0) {
      out.unshift(out[0]! - head);
      before++;
    }
    const tail = out.at(-1)! - out.at(-2)!;
    while (out.at(-1)! + tail <= last / onsetHz + 0.05) out.push(out.at(-1)! + tail);
    // Beats that were tracked into silence go.
    while (out.length > 2 && out[0]! < first / onsetHz - 0.1) {
      out.shift();
      before--;
    }
    while (out.length > 2 && out.at(-1)! > last / onsetHz + 0.1) out.pop();
  }
  return { beats: out, before };
}

const lastHit = (hits: MusicHearing['hits']): number | null =>
  hits.findLast(({ strength }) => strength > 0.35)?.seconds ?? null;

function energyOf({ timbre, level }: Novelty): number[] {
  const full = Array.from(level, (_, frame) => fullness(timbre, frame));
  const smooth = full.map((_, index) => {
    const around = full.slice(Math.max(0, index - toneHz / 2), index + toneHz / 2 + 1);
    return around.reduce((sum, value) => sum + value, 0) / around.length;
  });
  const top = smooth.reduce((most, value) => Math.max(most, value), 1e-3);
  return smooth.map((value) => Math.round((value / top) * 1000) / 1000);
}

function waveOf(samples: Float32Array): number[] {
  const step = beatSampleRate / waveHz;
  let loudest = 1e-6;
  const peaks = Array.from({ length: Math.ceil(samples.length / step) }, (_, index) => {
    let peak = 0;
    for (let at = index * step; at < Math.min(samples.length, (index + 1) * step); at++)
      peak = Math.max(peak, Math.abs(samples[at]!));
    loudest = Math.max(loudest, peak);
    return peak;
  });
  return peaks.map((peak) => Math.round((100 * peak) / loudest));
}

export { beatSampleRate };
