import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createMontage, type Montage } from '#core/montage';
import { hearMusic } from '#core/sound';
import { readerVersion } from '#core/readings';
import { closeDatabase, database, migrateDatabase } from '#data/db';
import { addFile, addMedia, listMedia } from '#data/media';
import { findHearing, lastMontage, loadMontage, montageOfReel, saveHearing, saveMontage } from '#data/montages';
import { createProject } from '#data/projects';
import { openReel, stepRevision } from '#data/reels';
import { readings } from '#data/schema';
import { testSong } from '../../core/sound/beats/testSongs';
import { action } from './montageSave';

const hearing = hearMusic(testSong('rock', () => 120, 20, 1).samples);

describe.skipIf(!process.env.DATABASE_URL)('a montage, as the server takes it', () => {
  let project: string, song: string, film: string;
  beforeAll(async () => {
    await migrateDatabase();
    project = (await createProject('Montage')).id;
    for (const [letter, kind, seconds] of [
      ['e', 'sound', 20],
      ['f', 'video', 30],
    ] as const) {
      const hash = `${letter}0`.padEnd(64, letter);
      await addFile(hash, 1, 'nowhere');
      const { id } = await addMedia(project, hash, kind === 'sound' ? 'song.m4a' : 'pond.mp4');
      if (kind === 'sound') song = id;
      else film = id;
      await database()
        .insert(readings)
        .values({
          hash,
          version: readerVersion,
          probe: {
            kind,
            durationSeconds: seconds,
            rate: kind === 'video' ? { num: 25, den: 1 } : null,
            width: kind === 'video' ? 640 : 0,
            height: kind === 'video' ? 360 : 0,
            hasSound: true,
            videoCodec: null,
            audioCodec: null,
            format: 'x',
          },
          summary: { faces: 0, speechShare: 0, shakySeconds: 0, movingSeconds: 0, flawedSeconds: 0, scenes: 1 },
          faces: [],
          warnings: [],
          tookSeconds: 1,
        })
        .onConflictDoNothing();
    }
    expect((await listMedia(project)).every((item) => item.probe)).toBe(true);
  });
  afterAll(() => closeDatabase());

  const send = async (body: unknown, media = song): Promise<{ status: number; body: Record<string, unknown> }> => {
    const request = new Request('http://pond/montage', {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    });
    const answer = (await action({ params: { projectId: project, mediaId: media }, request } as unknown as Parameters<
      typeof action
    >[0])) as { data?: Record<string, unknown>; init?: { status?: number } } & Record<string, unknown>;
    return answer.init ? { status: answer.init.status ?? 200, body: answer.data! } : { status: 200, body: answer };
  };
  const begun = (): Montage => {
    const montage = createMontage(
      hearing,
      [{ id: crypto.randomUUID(), media: film, name: 'pond', start: 0, end: 20 }],
      () => crypto.randomUUID(),
    );
    return {
      ...montage,
      slots: montage.slots.map((slot) => ({ ...slot, piece: { piece: montage.pieces[0]!.id, sourceStart: 1 } })),
    };
  };

  it('what was heard is found again by content', async () => {
    const hash = 'aa'.padEnd(64, '9');
    expect(await findHearing(hash)).toBeNull();
    await saveHearing(hash, hearing);
    await saveHearing(hash, hearing);
    expect((await findHearing(hash))!.grid).toEqual(hearing.grid);
  });

  it('is saved, never over a newer one, and the reel made of it follows with a step of its own', async () => {
    const montage = begun();
    expect((await send({ makeReel: true })).status).toBe(422);
    expect(await send({ value: montage, version: 0 })).toEqual({
      status: 200,
      body: { saved: true, version: 1, note: null },
    });
    expect((await send({ value: montage, version: 0 })).status).toBe(409);
    expect(await lastMontage(project)).toBe(song);
    const { body } = await send({ makeReel: true });
    const made = (await openReel(body.reel as string))!;
    expect(made.document.tracks[0]!.items).toHaveLength(montage.slots.length);
    expect(made.document.music?.media).toBe(song);
    expect(await montageOfReel(made.id)).toBe(song);

    // Into a reel that is there, at its end: as one step, with its music beneath.
    expect((await send({ makeReel: true, into: made.id, how: 'insert', at: 'end' })).body).toEqual({ reel: made.id });
    const longer = (await openReel(made.id))!.document;
    expect(longer.tracks[0]!.items).toHaveLength(2 * montage.slots.length);
    expect(longer.tracks[1]).toMatchObject({ kind: 'sound', items: [{ kind: 'gap' }, { kind: 'clip', media: song }] });
    expect(await stepRevision(made.id, (await openReel(made.id))!.head, 'undo')).toBe(true);
    expect((await send({ makeReel: true, into: crypto.randomUUID() })).status).toBe(422);
    expect((await send({ makeReel: true, into: 'none' })).status).toBe(422);

    const shorter = { ...montage, slots: montage.slots.slice(0, 3) };
    expect((await send({ value: shorter, version: 1 })).body).toEqual({ saved: true, version: 2, note: null });
    expect((await openReel(made.id))!.document.tracks[0]!.items).toHaveLength(3);
    expect(await stepRevision(made.id, (await openReel(made.id))!.head, 'undo')).toBe(true);
    expect((await openReel(made.id))!.document.tracks[0]!.items).toHaveLength(montage.slots.length);
    expect((await loadMontage(project, song))!.version).toBe(2);
    const late = await send({ value: montage, version: 1 });
    expect([late.status, (late.body.value as Montage).slots.length]).toEqual([409, 3]);
  });

  it('refuses with a sentence what is no montage, and changes nothing', async () => {
    const montage = begun();
    const before = await loadMontage(project, song);
    const refusals: [Partial<Montage> | { [key: string]: unknown }, RegExp][] = [
      [{ marks: [3, 1] }, /in order/],
      [{ grid: { ...montage.grid, beats: [-1, 2] } }, /in order/],
      [{ pattern: { ...montage.pattern, painted: { 0: 'often' } } }, /not known/],
      [
        {
          slots: [
            { id: crypto.randomUUID(), start: 0, end: 1 },
            { id: crypto.randomUUID(), start: 2, end: 3 },
          ],
        },
        /follow one another/,
      ],
      [
        {
          slots: [{ id: crypto.randomUUID(), start: 0, end: 1, piece: { piece: crypto.randomUUID(), sourceStart: 0 } }],
        },
        /not in the list/,
      ],
      [{ schema: 'other' }, /./],
      [{ filling: { ...montage.filling, order: 'odd' } }, /./],
    ];
    for (const [change, says] of refusals) {
      const { status, body } = await send({ value: { ...montage, ...change }, version: before!.version });
      expect(status).toBe(422);
      expect(Object.values(body.problems as Record<string, string>).join(' ')).toMatch(says);
    }
    expect((await send(null)).status).toBe(422);
    expect((await send({ value: montage, version: 0 }, crypto.randomUUID())).status).toBe(404);
    expect(await loadMontage(project, song)).toEqual(before);
    expect(await saveMontage(project, song, 99, montage)).toBeNull();
  });
});
