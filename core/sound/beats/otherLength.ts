import type { Range } from '#core/time';
import type { BeatGrid } from './grid';
import { hearNovelty, onsetHz } from './novelty';
import { barsOf, distance, evened, type Bar } from './sections';
import { evenedOnset } from './tempo';

/** Bars before and behind a join that are compared, and what each of them counts for. */
const context = [0.5, 0.3, 0.2];
/** What a join costs beside how it sounds, and a bar that is missing or too many, in distances between usual bars. */
const joinCost = 0.6,
  offCost = 0.25;
/** The length may miss the wanted one by so many bars when that sounds better. */
const mostOff = 3;
/** Between two joins lie at least so many bars: shorter pieces sound like a fault of the record. Common practice, no source. */
const shortestBars = 4;

/** The bars of a piece of music as `otherLength` needs them; none where none are known. @param samples mono at `beatSampleRate` */
export function hearBars(samples: Float32Array, grid: BeatGrid): Bar[] {
  if (grid.starts.length < 2) return [];
  const novelty = hearNovelty(samples);
  const onset = evenedOnset(novelty.onset);
  const bars = barsOf(novelty, grid, onset, onsetHz);
  // What comes before the first bar and after the last goes along with them.
  if (bars.length > 0) {
    bars[0]!.start = 0;
    bars.at(-1)!.end = novelty.durationSeconds;
  }
  return bars;
}

/**
 * The stretches of a piece of music that, one after the other, are about so long: from its first bar to its last, with
 * joins where a bar goes on in one that sounds like what would have come, judged with the bars around both (the
 * transitions of Schödl and others 2000, "Video textures", section 3, with bars for frames). The cheapest way of the
 * wanted length is found by dynamic programming.
 * @param bars of the music, following one another; see `hearBars`
 * @param wantedSeconds shorter or longer than the music
 * @returns stretches in seconds that begin and end with bars; null when the music has too few of them to be cut
 */
export function otherLength(bars: readonly Bar[], wantedSeconds: number): Range[] | null {
  const count = bars.length;
  if (count < 2 * shortestBars) return null;
  const usual = (bars.at(-1)!.end - bars[0]!.start) / count;
  const wanted = Math.max(2, Math.round(wantedSeconds / usual));
  const cost = joinCosts(bars);
  const steps = Math.min(wanted + mostOff, 4096);
  // Best cost of having played so many bars, the last of them this one, and so many since the last join (up to enough).
  const states = count * shortestBars;
  let before = new Float64Array(states).fill(Infinity);
  before[shortestBars - 1] = 0;
  const from: Int32Array[] = [new Int32Array(states).fill(-1)];
  let best: { cost: number; step: number; state: number } | null = null;
  for (let step = 1; step < steps; step++) {
    const now = new Float64Array(states).fill(Infinity);
    const via = new Int32Array(states).fill(-1);
    for (let bar = 0; bar < count; bar++)
      for (let since = 0; since < shortestBars; since++) {
        const own = bar * shortestBars + since;
        const worth = before[own]!;
        if (worth === Infinity) continue;
        if (bar + 1 < count) {
          const next = (bar + 1) * shortestBars + Math.min(shortestBars - 1, since + 1);
          if (worth < now[next]!) {
            now[next] = worth;
            via[next] = own;
          }
        }
        if (since < shortestBars - 1) continue;
        for (let to = 0; to < count; to++) {
          const value = worth + cost[bar * count + to]!;
          const next = to * shortestBars;
          if (value < now[next]!) {
            now[next] = value;
            via[next] = own;
          }
        }
      }
    from.push(via);
    before = now;
    const off = Math.abs(step + 1 - wanted);
    if (off > mostOff) continue;
    // Nothing is joined right before the end, either.
    const end = (count - 1) * shortestBars + shortestBars - 1;
    const value = now[end]! + offCost * off;
    if (value < (best?.cost ?? Infinity)) best = { cost: value, step, state: end };
  }
  if (!best) return null;
  const played: number[] = [];
  for (let { step, state } = best; state >= 0; state = from[step--]![state]!)
    played.unshift(Math.floor(state / shortestBars));
  const stretches: Range[] = [];
  for (const [index, bar] of played.entries()) {
    const { start, end } = bars[bar]!;
    if (index > 0 && bar === played[index - 1]! + 1) stretches.at(-1)!.end = end;
    else stretches.push({ start, end });
  }
  return stretches;
}

/** What it costs to go on with bar `to` after bar `from`, at `from * count + to`; infinite for the bar that follows anyway. */
function joinCosts(bars: readonly Bar[]): Float64Array {
  const count = bars.length;
  const rows = evened(bars);
  const apart = new Float64Array(count * count);
  let sum = 0;
  for (let a = 0; a < count; a++)
    for (let b = 0; b < count; b++) sum += apart[a * count + b] = distance(rows[a]!, rows[b]!);
  const usual = sum / Math.max(1, count * (count - 1));
  const costs = new Float64Array(count * count);
  for (let from = 0; from < count; from++)
    for (let to = 0; to < count; to++) {
      if (to === from + 1 || to === 0 || from === count - 1) {
        costs[from * count + to] = Infinity;
        continue;
      }
      let value = 0,
        weights = 0;
      for (const [index, weight] of context.entries()) {
        // What would have come against what comes, and what was before that against what was heard.
        for (const [a, b] of [
          [from + 1 + index, to + index],
          [from - index, to - 1 - index],
        ] as const) {
          if (a < 0 || b < 0 || a >= count || b >= count) continue;
          value += weight * apart[a * count + b]!;
          weights += weight;
        }
      }
      costs[from * count + to] = joinCost + value / weights / Math.max(1e-9, usual);
    }
  return costs;
}
