import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { describe, expect, it } from 'vitest';
import { probe } from '../probe/probe';
import { ffmpeg, testFolder } from '../testMedia';
import { planReading } from './readPlan';

const folder = testFolder();

/** A recording of a screen on which nothing moved for a minute: a second of pictures at each end, and none between. */
function stillForAMinute(): string {
  const file = join(folder, 'still.mp4');
  const source = ['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=62'];
  ffmpeg(...source, '-vf', "select='lt(n,25)+gt(n,1525)'", '-fps_mode', 'vfr', '-c:v', 'libx264', file);
  return file;
}

describe('a stretch of a recording in which no picture follows for long', () => {
  it('is read to its end and no further', async () => {
    const file = stillForAMinute();
    mkdirSync(join(folder, 'sheets'));
    const range = { start: 0, end: 4 };
    const plan = planReading(file, await probe(file), join(folder, 'sheets'), false, range);
    const child = spawn('ffmpeg', plan.args, {
      stdio: ['ignore', 'ignore', 'ignore', 'pipe', 'pipe', 'pipe', 'pipe', 'pipe'],
    });
    const bytes = [3, 4, 5, 6, 7].map((pipe) => {
      const counted = { sum: 0 };
      (child.stdio[pipe] as Readable).on('data', (chunk: Buffer) => (counted.sum += chunk.length));
      return counted;
    });
    await once(child, 'close');
    const seconds = bytes[0]!.sum / (plan.gray.width * plan.gray.height) / (plan.rate.num / plan.rate.den);
    expect(seconds).toBeGreaterThanOrEqual(4);
    expect(seconds).toBeLessThanOrEqual(5.1);
  });
});
