import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { clipsOf, mainTrack, reelFrames, type Reel } from '#core/reel';
import { rates } from '#core/time';
import { emptyVariants, tick, type VariantSet } from '#core/variants';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createBin, createProject } from '#data/projects';
import { moveToBin } from '#data/media';
import { createReel, listReels } from '#data/reels';
import { listRenders } from '#data/tasks';
import { saveNote } from './moments';
import { migrateQueue } from './queue';
import { addRead } from './testFootage';
import { makeVariants, openReels, showVariants } from './variants';

describe.skipIf(!process.env.DATABASE_URL)('variants of a project', () => {
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
  });
  afterAll(closeDatabase);
  const newId = () => crypto.randomUUID();

  /** A project with two reels, a bin with a film in it, and groups of them. */
  async function begin() {
    const { id: project } = await createProject('Variants');
    const pond = await addRead(project, 'pond.mp4');
    const bin = await createBin(project, 'Races');
    await moveToBin(project, [pond], bin.id);
    const reel = (name: string): Reel => ({
      schema: 'BrightReel.Reel.1',
      name,
      rate: rates['25'],
      size: { width: 1280, height: 720 },
      tracks: [
        {
          kind: 'picture',
          name: 'Main',
          items: [{ kind: 'clip', id: newId(), media: pond, name, sourceIn: 0, frames: 50 }],
        },
      ],
    });
    const [bow, prize] = [await createReel(project, reel('Bow')), await createReel(project, reel('Prize'))];
    const groups = [
      {
        id: newId(),
        name: 'Openings',
        parts: [
          { id: newId(), kind: 'reel' as const, reel: bow },
          { id: newId(), kind: 'footage' as const, media: pond, name: 'Start', start: 2, end: 4 },
        ],
      },
      {
        id: newId(),
        name: 'Endings',
        parts: [
          { id: newId(), kind: 'reel' as const, reel: prize },
          { id: newId(), kind: 'bin' as const, bin: bin.id },
        ],
      },
    ];
    const set: VariantSet = { ...emptyVariants, groups, order: groups.map(({ id }) => id) };
    return { project, set, reels: [bow, prize] };
  }
  const save = (project: string, value: unknown, version: number) =>
    saveNote(project, { kind: 'variants', value, version });

  it('stay as they were saved; what another window changed is not overwritten', async () => {
    const { project, set, reels } = await begin();
    expect(await save(project, set, 0)).toMatchObject({ ok: true, value: { version: 1 } });
    expect(await save(project, { ...set, pattern: '{n}' }, 0)).toMatchObject({ why: 'conflict', now: { version: 1 } });
    const shown = await showVariants(project);
    expect(shown).toMatchObject({ ok: true, value: { set: { value: set, version: 1 } } });
    if (shown.ok) expect(shown.value.documents.map(({ id }) => id).sort()).toEqual([...reels].sort());
  });
  it('what does not fit is refused with a sentence, and nothing is lost', async () => {
    const { project, set } = await begin();
    const nobody = { ...set, order: [newId()] };
    expect(await save(project, nobody, 0)).toMatchObject({ why: 'refused', sentence: 'There is no such group.' });
    const nameless = { ...set, groups: [{ ...set.groups[0]!, name: '' }] };
    expect(await save(project, nameless, 0)).toMatchObject({ why: 'refused' });
    expect(await save(project, { ...set, ticks: { all: true, but: ['<script>'] } }, 0)).toMatchObject({
      why: 'refused',
    });
    expect(await showVariants(project)).toMatchObject({ value: { set: { value: emptyVariants, version: 0 } } });
  });
  it('are made as they are ticked, named and as long as their pieces', async () => {
    const { project, set } = await begin();
    const [start, end] = [set.groups[0]!.parts[1]!.id, set.groups[1]!.parts[1]!.id];
    await save(project, tick(set, [`${start}/${end}`], false), 0);
    expect(await makeVariants(project, { version: 1, render: false, quality: 'good' })).toMatchObject({
      ok: true,
      value: { made: 3, rendered: false },
    });
    const made = new Map((await listReels(project)).map(({ document }) => [document.name, document]));
    expect([...made.keys()].sort()).toEqual(['01 Bow Prize', '02 Bow Races', '03 Start Prize', 'Bow', 'Prize']);
    expect(reelFrames(made.get('01 Bow Prize')!)).toBe(100);
    // The bin's film is whole: 60 s.
    expect(reelFrames(made.get('02 Bow Races')!)).toBe(50 + 1500);
    expect(mainTrack(made.get('03 Start Prize')!).items[0]).toMatchObject({ sourceIn: 50, frames: 50 });
    expect(new Set([...made.values()].flatMap((reel) => clipsOf(reel).map(({ id }) => id))).size).toBe(8);
    expect(await listRenders(project)).toEqual([]);
  });
  it('are rendered when that is asked for', async () => {
    const { project, set } = await begin();
    await save(project, set, 0);
    expect(await makeVariants(project, { version: 1, render: true, quality: 'draft' })).toMatchObject({
      value: { made: 4, rendered: true },
    });
    expect((await listRenders(project)).map(({ render }) => [render.name, render.quality])).toHaveLength(4);
  });
  it('are not made of nothing, of other groups than were seen, or under one name', async () => {
    const { project, set } = await begin();
    await save(project, { ...set, ticks: { all: false, but: [] } }, 0);
    const make = (version: number) => makeVariants(project, { version, render: false, quality: 'good' });
    expect(await make(1)).toMatchObject({
      why: 'refused',
      sentence: expect.stringMatching(/^Nothing is ticked/) as string,
    });
    expect(await make(0)).toMatchObject({ why: 'conflict' });
    await save(project, { ...set, pattern: 'same' }, 1);
    expect(await make(2)).toMatchObject({ why: 'refused', problems: { pattern: expect.any(String) as string } });
    expect(await listReels(project)).toHaveLength(2);
  });
  it('documents of reels are given to their own project only', async () => {
    const [one, other] = [await begin(), await begin()];
    expect(await openReels(one.project, [one.reels[0]!, other.reels[0]!, 'nonsense'])).toMatchObject([
      { id: one.reels[0] },
    ]);
  });
});
