import { near, type Stroke } from './strokes';
import { onsetHz } from './novelty';

/** Pulses that lie evenly on a line: the first at or after time 0, and their distance, in samples of the onset strength. */
interface Line {
  phase: number;
  period: number;
}

/** Lines are looked for in windows of so many seconds, every so many. */
const windowSeconds = 16,
  hopSeconds = 4;
/** How far a line's tempo may lie from the one that was tracked in its window. */
const reach = 0.05;
/** What it costs to leave a line for another, in strokes that surely lie on it. */
const leaveCost = 25;
/** A piece of a song lasts so long at least on average; music that changes lines more often is played freely. */
const secondsPerPiece = 30;

/**
 * Fits music that was made to a click: one tempo and phase for the whole of it, or a few pieces each with its own.
 * Lines are found in windows by the phase of the strokes at the pulse's period (a Fourier tempogram; Grosche & Müller
 * 2011), the course over the windows' lines by dynamic programming, and each piece's line then by all of its strokes.
 * @param strokes peaks of the evened onset strength, ascending
 * @param periodAt distance of two pulses near a sample, as it was tracked freely
 * @param length of the music, in samples
 * @returns pulses in samples, ascending; null when the music keeps to no line for long
 */
export function rigidPulses(
  strokes: readonly Stroke[],
  periodAt: (sample: number) => number,
  length: number,
): { pulses: number[]; share: number } | null {
  const windows = windowsOf(strokes, periodAt, length);
  const lines = linesOf(windows, strokes, length);
  if (lines.length === 0) return null;
  const course = courseOver(lines, strokes, length);
  const pieces: { from: number; to: number; line: Line }[] = [];
  for (const [second, line] of course.entries()) {
    const last = pieces.at(-1);
    if (last && last.line === lines[line]) last.to = (second + 1) * onsetHz;
    else pieces.push({ from: second * onsetHz, to: (second + 1) * onsetHz, line: lines[line]! });
  }
  if (pieces.length > 1 + length / onsetHz / secondsPerPiece) return null;
  pieces.at(-1)!.to = Math.max(pieces.at(-1)!.to, length);
  const pulses: number[] = [];
  for (const { from, to, line } of pieces) {
    const own = strokes.filter(({ at }) => at >= from && at < to);
    const { phase, period } = finestLine(own, line, from, to);
    for (let at = phase + Math.ceil((from - phase) / period) * period; at < to; at += period) {
      // Where one line gives way to the next no pulse comes twice.
      if (pulses.length && at - pulses.at(-1)! < 0.6 * period) continue;
      pulses.push(at);
    }
  }
  const kept = course.map((line) => lines[line]!);
  return { pulses, share: keptShare(windows, kept) };
}

/** A stretch of the music with the line that its own strokes lie on. */
interface Window {
  /** In samples. */
  middle: number;
  local: Line;
  /** How many of its strokes lie on a line, by their weights. */
  worth: (line: Line) => number;
}

function windowsOf(strokes: readonly Stroke[], periodAt: (sample: number) => number, length: number): Window[] {
  const windows: Window[] = [];
  const size = windowSeconds * onsetHz;
  for (let from = 0; from === 0 || from + size / 2 < length; from += hopSeconds * onsetHz) {
    const own = strokes.filter(({ at }) => at >= from && at < from + size);
    if (own.length < 8) continue;
    const middle = from + size / 2;
    const strongest = strongestLine(own, periodAt(Math.min(length - 1, middle)), reach, size);
    windows.push({
      middle,
      local: finestLine(own, strongest, from, from + size),
      worth: (line) => own.reduce((sum, { at, weight }) => sum + weight * closeness(line, at), 0),
    });
  }
  return windows;
}

/** A line explains a window as well as the window's own from this share of it on. */
const asWell = 0.85;

/** Share of windows in which no line of their own lies on many more strokes than the one that the music keeps to. */
function keptShare(windows: readonly Window[], course: readonly Line[]): number {
  const kept = windows.filter(({ middle, local, worth }) => {
    const line = course[Math.min(course.length - 1, Math.floor(middle / onsetHz))]!;
    return worth(line) >= asWell * worth(local);
  });
  return windows.length === 0 ? 0 : kept.length / windows.length;
}

