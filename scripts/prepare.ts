/** Before the server starts: database, queue, demo. Everything here may run again without harm. */
import { existsSync } from 'node:fs';
import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { bringIn } from '../data/bringIn';
import { closeDatabase, migrateDatabase } from '../data/db';
import { keyOf } from '../data/media';
import { createBin, createProject, findProject } from '../data/projects';
import { findReading, readingFolder, saveReading } from '../data/readings';
import { storage } from '../data/storage';
import { demoProject } from '../demo/project';
import { enqueueReading, migrateQueue } from '../jobs/queue';
import { storedParts } from '../jobs/readFile';
import { readerVersion } from '#core/readings';
import { unpackReading } from '../media/readingPack';

async function loadDemo(): Promise<void> {
  if (await findProject(demoProject.id)) return;
  console.log('Loading the demo');
  await createProject(demoProject.name, demoProject.id);
  for (const { name, files } of demoProject.bins) {
    const bin = await createBin(demoProject.id, name);
    for (const file of files) {
      const row = await bringIn(demoProject.id, join('demo/media', file), file, { copy: true, binId: bin.id });
      if (!(await takeShippedReading(file, row.fileHash))) await enqueueReading(demoProject.id, keyOf(row), file);
    }
  }
}

/** The reading that ships with a demo file, if it belongs to exactly this content and this version of the reader. */
async function takeShippedReading(name: string, hash: string): Promise<boolean> {
  const key = { hash, parameters: '' };
  if (await findReading(key, readerVersion)) return true;
  const folder = join('demo/readings', name);
  if (!existsSync(join(folder, 'reading.json.gz')) || (await readFile(join(folder, 'hash'), 'utf8')) !== hash) return false;
  const result = unpackReading(await readFile(join(folder, 'reading.json.gz')));
  if (!result) return false;
  for (const file of await readdir(folder))
    if (file.startsWith('sheet-')) await storage().adopt(`${readingFolder(key)}/${file}`, join(folder, file), { copy: true });
  await saveReading({ ...key, version: readerVersion, ...storedParts(result), proxyKey: null, tookSeconds: 0 });
  return true;
}

try {
  await migrateDatabase();
  await migrateQueue();
  if (process.env.BRIGHT_REEL_DEMO !== 'no') await loadDemo();
} catch (error) {
  console.error(`Bright Reel could not be prepared: ${(error as Error).message}`);
  process.exitCode = 1;
} finally {
  await closeDatabase();
}
process.exit();
