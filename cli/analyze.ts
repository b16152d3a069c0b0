import { mkdtemp, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { persistentFaces } from '#core/picture';
import { derive, runsOf, type Run, type RunKind } from '#core/readings';
import { framesPerSecond } from '#core/time';
import { MediaError } from '#media/process';
import { readMedia } from '#media/read';

/** The document that `./bright-reel analyze` writes; described in docs/formats.md. */
export async function analyze(file: string, onProgress?: (share: number) => void) {
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-'));
  try {
    const { probe, raw, integratedLufs, warnings } = await readMedia(file, { folder, onProgress });
    const { traces, runs, hz } = derive(raw);
    const stretches = (...kinds: RunKind[]) => runsOf(runs, ...kinds).map(({ start, end }) => ({ start: round(start), end: round(end) }));
    const withKind = ({ start, end, kind }: Run) => ({ start: round(start), end: round(end), kind });
    return {
      source: { durationSeconds: round(probe.durationSeconds), frameRate: probe.rate ? framesPerSecond(probe.rate) : 0, width: probe.width, height: probe.height },
      hz,
      traces: Object.fromEntries(Object.entries(traces).map(([name, values]) => [name, Array.from(values, round)])),
      scenes: stretches('scene'), speech: stretches('speech'), silences: stretches('silence'),
      camera: runsOf(runs, 'still', 'smooth', 'shaky', 'whip').map(withKind),
      flaws: runsOf(runs, 'black', 'frozen', 'blurred').map(withKind),
      faces: persistentFaces(raw.faces).map(({ time, boxes }) => ({
        time, boxes: boxes.map((box) => ({ x: round(box.x), y: round(box.y), width: round(box.width), height: round(box.height), score: round(box.score) })),
      })),
      loudness: { integratedLufs: integratedLufs === null ? null : round(integratedLufs) },
      warnings,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const round = (value: number) => Math.round(value * 1e4) / 1e4;

/** Writes whole or not at all. */
export async function writeWhole(file: string, text: string) {
  const part = `${file}.part`;
  try {
    await writeFile(part, text);
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    throw new MediaError(`${file} cannot be written: ${(error as NodeJS.ErrnoException).code === 'ENOSPC' ? 'the disk is full' : 'check the folder and its permissions'}.`, { cause: error });
  }
}
