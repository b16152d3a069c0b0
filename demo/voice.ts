import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sampleRate } from './sound';

export interface Line {
  who: keyof typeof voices;
  text: string;
  /** Silence after the line, in seconds. */
  pause?: number;
}

export interface SpokenLine {
  who: string;
  text: string;
  start: number;
  end: number;
  samples: Float32Array;
}

const voices = {
  presenter: ['-v', 'en-gb+m3', '-s', '158', '-p', '42'],
  builder: ['-v', 'en-gb+f2', '-s', '165', '-p', '55'],
  caller: ['-v', 'en-gb+m7', '-s', '188', '-p', '58'],
  captain: ['-v', 'en-gb+m1', '-s', '140', '-p', '24'],
};

/** Speaks one line with espeak-ng: 48 kHz mono, silence trimmed at both ends. */
function speak(line: Line): Float32Array {
  const folder = mkdtempSync(join(tmpdir(), 'regatta-'));
  try {
    const wav = join(folder, 'line.wav');
    execFileSync('espeak-ng', [...voices[line.who], '-a', '170', '-w', wav, line.text]);
    const raw = execFileSync(
      'ffmpeg',
      ['-v', 'error', '-i', wav, '-f', 'f32le', '-ac', '1', '-ar', String(sampleRate), '-'],
      { maxBuffer: 1 << 28 },
    );
    return trimmed(new Float32Array(raw.buffer, raw.byteOffset, raw.byteLength >> 2));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

function trimmed(samples: Float32Array): Float32Array {
  let first = 0;
  let last = samples.length;
  while (first < last && Math.abs(samples[first]!) < 0.01) first++;
  while (last > first && Math.abs(samples[last - 1]!) < 0.01) last--;
  return samples.slice(first, last);
}

/** Speaks the lines one after another from `start` seconds. */
export function sayLines(lines: Line[], start: number): SpokenLine[] {
  let at = start;
  return lines.map((line) => {
    const samples = speak(line);
    const spoken = { who: line.who, text: line.text, start: at, end: at + samples.length / sampleRate, samples };
    at = spoken.end + (line.pause ?? 0.55);
    return spoken;
  });
}

/** How far the mouth of `who` is open at `seconds`, 0 to 1, from the loudness of the voice. */
export function mouthAt(lines: SpokenLine[], who: string, seconds: number): number {
  const line = lines.find((each) => each.who === who && seconds >= each.start && seconds < each.end);
  if (!line) return 0;
  const middle = Math.round((seconds - line.start) * sampleRate);
  let sum = 0;
  const half = 900;
  for (let index = Math.max(0, middle - half); index < Math.min(line.samples.length, middle + half); index++)
    sum += line.samples[index]! ** 2;
  return Math.min(1, Math.sqrt(sum / (2 * half)) * 5.5);
}
