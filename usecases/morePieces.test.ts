import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { runsOf } from '#core/readings';
import { overlap } from '#core/time';
import { closeDatabase, migrateDatabase } from '#data/db';
import { saveDecision } from '#data/decisions';
import { findMedia, keyOf } from '#data/media';
import { createProject } from '#data/projects';
import { loadDerived } from '#data/readings';
import { findMorePieces } from './morePieces';
import { migrateQueue } from './queue';
import { bringShipped } from './testFootage';

const film = 'demo/media/race-day.mp4';
describe.skipIf(!process.env.DATABASE_URL || !existsSync(film))('more pieces for a reel', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-more-'));
  const before = { ...process.env };
  let project = '';
  let media = '';
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('More')).id;
    const item = await bringShipped(project, 'race-day.mp4');
    media = item.id;
  });
  afterAll(async () => {
    Object.assign(process.env, before);
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  const found = async (seconds: number, used: { media: string; start: number; end: number }[]) => {
    const answer = await findMorePieces(project, { seconds, used });
    if (!answer.ok) throw new Error(answer.sentence);
    return answer.value.pieces;
  };
  const total = (pieces: { start: number; end: number }[]) =>
    pieces.reduce((sum, { start, end }) => sum + end - start, 0);

  it('fill so many seconds, with names and reasons, and show nothing again', async () => {
    const first = await found(30, []);
    expect(total(first)).toBeGreaterThan(20);
    expect(total(first)).toBeLessThanOrEqual(30 + 1e-6);
    for (const { name, reason } of first)
      expect([name.length > 0, reason]).toEqual([true, expect.stringMatching(/ of 100/)]);
    const second = await found(30, first);
    expect(second.length).toBeGreaterThan(0);
    for (const own of second) for (const other of first) expect(overlap(own, other)).toBeLessThan(0.1);
  });
  it('what was kept by hand comes first, unless the reel shows it', async () => {
    const kept = { id: crypto.randomUUID(), media, start: 200, end: 206, verdict: 'keep' as const };
    await saveDecision(project, kept);
    expect(await found(20, [])).toContainEqual(expect.objectContaining({ start: 200, end: 206 }));
    for (const own of await found(20, [{ media, start: 199, end: 207 }])) expect(overlap(own, kept)).toBeLessThan(0.1);
  });
  it('with “quiet” nobody speaks in any of them, and the best come first', async () => {
    const answer = await findMorePieces(project, { seconds: 20, used: [], quiet: true });
    if (!answer.ok) throw new Error(answer.sentence);
    const { pieces } = answer.value;
    expect(pieces.length).toBeGreaterThan(0);
    const { runs } = (await loadDerived(keyOf((await findMedia(media))!)))!;
    const spoken = runsOf(runs, 'speech');
    expect(spoken.length).toBeGreaterThan(0);
    for (const piece of pieces) for (const speech of spoken) expect(overlap(piece, speech)).toBeLessThanOrEqual(0);
    const scores = pieces.map(({ reason }) => Number(/(\d+) of 100/.exec(reason!)![1]));
    expect(scores).toEqual(scores.toSorted((a, b) => b - a));
  });
  it('what does not fit is refused', async () => {
    expect(await findMorePieces(project, { seconds: 'all', used: [] })).toMatchObject({ why: 'refused' });
    expect(await findMorePieces(crypto.randomUUID(), { seconds: 3, used: [] })).toMatchObject({ why: 'missing' });
  });
});
