import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { defaultLimits, defaultMix, defaultPieceLength, emptyBoard } from '#core/moments';
import { closeDatabase, migrateDatabase } from '#data/db';
import { listDecisions } from '#data/decisions';
import { listMarkers, loadBoard, loadPick } from '#data/log';
import { addFile, addMedia, listMedia } from '#data/media';
import { createProject } from '#data/projects';
import { action } from './log';

describe.skipIf(!process.env.DATABASE_URL)('what an editor decides, as the server takes it', () => {
  let project: string;
  let media: string;
  beforeAll(async () => {
    await migrateDatabase();
    project = (await createProject('Log')).id;
    const hash = 'log'.padEnd(64, '0');
    await addFile(hash, 1, 'nowhere');
    media = (await addMedia(project, hash, 'pond.mp4')).id;
  });
  afterAll(() => closeDatabase());

  /** Answer of the action: its status and its body. */
  const send = async (body: unknown, to = project): Promise<{ status: number; body: Record<string, unknown> }> => {
    const request = new Request('http://pond/log', {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    });
    const answer = (await action({ params: { projectId: to }, request } as unknown as Parameters<
      typeof action
    >[0])) as { data?: Record<string, unknown>; init?: { status?: number } } & Record<string, unknown>;
    return answer.init ? { status: answer.init.status ?? 200, body: answer.data! } : { status: 200, body: answer };
  };
  const pick = {
    mix: defaultMix,
    limits: { ...defaultLimits, silence: 2 },
    piece: defaultPieceLength,
    targetSeconds: 60,
    water: null,
    learning: { on: true, forgotten: [] },
    photoSeconds: 4,
  };

  it('a decision may come twice, goes, and comes back', async () => {
    const value = { id: crypto.randomUUID(), media, start: 1, end: 3, verdict: 'keep' };
    const change = { kind: 'decision', id: value.id, value };
    expect((await send(change)).status).toBe(200);
    expect((await send(change)).status).toBe(200);
    expect(await listDecisions(project)).toEqual([value]);
    await send({ ...change, value: null });
    expect(await listDecisions(project)).toEqual([]);
    await send(change);
    expect(await listDecisions(project)).toHaveLength(1);
  });
  it('nothing goes to footage of another project, and nonsense is refused field by field', async () => {
    const elsewhere = (await createProject('Elsewhere')).id;
    const marker = { id: crypto.randomUUID(), media, seconds: 2, note: 'here', kind: 'note' };
    expect(await send({ kind: 'marker', id: marker.id, value: marker }, elsewhere)).toMatchObject({
      status: 422,
      body: { problems: { media: 'This footage is not in the project any more.' } },
    });
    expect(await listMarkers(elsewhere)).toEqual([]);
    expect(
      (await send({ kind: 'marker', id: marker.id, value: { ...marker, kind: 'hat', seconds: -1 } })).body.problems,
    ).toMatchObject({ kind: expect.any(String) as string, seconds: expect.any(String) as string });
    expect((await send({ kind: 'hat' })).status).toBe(422);
    expect((await send(null)).status).toBe(422);
    expect((await send({ kind: 'defaults', id: media, value: { in: 5, out: 3 } })).body.problems).toEqual({
      out: 'The out point must lie after the in point.',
    });
    await send({ kind: 'defaults', id: media, value: { in: 1, out: 3 } });
    expect((await listMedia(project))[0]).toMatchObject({ defaultIn: 1, defaultOut: 3 });
    await send({ kind: 'defaults', id: media, value: null });
    expect((await listMedia(project))[0]).toMatchObject({ defaultIn: null, defaultOut: null });
  });
  it('who changes an older mix is told what stands there, and nothing is overwritten', async () => {
    const first = await send({ kind: 'pick', id: 'pick', value: pick, version: 0 });
    expect(first).toEqual({ status: 200, body: { saved: true, version: 1 } });
    const late = await send({ kind: 'pick', id: 'pick', value: { ...pick, targetSeconds: 10 }, version: 0 });
    expect(late).toMatchObject({
      status: 409,
      body: { version: 1, value: { targetSeconds: 60, limits: { silence: 2 } } },
    });
    expect((await loadPick(project)).value.targetSeconds).toBe(60);
    expect((await send({ kind: 'pick', id: 'pick', value: { ...pick, targetSeconds: 10 }, version: 1 })).body).toEqual({
      saved: true,
      version: 2,
    });
  });
  it('the order of scenes is kept, with tags that exist', async () => {
    const value = { ...emptyBoard, order: ['a@0.00'], tags: { 'a@0.00': 'leaf' } };
    expect((await send({ kind: 'scenes', id: 'scenes', value, version: 0 })).body).toEqual({ saved: true, version: 1 });
    expect((await loadBoard(project, 'scenes')).value).toEqual(value);
    expect(
      (await send({ kind: 'scenes', id: 'scenes', value: { ...value, tags: { a: 'hat' } }, version: 1 })).status,
    ).toBe(422);
    expect(
      (
        await send({
          kind: 'silence',
          id: 'silence',
          value: { thresholdDb: null, minSeconds: 0.8, padSeconds: 0.2, kept: [{ media, start: 1, end: 2 }] },
          version: 0,
        })
      ).status,
    ).toBe(200);
    expect((await loadBoard(project, 'silence')).value.kept).toHaveLength(1);
  });
});
