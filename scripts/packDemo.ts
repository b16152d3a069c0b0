/** Reads the demo media and keeps the readings beside them (demo/readings), so that a first start shows them at once. */
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { derive, runsOf } from '#core/readings';
import { demoFiles } from '../demo/project';
import { contentHash } from '../data/contentHash';
import { readMedia, type ReadResult } from '../media/read/read';
import { pocketsphinx } from '../media/words/recognisers';
import { speechStretches } from '../media/words/speechStretches';
import { packReading, unpackReading } from '../media/read/readingPack';
import { roundedWords } from '../cli/spoken';

/** Words as the recogniser hears them; they ship with the readings, so that a first start need not hear them. */
async function packWords(
  file: string,
  folder: string,
  { raw, probe }: Pick<ReadResult, 'raw' | 'probe'>,
): Promise<void> {
  const speech = runsOf(derive(raw).runs, 'speech');
  if (speech.length === 0) return;
  const scratch = await mkdtemp(join(tmpdir(), 'bright-reel-words-'));
  const words = await pocketsphinx.recognise(file, speechStretches(speech, probe.durationSeconds), {
    folder: scratch,
    language: 'en-US',
  });
  await rm(scratch, { recursive: true, force: true });
  await writeFile(join(folder, 'words.json'), `${JSON.stringify(roundedWords(words))}\n`);
}

/** What is said in the long piece, as a text with times. */
async function writeSubtitles(name: string): Promise<void> {
  const { speech } = JSON.parse(await readFile(`demo/media/${name}.truth.json`, 'utf8')) as {
    speech: { text: string; start: number; end: number }[];
  };
  const time = (seconds: number) => new Date(Math.round(seconds * 1000)).toISOString().slice(11, 23).replace('.', ',');
  await writeFile(
    `demo/media/${name}.srt`,
    speech.map((line, index) => `${index + 1}\n${time(line.start)} --> ${time(line.end)}\n${line.text}\n`).join('\n'),
  );
}

const only = process.argv[2];
if (only !== 'missing') await writeSubtitles('race-day');
for (const name of demoFiles) {
  const file = join('demo/media', name);
  const folder = join('demo/readings', name);
  if (only === 'words') {
    await packWords(file, folder, unpackReading(await readFile(join(folder, 'reading.json.gz')))!);
    continue;
  }
  if (only === 'missing' ? existsSync(join(folder, 'reading.json.gz')) : only && !name.includes(only)) continue;
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const started = Date.now();
  const result = await readMedia(file, { folder });
  await writeFile(join(folder, 'reading.json.gz'), packReading(result));
  await writeFile(join(folder, 'hash'), await contentHash(file));
  await packWords(file, folder, result);
  console.log(`${name}: ${((Date.now() - started) / 1000).toFixed(1)} s`);
}
process.exit(0);
