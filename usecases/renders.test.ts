import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assembleReel, type Source } from '#core/reel';
import { rates } from '#core/time';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { createReel, openReel } from '#data/reels';
import { listRenders } from '#data/tasks';
import { migrateQueue } from './queue';
import { forgetRender, renderAgain, renderReel, renderReels } from './renders';

const known = new Map<string, Source>([['a', { id: 'a', name: 'a', durationSeconds: 60 }]]);
const media = 'a';

describe.skipIf(!process.env.DATABASE_URL)('renders that are asked for', () => {
  let project = '';
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
  });
  afterAll(() => closeDatabase());
  /** Three pieces of 2, 3 and 4 s in a project of their own. */
  const reelNamed = async (name: string, pieces = [2, 3, 4]) => {
    let at = 0;
    const reel = assembleReel(
      name,
      pieces.map((length, index) => ({
        media,
        start: at,
        end: (at += length),
        name: ['Launch', 'Paddle', 'Finish'][index]!,
      })),
      known,
      rates['25'],
      { width: 1280, height: 720 },
      () => crypto.randomUUID(),
    );
    return (await openReel(await createReel(project, reel)))!;
  };
  interface Asked {
    files?: object[];
    pieces?: boolean;
    pattern?: string;
  }
  const film = { format: 'mp4', quality: 'good' };
  const ask = async (values: Asked, name = 'Pond') => {
    project = (await createProject(name)).id;
    const reel = await reelNamed(name, name === 'Empty' ? [] : undefined);
    const answer = await renderReel(project, reel.id, { files: [film], ...values });
    return {
      problem: answer.ok ? null : answer.sentence,
      renders: (await listRenders(project))
        .map(({ render, task }) => ({ ...render, task }))
        .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
    };
  };

  it('the whole reel, at its own size or with other lines', async () => {
    const own = await ask({});
    expect(own.renders).toMatchObject([
      { name: 'Pond', width: 1280, height: 720, seconds: 9, range: null, format: 'mp4', quality: 'good' },
    ]);
    expect(own.renders[0]!.task).toMatchObject({ kind: 'render', state: 'queued', subject: own.renders[0]!.id });
    expect((await ask({ files: [{ format: 'webm', lines: 1080 }] })).renders).toMatchObject([
      { width: 1920, height: 1080, format: 'webm' },
    ]);
  });
  it('a range of it, and every piece as a file named by a pattern', async () => {
    expect((await ask({ files: [{ ...film, from: 50, to: 125 }] })).renders).toMatchObject([
      { range: { start: 50, end: 125 }, seconds: 3 },
    ]);
    expect(
      (await ask({ pieces: true, pattern: '{n} {title}' })).renders.map(({ name, range, seconds }) => [
        name,
        range,
        seconds,
      ]),
    ).toEqual([
      ['01 Launch', { start: 0, end: 50 }, 2],
      ['02 Paddle', { start: 50, end: 125 }, 3],
      ['03 Finish', { start: 125, end: 225 }, 4],
    ]);
  });
  it('several files at once, told apart by what they are for; a picture is one frame of it', async () => {
    const files = [
      { ...film, purpose: 'Master', quality: 'best' },
      { ...film, purpose: 'Proof', quality: 'draft', lines: 480 },
      { format: 'png', purpose: 'Picture', from: 60, to: 61 },
    ];
    expect((await ask({ files, pattern: '{reel}, {for}' })).renders).toMatchObject([
      { name: 'Pond, Master', height: 720, quality: 'best', range: null },
      { name: 'Pond, Picture', format: 'png', range: { start: 60, end: 61 } },
      { name: 'Pond, Proof', width: 854, height: 480, quality: 'draft' },
    ]);
    const { renders } = await ask({ files, pieces: true, pattern: '{n} {for}' });
    expect(renders.map(({ name }) => name)).toEqual([
      '01 Master',
      '01 Picture',
      '01 Proof',
      '02 Master',
      '02 Proof',
      '03 Master',
      '03 Proof',
    ]);
  });
  it.each([
    [{ files: [{ ...film, from: 125, to: 100 }] }, /range holds no frame/, 'Pond'],
    [{}, /empty/, 'Empty'],
    [{ files: [{ format: 'avi' }] }, /Choose a format/, 'Pond'],
    [{ files: [film, { format: 'mp4', quality: 'draft' }] }, /Two files would be called “Pond.mp4”.*\{for\}/, 'Pond'],
    [{ files: [film, { ...film, lines: 60 }], pattern: '{for}' }, /at least 90 lines/, 'Pond'],
    [{ files: [] }, /Choose what is to be made/, 'Pond'],
    [{ files: 'all' as unknown as object[] }, /Choose what is to be made/, 'Pond'],
    [{ pattern: ' ' }, /1 to 120 characters/, 'Pond'],
  ])('%j is refused with a sentence and nothing is queued', async (values, sentence, name) => {
    const { problem, renders } = await ask(values, name);
    expect(problem).toMatch(sentence);
    expect(renders).toEqual([]);
  });

  it('shorts together: numbered, in another shape, never two of one name', async () => {
    project = (await createProject('Shorts')).id;
    const [one, two] = [await reelNamed('Dry feet'), await reelNamed('Dry feet')];
    const said = await renderReels(project, [one.id, two.id], {
      shape: null,
      lines: null,
      quality: 'good',
      pattern: '{title}',
    });
    expect(said).toMatchObject({
      ok: false,
      sentence: expect.stringMatching(/Two files would be called “Dry feet/) as string,
    });
    expect(await listRenders(project)).toEqual([]);
    await renderReels(project, [one.id, two.id], {
      shape: '9:16',
      lines: 1080,
      quality: 'draft',
      pattern: '{n} {title}',
    });
    const renders = (await listRenders(project)).map(({ render }) => render);
    expect(renders.map(({ name, width, height, quality }) => [name, width, height, quality]).sort()).toEqual([
      ['01 Dry feet', 1080, 1920, 'draft'],
      ['02 Dry feet', 1080, 1920, 'draft'],
    ]);
    const gone = await renderReels(project, [crypto.randomUUID()], {
      shape: null,
      lines: null,
      quality: 'good',
      pattern: '{n}',
    });
    expect(gone).toMatchObject({ ok: false, sentence: expect.stringMatching(/not there any more/) as string });
  });
  it('of a project that is none, nothing is forgotten or made again', async () => {
    const id = crypto.randomUUID();
    expect(await forgetRender('0.1', id)).toMatchObject({ ok: true });
    expect(await renderAgain('0.1', id)).toMatchObject({ ok: false, why: 'missing' });
  });
});
