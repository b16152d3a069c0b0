import { beatBefore, beginsBar, waveHz, type BeatGrid, type Doubt, type MusicHearing } from '#core/sound';
import { inks } from '../drawing/inks';

export const waveHeight = 58,
  tickHeight = 16;

export interface MusicLine {
  from: number;
  to: number;
  grid: BeatGrid;
  hearing: Pick<MusicHearing, 'wave' | 'drops'>;
  /** Where the beats may be wrong; their ticks are dim and dotted there. */
  doubts: readonly Doubt[];
  /** The chosen stretch; what lies outside is dim. */
  span: { start: number; end: number };
}

/** The waveform of a line of the music, and its beats below: bars taller, drops as a dot. */
export function drawMusicLine(
  context: CanvasRenderingContext2D,
  width: number,
  { from, to, grid, hearing, doubts, span }: MusicLine,
): void {
  context.clearRect(0, 0, width, waveHeight + tickHeight);
  const x = (seconds: number) => ((seconds - from) / (to - from)) * width;
  const middle = waveHeight / 2;
  for (let column = 0; column < width; column += 2) {
    const a = from + (column / width) * (to - from),
      b = from + ((column + 2) / width) * (to - from);
    let peak = 0;
    for (let at = Math.floor(a * waveHz); at <= Math.floor(b * waveHz); at++)
      peak = Math.max(peak, hearing.wave[at] ?? 0);
    const half = Math.max(0.5, (peak / 100) * (middle - 2));
    context.fillStyle = a < span.start || a > span.end ? inks().waveOutside : inks().wave;
    context.fillRect(column, middle - half, 1.5, half * 2);
  }
  for (
    let index = Math.max(0, beatBefore(grid, from));
    index < grid.beats.length && grid.beats[index]! <= to;
    index++
  ) {
    const beat = grid.beats[index]!;
    if (beat < from) continue;
    const bar = beginsBar(grid, index);
    if (doubts.some(({ start, end }) => beat >= start && beat < end)) {
      context.fillStyle = inks().shake;
      for (let y = waveHeight + (bar ? 2 : 6); y < waveHeight + (bar ? 14 : 12); y += 3)
        context.fillRect(Math.round(x(beat)), y, 1, 1.5);
      continue;
    }
    context.fillStyle =
      beat < span.start - 0.01 || beat > span.end + 0.01 ? inks().line : bar ? inks().text : inks().muted;
    context.fillRect(Math.round(x(beat)) - (bar ? 1 : 0), waveHeight + (bar ? 2 : 6), bar ? 2 : 1, bar ? 12 : 6);
  }
}
