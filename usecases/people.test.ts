import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FaceBox } from '#core/picture';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { listPeople, setPerson, showPeople } from './people';
import { addRead } from './testFootage';

const look = (person: number) => Array.from({ length: 128 }, (_, index) => (index === person ? 1 : 0));
const face = (x: number, person: number, first: boolean): FaceBox => ({
  x,
  y: 0.3,
  width: 0.1,
  height: 0.2,
  score: 0.95,
  ...(first ? { descriptor: look(person) } : {}),
});

describe.skipIf(!process.env.DATABASE_URL)('people', () => {
  let project = '';
  beforeAll(async () => {
    await migrateDatabase();
    project = (await createProject('Crew')).id;
    // Two faces: one for eight seconds, one for the last three and a half.
    const faces = Array.from({ length: 16 }, (_, index) => ({
      time: index / 2,
      boxes: [face(0.2, 0, index === 0), ...(index > 8 ? [face(0.7, 1, index === 9)] : [])],
    }));
    await addRead(project, 'crew.mp4', { durationSeconds: 8, hasSound: false }, faces);
  });
  afterAll(closeDatabase);
  const names = async () => (await listPeople(project)).map((person) => person.name);

  it('are found, named, joined, parted, hidden; what was decided stays', async () => {
    const [first, second] = await listPeople(project);
    expect([first!.name, first!.seconds, second!.name]).toEqual(['Person 1', 8, 'Person 2']);
    expect((await setPerson(project, { intent: 'name', person: first!.id, name: 'Presenter' })).ok).toBe(true);
    await setPerson(project, { intent: 'hide', person: second!.id });
    // Whoever is named beside them, somebody's number stays.
    expect(await names()).toEqual(['Presenter', 'Person 2']);
    const [presenter, other] = await listPeople(project);
    expect(other!.hidden).toBe(true);
    await setPerson(project, { intent: 'join', person: other!.id, into: presenter!.id });
    const [both, ...nobody] = await listPeople(project);
    expect([both!.name, both!.tracks.length, nobody]).toEqual(['Presenter', 2, []]);
    await setPerson(project, { intent: 'split', person: both!.id, tracks: [both!.tracks[1]!.key] });
    expect(await names()).toEqual(['Presenter', 'Person 2']);
  });

  it('keep a portrait that was chosen', async () => {
    const [presenter] = await listPeople(project);
    const media = presenter!.tracks[0]!.media;
    await setPerson(project, { intent: 'portrait', person: presenter!.id, media, time: 3 });
    expect((await listPeople(project))[0]!.portrait).toMatchObject({ media, time: 3, box: { x: 0.2 } });
  });

  it('are not joined with themselves, nor parted from all they are', async () => {
    const before = await listPeople(project);
    const { id, tracks } = before[0]!;
    await setPerson(project, { intent: 'join', person: id, into: id });
    await setPerson(project, { intent: 'split', person: id, tracks: tracks.map((track) => track.key) });
    expect(await listPeople(project)).toEqual(before);
  });

  it('say so when somebody is not there any more', async () => {
    const nobody = `auto:${crypto.randomUUID()}/9`;
    const gone = 'This person is not there any more; the list is shown anew.';
    for (const change of [
      { intent: 'name', person: nobody, name: 'x' },
      { intent: 'join', person: (await listPeople(project))[0]!.id, into: nobody },
    ])
      expect(await setPerson(project, change)).toMatchObject({ ok: false, why: 'conflict', sentence: gone });
    expect(await showPeople('0b0a7000-0000-4000-8000-00000000dead')).toMatchObject({ ok: false, why: 'missing' });
  });
});
