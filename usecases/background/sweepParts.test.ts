import { existsSync, mkdirSync, mkdtempSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { sweepParts } from './sweepParts';

const before = process.env.BRIGHT_REEL_DATA;
process.env.BRIGHT_REEL_DATA = mkdtempSync(join(tmpdir(), 'bright-reel-sweep-'));
afterAll(() => void (process.env.BRIGHT_REEL_DATA = before));

it('what an ended server left of uploads goes after a day; what is at work, and what is not its own, stays', async () => {
  const folder = join(process.env.BRIGHT_REEL_DATA!, 'scratch');
  mkdirSync(folder, { recursive: true });
  const old = new Date(Date.now() - 90_000_000);
  for (const name of ['upload-a-0-7', 'uploaded-a', 'words-a', 'upload-new', 'uploaded-new']) {
    writeFileSync(join(folder, name), 'x');
    if (!name.endsWith('new')) utimesSync(join(folder, name), old, old);
  }
  await sweepParts();
  const left = (name: string) => existsSync(join(folder, name));
  expect(['upload-a-0-7', 'uploaded-a', 'words-a', 'upload-new', 'uploaded-new'].filter(left)).toEqual([
    'words-a',
    'upload-new',
    'uploaded-new',
  ]);
});
