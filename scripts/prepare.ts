/** Before the server starts: database, queue, demo. Everything here may run again without harm. */
import { settings } from '#settings';
import { existsSync } from 'node:fs';
import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { bringIn } from '../data/bringIn';
import { closeDatabase, migrateDatabase } from '../data/db';
import { keyOf } from '../data/media';
import { checkUpgrade } from '../data/upgrade';
import { createBin, createProject, findProject } from '../data/projects';
import { findReading, outdatedItems, readingFolder, saveReading } from '../data/readings';
import { storage } from '../data/storage';
import { demoProject } from '../demo/project';
import { enqueueReading, migrateQueue, renewMisread } from '../usecases/queue';
import { lendEarlierReading } from '../usecases/background/earlierReadings';
import { storedParts } from '../usecases/background/readFile';
import { readerVersion } from '#core/readings';
import { importWords, type Word } from '#core/words';
import { findRecognition, saveRecognition, saveTranscript } from '../data/words';
import { pocketsphinx } from '../media/words/recognisers';
import { unpackReading } from '../media/read/readingPack';

async function loadDemo(): Promise<void> {
  if (await findProject(demoProject.id)) return;
  console.log('Loading the demo');
  await createProject(demoProject.name, demoProject.id);
  for (const { name, files } of demoProject.bins) {
    const bin = await createBin(demoProject.id, name);
    for (const file of files) {
      const row = await bringIn(demoProject.id, join('demo/media', file), file, { copy: true, binId: bin.id });
      if (!(await takeShippedReading(file, row.fileHash))) await enqueueReading(demoProject.id, keyOf(row), file);
      await takeText(file, row.id, row.fileHash);
    }
  }
}

/** The reading that ships with a demo file, if it belongs to exactly this content and this version of the reader. */
async function takeShippedReading(name: string, hash: string): Promise<boolean> {
  const key = { hash, parameters: '' };
  if (await findReading(key)) return true;
  const folder = join('demo/readings', name);
  if (!existsSync(join(folder, 'reading.json.gz')) || (await readFile(join(folder, 'hash'), 'utf8')) !== hash)
    return false;
  const result = unpackReading(await readFile(join(folder, 'reading.json.gz')));
  if (!result) return false;
  for (const file of await readdir(folder))
    if (file.startsWith('sheet-'))
      await storage().adopt(`${readingFolder(key)}/${file}`, join(folder, file), { copy: true });
  const words = join(folder, 'words.json');
  if (existsSync(words))
    await saveRecognition(key, pocketsphinx.name, JSON.parse(await readFile(words, 'utf8')) as Word[], {
      revision: pocketsphinx.revision,
      language: pocketsphinx.languages[0]!,
    });
  await saveReading({ ...key, version: readerVersion, ...storedParts(result), proxyKey: null, tookSeconds: 0 });
  return true;
}

/** A text with times that ships beside a demo file. */
async function takeText(name: string, mediaId: string, hash: string): Promise<void> {
  const text = join('demo/media', name.replace(/\.\w+$/, '.srt'));
  if (!existsSync(text)) return;
  const heard = (await findRecognition({ hash, parameters: '' }))?.words ?? [];
  await saveTranscript(mediaId, importWords(await readFile(text, 'utf8'), heard), 'imported', 0);
}

try {
  await checkUpgrade();
  await migrateDatabase();
  await migrateQueue();
  if (settings().BRIGHT_REEL_DEMO === 'yes') await loadDemo();
  const outdated = await outdatedItems();
  if (outdated.length)
    console.log(`Reading anew what an earlier version read (${outdated.length}); it can be used meanwhile`);
  for (const { projectId, name, ...key } of outdated) {
    await lendEarlierReading(key);
    await enqueueReading(projectId, key, name);
  }
  await renewMisread();
} catch (error) {
  console.error(`Bright Reel could not be prepared: ${(error as Error).message}`);
  process.exitCode = 1;
} finally {
  await closeDatabase();
}
process.exit();
