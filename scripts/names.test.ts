import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

const rooms = ['core', 'usecases', 'data', 'media', 'app', 'jobs', 'settings', 'cli'];
const files = execFileSync('git', ['ls-files', ...rooms], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file));

describe('names', () => {
  it('of types that are exported stand for one thing only', () => {
    const homes = new Map<string, string[]>();
    for (const file of files)
      for (const [, name] of readFileSync(file, 'utf8').matchAll(/^export (?:interface|type|class) (\w+)/gm))
        homes.set(name!, [...(homes.get(name!) ?? []), file]);
    expect(homes.size).toBeGreaterThan(300);
    expect([...homes].filter(([, where]) => where.length > 1)).toEqual([]);
  });
});
