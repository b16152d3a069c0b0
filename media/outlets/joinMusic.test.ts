import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { joinMusic } from './joinMusic';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-music-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const rate = 48_000;

/** A click at every whole second of a quiet tone. */
function made(name: string, hertz: number): string {
  const file = join(folder, name);
  const wave = `0.1*sin(2*PI*${hertz}*t)+0.6*lt(mod(t,1),0.004)*(1-mod(t,1)/0.004)`;
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', `aevalsrc='${wave}':s=${rate}:d=10`, file]);
  return file;
}
function samplesOf(file: string): Float32Array {
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-f', 'f32le', '-'], {
    maxBuffer: 1 << 27,
  });
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
}

describe('music out of stretches', () => {
  it('meets on the beat to the sample, keeps the stroke there whole, and has neither a hole nor a crack', async () => {
    const [one, other] = [made('one.wav', 220), made('other.wav', 330)];
    const output = join(folder, 'all.flac');
    await joinMusic(
      [
        { file: one, start: 0, end: 3, gainDb: 0 },
        { file: one, start: 6, end: 8, gainDb: 0 },
        { file: other, start: 2, end: 5.5, gainDb: -6.02 },
      ],
      output,
    );
    const samples = samplesOf(output);
    expect(samples.length).toBe(8.5 * rate);
    // A stroke on every second, also where parts meet (3 s and 5 s), nowhere else; the last part at half the level.
    const strokes: number[] = [];
    for (let at = 0; at < samples.length; at++)
      if (samples[at]! > 0.25 && (strokes.length === 0 || at - strokes.at(-1)! > rate / 100)) strokes.push(at);
    expect(strokes.map((at) => at / rate)).toEqual(
      [0, 1, 2, 3, 4, 5, 6, 7, 8].map((at): unknown => expect.closeTo(at, 3)),
    );
    expect(samples[4 * rate]!).toBeGreaterThan(0.55);
    expect(samples[7 * rate]!).toBeLessThan(0.36);
    // The level of the tone around a join, in windows of 10 ms: equal power, so never under half of it.
    for (const seconds of [3, 5])
      for (let from = seconds - 0.06; from < seconds - 0.01; from += 0.01) {
        const window = samples.subarray(Math.round(from * rate), Math.round((from + 0.01) * rate));
        const rms = Math.sqrt(window.reduce((sum, value) => sum + value * value, 0) / window.length);
        expect(rms, `${from}`).toBeGreaterThan(0.03);
        expect(rms, `${from}`).toBeLessThan(0.12);
      }
  });
  it('says what is wrong when a file cannot be heard', async () => {
    const none = [{ file: join(folder, 'none.wav'), start: 0, end: 1, gainDb: 0 }];
    await expect(joinMusic(none, join(folder, 'x.flac'))).rejects.toThrow(/\.$/);
  });
});
