import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { derive, readerVersion, runsOf, type RawTraceName } from '#core/readings';
import { probe } from '#media/probe/probe';
import { readMedia, type ReadResult } from '#media/read/read';
import { readCoarse } from '#media/read/readCoarse';
import { bringIn } from '../../data/bringIn';
import { closeDatabase, migrateDatabase } from '../../data/db';
import { keyOf } from '../../data/media';
import { createProject } from '../../data/projects';
import { coarse, findReading, loadDerived, readingFolder, saveReading, type ReadingKey } from '../../data/readings';
import { storage } from '../../data/storage';
import { findTask, queueTask, requestCancel, setFocus, subjectOf, type Task } from '../../data/tasks';
import { migrateQueue } from '../queue';
import { forgetParts, readInParts } from './readInParts';
import { storedParts } from './readFile';
import type { Work } from './runTask';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-parts-'));
const film = join(folder, 'film.mp4');
const before = { ...process.env };

/** A picture as 40 x 24 greys. */
const greyOf = (picture: string): Buffer =>
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-i', picture, '-vf', 'scale=40:24:flags=area,format=gray', '-f', 'rawvideo', '-'],
  ]);

describe.skipIf(!process.env.DATABASE_URL)('a film that is read in parts', () => {
  let project: string, key: ReadingKey, task: Task;
  let whole: ReadResult;
  const said: (string | null)[] = [];
  const asked: AbortController[] = [];
  const workOn = (): Work => {
    const stop = new AbortController();
    asked.push(stop);
    return {
      task,
      run: crypto.randomUUID(),
      signal: stop.signal,
      progress: () => undefined,
      say: async (sentence) => void said.push(sentence),
    };
  };
  /** Other tests put their own readings into the same queue; where nothing is said of it nobody else waits. */
  const nobodyWaits = { goOthersFirst: async () => false };
  const readOn = async (
    work: Work,
    onProgress: (share: number) => void = () => undefined,
    others: { goOthersFirst?(): Promise<boolean> } = nobodyWaits,
  ) =>
    readInParts(work, {
      ...others,
      key,
      local: film,
      info: await probe(film),
      folder: join(folder, 'scratch'),
      range: null,
      sound: null,
      partSeconds: 30,
      onProgress,
    });

  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
    await migrateDatabase();
    await migrateQueue();
    // Two minutes of the demo with cuts, moves, talk and faces, at a rate at which no part begins on a whole frame.
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-nostdin', '-i', 'demo/media/race-day.mp4', '-t', '125', '-r', '30000/1001'],
      ...['-vf', 'scale=640:360', '-c:v', 'libx264', '-preset', 'ultrafast', '-g', '40', '-c:a', 'aac', film],
    ]);
    project = (await createProject('Long day')).id;
    key = keyOf(await bringIn(project, film, 'film.mp4', { copy: true }));
    task = await queueTask({ projectId: project, kind: 'read', subject: subjectOf(key), title: 'film.mp4' });
    whole = await readMedia(film, { folder: join(folder, 'whole') });
    const rough = (await readCoarse(film, { folder: join(folder, 'rough') }))!;
    await saveReading({
      ...coarse(key),
      version: readerVersion,
      ...storedParts(rough),
      proxyKey: null,
      tookSeconds: 1,
    });
  });
  afterAll(async () => {
    Object.assign(process.env, { BRIGHT_REEL_DATA: before.BRIGHT_REEL_DATA });
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  it('lets others have their turn after a part, and begins where the editor looks', async () => {
    const other = await queueTask({ projectId: project, kind: 'read', subject: 'x'.repeat(64), title: 'other.mp4' });
    await setFocus('read', task.subject, 100);
    expect(await readOn(workOn(), undefined, {})).toBeNull();
    const parts = async (start: string) =>
      (await storage().size(`${readingFolder(key)}/parts/from-${start}.gz`)) !== null;
    expect(await Promise.all(['0.00', '30.00', '60.00', '90.00'].map(parts))).toEqual([false, false, false, true]);
    expect(said.at(-1)).toBe('Read whole so far: 1 of 4 parts.');
    await requestCancel(project, other.id);
    expect((await findTask(other.id))!.state).toBe('cancelled');
    // What was read is shown, among what is roughly known of the rest.
    const shown = (await loadDerived(key))!;
    const cutsAfter = (seconds: number) => runsOf(shown.runs, 'scene').filter(({ start }) => start > seconds).length;
    expect(cutsAfter(90)).toBeGreaterThan(1);
  });

  it('goes on after its worker has ended, with what was whole', async () => {
    const work = workOn();
    const shares: number[] = [];
    await expect(
      readOn(work, (share) => {
        shares.push(share);
        if (share > 0.5) asked.at(-1)!.abort();
      }),
    ).rejects.toThrow('Cancelled');
    expect(shares[0]).toBeGreaterThan(0.25);
  });

  it('is what it is in one go: every trace, faces, cuts, loudness, sheets', async () => {
    const parts = (await readOn(workOn()))!;
    expect(parts.loudness).toEqual(whole.loudness);
    expect([parts.sheets, parts.warnings, parts.heard, parts.raw.durationSeconds.toFixed(1)]).toEqual([
      whole.sheets,
      whole.warnings,
      whole.heard,
      whole.raw.durationSeconds.toFixed(1),
    ]);
    // Whichever part was read first, no sheet of thumbnails is another part's.
    for (let sheet = 1; sheet <= whole.sheets!.count; sheet++) {
      const name = `sheet-${String(sheet).padStart(4, '0')}.jpg`;
      const [own, wanted] = [
        await storage().localPath(`${readingFolder(key)}/${name}`),
        join(folder, 'whole', name),
      ].map(greyOf) as [Buffer, Buffer];
      const apart = own.reduce((sum, value, at) => sum + Math.abs(value - wanted[at]!), 0) / own.length;
      expect(apart, name).toBeLessThan(6);
    }
    expect([...parts.raw.traces.keys()].sort()).toEqual([...whole.raw.traces.keys()].sort());
    const apart = (name: RawTraceName) => {
      const [a, b] = [parts.raw.traces.get(name)!, whole.raw.traces.get(name)!];
      expect([a.hz, Math.abs(a.values.length - b.values.length) <= 1], name).toEqual([b.hz, true]);
      let odd = 0;
      let spread = 0;
      for (const value of b.values) spread = Math.max(spread, Math.abs(value));
      for (let at = 0; at < Math.min(a.values.length, b.values.length); at++)
        if (Math.abs(a.values[at]! - b.values[at]!) > 0.02 * spread) odd++;
      return odd / b.values.length;
    };
    // The estimate of motion remembers what came before; near a seam it may differ for some frames.
    for (const name of whole.raw.traces.keys()) expect(apart(name), name).toBeLessThan(0.01);
    const [a, b] = [derive(parts.raw), derive(whole.raw)];
    for (const kind of ['scene', 'speech', 'smooth', 'whip', 'shaky', 'silence', 'music'] as const)
      expect(
        runsOf(a.runs, kind).map(({ start, end }) => [start.toFixed(1), end.toFixed(1)]),
        kind,
      ).toEqual(runsOf(b.runs, kind).map(({ start, end }) => [start.toFixed(1), end.toFixed(1)]));
    // Looked for twice a second, not at the same frames.
    const differing = parts.raw.faces.filter(({ time, boxes }) => {
      const near = whole.raw.faces.filter((other) => Math.abs(other.time - time) < 0.51);
      return !near.some((other) => other.boxes.length === boxes.length);
    });
    expect(Math.abs(parts.raw.faces.length - whole.raw.faces.length)).toBeLessThanOrEqual(4);
    expect(differing.length).toBeLessThanOrEqual(whole.raw.faces.length * 0.02);
    await forgetParts(key);
    expect(await storage().size(`${readingFolder(key)}/parts/sound.gz`)).toBeNull();
    expect(await findReading(key)).toBeNull();
  });
});
