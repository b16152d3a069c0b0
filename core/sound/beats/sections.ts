import { clamp } from '#core/signal';
import { downbeats, type BeatGrid } from './grid';
import { fullness, timbreBands, toneHz, type Novelty } from './novelty';

type SectionName = 'opening' | 'verse' | 'chorus' | 'break' | 'ending';
/** A part of the music that sounds alike; from a bar's beginning to a bar's beginning. */
export interface Section {
  start: number;
  end: number;
  name: SectionName;
  /** Parts with the same letter sound alike. */
  letter: string;
  /** 0 for the calmest part of the music, 1 for the fullest. */
  energy: number;
}

/** Bars on each side that are compared where a part may begin (Foote 2000). */
const kernelBars = 4;
/** A part is measured by when it lasts so long, in seconds. */
const lastingSeconds = 4;

/** A bar of the music, and how it sounds. */
export interface Bar {
  start: number;
  end: number;
  features: Float64Array;
  full: number;
}

/** All bars of the music, from its beginning to its end: means of timbre, pitch classes, level and onsets over each bar. */
export function barsOf(novelty: Novelty, grid: BeatGrid, onset: Float32Array, onsetHz: number): Bar[] {
  const starts = downbeats(grid);
  const edges = [...(starts[0] !== undefined && starts[0] > 0.5 ? [0] : []), ...starts];
  const step = starts.length > 1 ? (starts.at(-1)! - starts[0]!) / (starts.length - 1) : 2;
  if (novelty.durationSeconds - (edges.at(-1) ?? 0) > step * 0.5) edges.push(novelty.durationSeconds);
  return edges.slice(0, -1).map((start, index) => {
    const end = edges[index + 1]!;
    const from = Math.min(novelty.level.length - 1, Math.floor(start * toneHz)),
      to = Math.max(from + 1, Math.min(novelty.level.length, Math.floor(end * toneHz)));
    const features = new Float64Array(timbreBands + 12 + 2);
    let square = 0,
      full = 0,
      tones = 1e-9;
    for (let frame = from; frame < to; frame++) {
      square += novelty.level[frame]! ** 2 / (to - from);
      full += fullness(novelty.timbre, frame) / (to - from);
      for (let band = 0; band < timbreBands; band++)
        features[band]! += novelty.timbre[frame * timbreBands + band]! / (to - from);
      for (let tone = 0; tone < 12; tone++) tones += novelty.chroma[frame * 12 + tone]!;
    }
    for (let frame = from; frame < to; frame++)
      for (let tone = 0; tone < 12; tone++) features[timbreBands + tone]! += novelty.chroma[frame * 12 + tone]! / tones;
    let strokes = 0;
    const [first, last] = [Math.floor(start * onsetHz), Math.min(onset.length, Math.floor(end * onsetHz))];
    for (let at = first; at < last; at++) strokes += onset[at]! / Math.max(1, last - first);
    features[timbreBands + 12] = 10 * Math.log10(square + 1e-9);
    features[timbreBands + 13] = strokes;
    return { start, end, features, full };
  });
}

/** Every feature with mean 0; timbre, tones, level and strokes each count alike, whatever their units. */
export function evened(bars: readonly Bar[]): Float64Array[] {
  const width = bars[0]!.features.length;
  const groups = [
    [0, timbreBands, 1],
    [timbreBands, timbreBands + 12, 0.35],
    [timbreBands + 12, timbreBands + 13, 1],
    [timbreBands + 13, width, 1],
  ] as const;
  const out = bars.map(() => new Float64Array(width));
  for (const [from, to, weight] of groups) {
    let spread = 0;
    for (let at = from; at < to; at++) {
      const mean = bars.reduce((sum, bar) => sum + bar.features[at]!, 0) / bars.length;
      bars.forEach((bar, index) => {
        out[index]![at] = bar.features[at]! - mean;
        spread += (bar.features[at]! - mean) ** 2 / bars.length;
      });
    }
    const scale = weight / Math.sqrt(spread + 1e-9);
    for (const row of out) for (let at = from; at < to; at++) row[at]! *= scale;
  }
  return out;
}

export const distance = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let at = 0; at < a.length; at++) sum += (a[at]! - b[at]!) ** 2;
  return Math.sqrt(sum);
};

/**
 * Parts of the music: edges where a checkerboard along the diagonal of the bars' self-similarity stands out (Foote 2000,
 * "Automatic audio segmentation using a measure of audio novelty"), parts that sound alike by mean distance, names from
 * place and energy. The names are a proposal: which part people call the chorus cannot be heard for sure.
 */