/** The lines that strokes lie on, found in windows of the music and followed from there as far as they go. */
function linesOf(windows: readonly Window[], strokes: readonly Stroke[], length: number): Line[] {
  const lines: Line[] = [];
  for (const { middle, local, worth } of windows) {
    // Most windows lie on a line that is known.
    if (worth(local) <= 0 || lines.some((known) => worth(known) > asWell * worth(local))) continue;
    lines.push(local);
    let grown = local;
    for (let size = windowSeconds * onsetHz * 2; size < length * 2; size *= 2) {
      const [start, end] = [Math.max(0, middle - size / 2), Math.min(length, middle + size / 2)];
      const within = strokes.filter(({ at }) => at >= start && at < end);
      grown = finestLine(within, grown, start, end);
      lines.push(grown);
    }
  }
  return lines;
}

/** How far a time lies from the nearest pulse of a line; negative before it. */
const offLine = ({ phase, period }: Line, at: number): number => {
  const place = (at - phase) / period;
  return (place - Math.round(place)) * period;
};

/** The line whose period and phase most strokes agree on. */
function strongestLine(strokes: readonly Stroke[], period: number, within: number, length: number): Line {
  // The last pulse of the window moves by four samples from one to the next.
  const step = (4 * period) / length;
  let best = { strength: -1, phase: 0, period };
  for (let tried = period * (1 - within); tried <= period * (1 + within); tried += step) {
    const { strength, phase } = agreement(strokes, tried);
    if (strength > best.strength) best = { strength, phase, period: tried };
  }
  return best;
}

/** How much strokes agree on a phase at a period, and which: the Fourier coefficient at its rate. */
function agreement(strokes: readonly Stroke[], period: number): { strength: number; phase: number } {
  let [x, y] = [0, 0];
  for (const { at, weight } of strokes) {
    const angle = (2 * Math.PI * at) / period;
    x += weight * Math.cos(angle);
    y += weight * Math.sin(angle);
  }
  const phase = (Math.atan2(y, x) / (2 * Math.PI)) * period;
  return { strength: Math.hypot(x, y), phase };
}

/** Which line the music keeps to, second by second: many strokes on it, few changes (Viterbi). */
function courseOver(lines: readonly Line[], strokes: readonly Stroke[], length: number): number[] {
  const seconds = Math.max(1, Math.ceil(length / onsetHz));
  const gains = lines.map(() => new Float64Array(seconds));
  for (const { at, weight } of strokes)
    for (const [index, line] of lines.entries())
      gains[index]![Math.min(seconds - 1, Math.floor(at / onsetHz))]! += weight * closeness(line, at);
  let scores = gains.map((gain) => gain[0]!);
  const from: number[][] = [];
  for (let second = 1; second < seconds; second++) {
    const best = scores.indexOf(Math.max(...scores));
    const back = scores.map((score, line) => (scores[best]! - leaveCost > score ? best : line));
    scores = back.map((via, line) => scores[via]! - (via === line ? 0 : leaveCost) + gains[line]![second]!);
    from.push(back);
  }
  let at = scores.indexOf(Math.max(...scores));
  const course = [at];
  for (let second = from.length - 1; second >= 0; second--) course.unshift((at = from[second]![at]!));
  return course;
}

/** 1 on a pulse, 0 at `near` and −1/4 in between: what lies anywhere gives nothing. */
const closeness = (line: Line, at: number): number => {
  const off = Math.abs(offLine(line, at));
  return off >= 2 * near ? -0.25 : Math.max(-0.25, 1 - off / near);
};

/** A line fitted to all strokes of its stretch: periods and phases around it, by how many strokes lie on it. */
function finestLine(strokes: readonly Stroke[], line: Line, from: number, to: number): Line {
  const middle = (from + to) / 2;
  const pulses = Math.max(4, (to - from) / line.period);
  // Turned about a pulse in the middle, so that period and phase do not depend on one another.
  let best = { period: line.period, phase: middle - offLine(line, middle), worth: -Infinity };
  // What is known of the period comes from half the stretch; wanted is less than a sample at its ends.
  for (let width = (8 * near) / pulses, step = width / 8; ; width = step * 1.5, step = width / 6) {
    const { period: centre, phase } = best;
    for (let period = centre - width; period <= centre + width; period += step)
      for (let shift = -near; shift <= near; shift++) {
        const tried = { period, phase: phase + shift };
        let worth = 0;
        for (const { at, weight } of strokes) worth += weight * Math.max(0, 1 - (offLine(tried, at) / near) ** 2);
        if (worth > best.worth) best = { ...tried, worth };
      }
    if (step * pulses <= 1) break;
  }
  return { period: best.period, phase: best.phase };
}
