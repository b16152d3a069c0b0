import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
  chmodSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { delimiter, join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assembleReel } from '#core/reel';
import { rates } from '#core/time';
import { MediaError } from '#media/process';
import { closeDatabase, migrateDatabase } from '../../data/db';
import type { MediaRow } from '../../data/media';
import { createProject } from '../../data/projects';
import { createReel, openReel } from '../../data/reels';
import { partsOf, renderPlace, scratchFolder, storage } from '../../data/storage';
import { deleteRender, findRender, queueRenders } from '../../data/tasks';
import { sweepParts } from './sweepParts';
import { renderFile } from './renderFile';
import type { Work } from './runTask';
import { bringShipped } from '../testFootage';

const film = 'demo/media/race-day.mp4';
const folder = mkdtempSync(join(tmpdir(), 'bright-reel-renders-'));
const before = { ...process.env };

describe.skipIf(!process.env.DATABASE_URL || !existsSync(film))('renders against a database', () => {
  let project = '';
  let item: MediaRow;
  let reelId = '';
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    project = (await createProject('Renders')).id;
    item = await bringShipped(project, 'race-day.mp4');
    const reel = assembleReel(
      'Long',
      [{ media: item.id, start: 10, end: 86, name: 'race-day' }],
      new Map([[item.id, { id: item.id, name: 'race-day', durationSeconds: 250 }]]),
      rates['30'],
      { width: 320, height: 180 },
      () => crypto.randomUUID(),
    );
    reelId = await createReel(project, reel);
  });
  afterAll(async () => {
    Object.assign(process.env, before);
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  const ask = async () => {
    const { head } = (await openReel(reelId))!;
    const [id] = await queueRenders([
      {
        projectId: project,
        reelId,
        revision: head,
        name: 'Long',
        width: 320,
        height: 180,
        seconds: 76,
        format: 'mp4',
        quality: 'draft',
      },
    ]);
    return (await findRender(id!))!;
  };
  const work = (subject: string, over: Partial<Work> = {}): Work => ({
    task: { id: crypto.randomUUID(), projectId: project, subject, title: '' } as Work['task'],
    run: crypto.randomUUID(),
    signal: new AbortController().signal,
    progress: () => undefined,
    say: async () => undefined,
    ...over,
  });
  const stretches = (render: { id: string; format: string }) =>
    existsSync(partsOf(renderPlace(render)))
      ? readdirSync(partsOf(renderPlace(render)))
          .filter((name) => name.startsWith('picture-') && name.endsWith('.mp4'))
          .sort()
      : [];

  it('a worker that is killed and another that takes the render up: it goes on at the stretch that was not whole', async () => {
    const render = await ask();
    const stop = new AbortController();
    await expect(
      renderFile(
        work(render.id, { signal: stop.signal, progress: () => stretches(render).length > 0 && stop.abort() }),
      ),
    ).rejects.toThrow(/Cancelled/);
    const kept = stretches(render);
    expect(kept).toHaveLength(1);
    await sweepParts();
    expect(stretches(render)).toEqual(kept);
    const shares: number[] = [];
    await renderFile(work(render.id, { progress: (share) => void shares.push(share) }));
    // Two stretches, of 30 and of 46 s: the first is not made again.
    expect(shares[0]).toBeGreaterThan(0.39);
    const done = (await findRender(render.id))!;
    expect(await storage().size(done.storageKey!)).toBe(done.size);
    expect(existsSync(partsOf(renderPlace(render)))).toBe(false);

    const other = await ask();
    await renderFile(work(other.id));
    expect(
      readFileSync(await storage().localPath((await findRender(other.id))!.storageKey!)).equals(
        readFileSync(await storage().localPath(done.storageKey!)),
      ),
    ).toBe(true);
  });

  it('a full disk is said, nothing half is left, and after that it goes on', async () => {
    const render = await ask();
    // A program that stands in for ffmpeg on a full disk: from the second stretch on it ends as ffmpeg does there.
    const shims = join(folder, 'shims');
    const real = process.env
      .PATH!.split(delimiter)
      .map((each) => join(each, 'ffmpeg'))
      .find((each) => existsSync(each))!;
    mkdirSync(shims);
    writeFileSync(
      join(shims, 'ffmpeg'),
      `#!/bin/sh\nfor last; do :; done\ncase "$last" in *picture-*) if ls "$(dirname "$last")" | grep -q '^picture-.*mp4$'; then echo half > "$last"; echo "av_interleaved_write_frame(): No space left on device" >&2; exit 1; fi;; esac\nexec ${real} "$@"\n`,
    );
    chmodSync(join(shims, 'ffmpeg'), 0o755);
    process.env.PATH = `${shims}${delimiter}${before.PATH}`;
    try {
      const failed = await renderFile(work(render.id)).catch((error: unknown) => error);
      expect(failed).toBeInstanceOf(MediaError);
      expect((failed as Error).message).toMatch(/disk is full.*goes on where it stopped/);
    } finally {
      process.env.PATH = before.PATH;
    }
    expect(readdirSync(partsOf(renderPlace(render))).filter((name) => name.startsWith('picture-'))).toEqual(
      stretches(render),
    );
    expect(stretches(render)).toHaveLength(1);
    expect((await findRender(render.id))!.storageKey).toBeNull();
    await renderFile(work(render.id));
    expect((await findRender(render.id))!.size).toBeGreaterThan(0);
  });

  it('what is left of a render goes with it, or when nobody knows it any more', async () => {
    const render = await ask();
    const stray = partsOf(renderPlace({ id: crypto.randomUUID(), format: 'mp4' }));
    const other = join(scratchFolder(), 'upload-in-the-making');
    for (const each of [partsOf(renderPlace(render)), stray, other]) mkdirSync(each, { recursive: true });
    await sweepParts();
    expect([partsOf(renderPlace(render)), stray, other].map((each) => existsSync(each))).toEqual([true, false, true]);
    await deleteRender(crypto.randomUUID(), render.id);
    expect(existsSync(partsOf(renderPlace(render)))).toBe(true);
    await deleteRender(project, render.id);
    expect([existsSync(partsOf(renderPlace(render))), await findRender(render.id)]).toEqual([false, null]);
  });
});
