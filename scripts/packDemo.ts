/** Reads the demo media and keeps the readings beside them (demo/readings), so that a first start shows them at once. */
import { existsSync } from 'node:fs';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { demoFiles } from '../demo/project';
import { contentHash } from '../data/contentHash';
import { readMedia } from '../media/read';
import { packReading } from '../media/readingPack';

const only = process.argv[2];
for (const name of demoFiles) {
  const file = join('demo/media', name);
  const folder = join('demo/readings', name);
  if (only === 'missing' ? existsSync(join(folder, 'reading.json.gz')) : only && !name.includes(only)) continue;
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const started = Date.now();
  const result = await readMedia(file, { folder });
  await writeFile(join(folder, 'reading.json.gz'), packReading(result));
  await writeFile(join(folder, 'hash'), await contentHash(file));
  console.log(`${name}: ${((Date.now() - started) / 1000).toFixed(1)} s`);
}
process.exit(0);