export function findSections(novelty: Novelty, grid: BeatGrid, onset: Float32Array, onsetHz: number): Section[] {
  const bars = grid.beats.length < grid.bar * 2 ? [] : barsOf(novelty, grid, onset, onsetHz);
  if (bars.length < 2)
    return novelty.durationSeconds > 0
      ? [{ start: 0, end: novelty.durationSeconds, name: 'verse', letter: 'A', energy: 1 }]
      : [];
  const rows = evened(bars);
  const similar = rows.map((a) => Float64Array.from(rows, (b) => Math.exp(-(distance(a, b) ** 2) / 4)));
  const change = new Float64Array(bars.length);
  for (let at = 1; at < bars.length; at++) {
    const reach = Math.min(kernelBars, at, bars.length - at);
    let within = 0,
      across = 0;
    for (let i = 0; i < reach; i++)
      for (let j = 0; j < reach; j++) {
        within += similar[at - 1 - i]![at - 1 - j]! + similar[at + i]![at + j]!;
        across += 2 * similar[at - 1 - i]![at + j]!;
      }
    // Near the ends there is less to compare, and less to be sure of.
    change[at] = ((within - across) / (2 * reach * reach)) * Math.sqrt(reach / kernelBars);
  }
  const edges = [0];
  for (let at = 1; at < bars.length; at++) {
    let peak = change[at]! > 0.22;
    for (let near = Math.max(1, at - 2); near <= Math.min(bars.length - 1, at + 2); near++)
      if (change[near]! > change[at]! || (change[near] === change[at] && near < at)) peak = false;
    if (peak && at - edges.at(-1)! >= 2) edges.push(at);
  }
  const parts = edges.map((from, index) => {
    const to = edges[index + 1] ?? bars.length;
    const mean = new Float64Array(rows[0]!.length);
    let level = 0;
    for (let bar = from; bar < to; bar++) {
      level += bars[bar]!.full / (to - from);
      for (let at = 0; at < mean.length; at++) mean[at]! += rows[bar]![at]! / (to - from);
    }
    return { start: bars[from]!.start, end: bars[to - 1]!.end, mean, level, letter: '' };
  });
  let letters = 0;
  for (const [index, part] of parts.entries()) {
    const like = parts
      .slice(0, index)
      .map((other) => ({ letter: other.letter, far: distance(other.mean, part.mean) }))
      .sort((a, b) => a.far - b.far)[0];
    part.letter = like && like.far < 0.8 ? like.letter : String.fromCharCode(65 + Math.min(25, letters++));
  }
  // A short tail that dies away is no measure for the rest.
  const lasting = parts.filter((part) => part.end - part.start >= lastingSeconds);
  const levels = (lasting.length ? lasting : parts).map((part) => part.level);
  const [quiet, full] = [Math.min(...levels), Math.max(...levels)];
  const named = parts.map((part) => ({
    ...part,
    energy: full - quiet < 1 ? 1 : clamp((part.level - quiet) / (full - quiet)),
  }));
  // The fullest of the parts is what people call the chorus, wherever it comes again.
  const fullest = [...named].sort(
    (a, b) =>
      Number(b.end - b.start >= lastingSeconds) - Number(a.end - a.start >= lastingSeconds) || b.energy - a.energy,
  )[0]!.letter;
  return named.map(({ start, letter, energy }, index) => {
    const [before, after] = [named[index - 1], named[index + 1]];
    const name: SectionName =
      index === 0 && energy < 0.6 && after
        ? 'opening'
        : !after && before && energy < 0.6
          ? 'ending'
          : letter === fullest
            ? 'chorus'
            : before && after && energy < before.energy - 0.15 && energy < after.energy - 0.15
              ? 'break'
              : 'verse';
    return { start: index === 0 ? 0 : start, end: after ? after.start : novelty.durationSeconds, letter, energy, name };
  });
}

/** Where the music breaks out: parts that begin much fuller than what comes before, the greatest rise first; by mean level, at least 3 dB. */
export function findDrops(novelty: Novelty, sections: readonly Section[]): number[] {
  const level = (from: number, to: number) => {
    let sum = 0,
      count = 0;
    for (
      let frame = Math.max(0, Math.round(from * toneHz));
      frame < Math.min(novelty.level.length, Math.round(to * toneHz));
      frame++
    ) {
      sum += novelty.level[frame]! ** 2;
      count++;
    }
    return count === 0 ? -90 : 10 * Math.log10(sum / count + 1e-9);
  };
  return sections
    .slice(1)
    .map((section, index) => {
      const before = sections[index]!;
      const after = level(section.start, Math.min(section.end, section.start + 8));
      return {
        at: section.start,
        rise: after - level(Math.max(before.start, section.start - 8), section.start),
        after,
      };
    })
    .filter(({ rise }) => rise >= 3)
    .sort((a, b) => b.rise + b.after - a.rise - a.after)
    .map(({ at }) => at);
}
