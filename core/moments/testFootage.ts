import { displayTraceNames, type DisplayTraces, type Run } from '#core/readings';
import type { Footage } from './types';

const hz = 10;

/** Footage for tests: sharp, well lit and silent but for what is filled in. */
export function footage(
  seconds: number,
  fill: Partial<Record<keyof DisplayTraces, (t: number) => number>>,
  runs: Run[] = [],
  id = 'a',
): Footage {
  const usual: Partial<Record<keyof DisplayTraces, number>> = {
    sharpness: 0.9,
    exposure: 1,
    contrast: 0.2,
    loudness: -50,
  };
  const traces = Object.fromEntries(
    displayTraceNames.map((name) => [
      name,
      Float32Array.from({ length: seconds * hz }, (_, i) => fill[name]?.(i / hz) ?? usual[name] ?? 0),
    ]),
  ) as DisplayTraces;
  return { id, durationSeconds: seconds, hz, traces, runs };
}

/** Random footage with speech runs, faces, motion and flaws; the same for the same seed. */
export function randomFootage(seed: number, seconds = 90): Footage {
  let state = seed * 7919 + 1;
  const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  const speech: Run[] = [];
  for (let t = random() * 3; t < seconds - 3;) {
    const end = Math.min(seconds, t + 0.5 + random() * 6);
    speech.push({ kind: 'speech', start: t, end });
    t = end + 0.15 + random() * 4;
  }
  const bumps = Array.from({ length: 8 }, () => ({
    at: random() * seconds,
    width: 1 + random() * 5,
    height: random(),
  }));
  const bump = (shift: number) => (t: number) =>
    Math.min(
      1,
      bumps.reduce(
        (sum, each, index) =>
          sum + ((index + shift) % 2 ? each.height * Math.exp(-(((t - each.at) / each.width) ** 2)) : 0),
        0,
      ),
    );
  const shaky = { from: random() * seconds, to: 0 };
  shaky.to = shaky.from + 4;
  return footage(
    seconds,
    {
      speech: (t) => (speech.some((run) => t >= run.start && t < run.end) ? 1 : 0),
      motion: bump(0),
      bursts: bump(1),
      faces: (t) => (Math.floor(t / 7) % 2 ? 2 : 0),
      faceArea: () => 0.03,
      shake: (t) => (t > shaky.from && t < shaky.to ? 0.9 : 0.05),
    },
    [...speech, { kind: 'scene', start: 0, end: seconds / 2 }, { kind: 'scene', start: seconds / 2, end: seconds }],
    `m${seed}`,
  );
}
