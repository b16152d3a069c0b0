import type { Footage } from '#core/moments';
import { runsOf } from '#core/readings';
import { inks } from '../drawing/inks';

export const soundHeight = 18;

/** The sound of a stretch of footage as a waveform: speech in its own colour and taller bars, the rest muted. */
export function drawSound(
  context: CanvasRenderingContext2D,
  width: number,
  { traces, hz, runs }: Footage,
  start: number,
  seconds: number,
): void {
  const end = start + seconds;
  const speech = runsOf(runs, 'speech').filter((run) => run.start < end && run.end > start);
  const middle = soundHeight / 2;
  context.clearRect(0, 0, width, soundHeight);
  for (let x = 0; x < width; x += 2) {
    const time = start + (x / width) * seconds;
    const peak = Math.sqrt(traces.wave[Math.min(traces.wave.length - 1, Math.floor(time * hz))] ?? 0);
    const spoken = speech.some((run) => time >= run.start && time < run.end);
    context.fillStyle = spoken ? inks().speech : inks().line;
    const half = Math.max(0.5, peak * (spoken ? middle : middle * 0.8));
    context.fillRect(x, middle - half, 1.2, half * 2);
  }
}
