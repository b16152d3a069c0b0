/**
 * Draws anew what is missing of the demo's media. Large files may be kept outside the repository, and a checkout then
 * holds a pointer in their place. The generator is deterministic: the file comes out the same, so its reading still fits.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { demoFiles } from '../demo/project';

const isThere = (file: string) =>
  existsSync(file) && !(statSync(file).size < 1024 && readFileSync(file, 'utf8').startsWith('version https://git-lfs'));

for (const name of demoFiles.filter((each) => !isThere(join('demo/media', each)))) {
  console.log(`${name} is not in this checkout; drawing it anew (the long piece takes seven minutes)`);
  execFileSync(process.execPath, ['--import', 'tsx', 'demo/generate.ts', name], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
}
