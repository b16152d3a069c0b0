import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase, migrateDatabase } from '#data/db';
import { addPreset } from '#data/presets';
import { changePreset, showPresets } from './presets';

describe.skipIf(!process.env.DATABASE_URL)('presets for files', () => {
  beforeAll(() => migrateDatabase());
  afterAll(() => closeDatabase());
  const names = async () => {
    const shown = await showPresets();
    return shown.ok ? shown.value.presets.map(({ name }) => name) : [];
  };
  const keep = (name: string, more: object = {}) =>
    changePreset({ intent: 'keep', preset: { name, format: 'mp4', quality: 'good', lines: null, ...more } });

  it('are kept, taken away and brought back, with what they make', async () => {
    const kept = await keep('Village screen', { lines: 480, quality: 'draft' });
    expect(await showPresets()).toMatchObject({
      value: {
        presets: expect.arrayContaining([
          expect.objectContaining({
            name: 'Village screen',
            coding: { format: 'mp4', quality: 'draft', lines: 480, captions: 'burnt' },
          }),
        ]) as unknown,
      },
    });
    const { id } = (kept as { value: { id: string } }).value;
    await changePreset({ intent: 'remove', id });
    expect(await names()).not.toContain('Village screen');
    await changePreset({ intent: 'restore', id });
    expect(await names()).toContain('Village screen');
  });
  it('those that were kept before captions could lie beside a film have them in the picture', async () => {
    const old = { format: 'mp4', quality: 'good', lines: 360 } as Parameters<typeof addPreset>[1];
    const id = await addPreset('As it was', old);
    const shown = await showPresets();
    expect(shown.ok && shown.value.presets.find((each) => each.id === id)!.coding.captions).toBe('burnt');
  });
  it.each([
    ['  ', {}, /1 to 60 characters/],
    ['Tall', { format: 'avi' }, /Choose a format/],
    ['Tall', { lines: 9000 }, /at most 2160/],
    ['Tall', { quality: 'any' }, /Choose a quality/],
    ['Tall', { captions: 'sung' }, /Captions are burnt in/],
  ])('%j with %j is refused with a sentence', async (name, more, sentence) => {
    const before = await names();
    expect(await keep(name, more)).toMatchObject({ ok: false, sentence: expect.stringMatching(sentence) as string });
    expect(await names()).toEqual(before);
  });
  it('two of one name, whatever the capitals, are refused', async () => {
    await keep('Shop window');
    expect(await keep('shop WINDOW')).toMatchObject({
      ok: false,
      sentence: expect.stringMatching(/already/) as string,
    });
    expect((await names()).filter((name) => name.toLowerCase() === 'shop window')).toHaveLength(1);
  });
  it.each([null, 'keep', { intent: 'keep' }, { intent: 'remove' }, { intent: 'keep', preset: 'x' }])(
    '%j is no request',
    async (given) => expect(await changePreset(given)).toMatchObject({ ok: false }),
  );
});
