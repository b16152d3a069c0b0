import { mkdirSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { describeMedia } from '../../cli/analyze';
import { readMedia } from '../read/read';
import { hasRealPictures, makeBase, material, placeIn } from '../testMaterial';
import { decodeGray, ffmpeg, testFolder } from '../testMedia';
import { keyFrameGap, playsInBrowser, probe } from './probe';
import { asShown } from './shown';

const place = placeIn(testFolder());
beforeAll(() => makeBase(place));

describe.skipIf(!hasRealPictures())('what phones, cameras, recorders and archives give', () => {
  // Pictures of each are compared in `npm run accuracy -- media`; this asks what the files are.
  it.each(
    material.filter((each) => !['8K', '240 a second'].includes(each.name)).map((each) => [each.name, each] as const),
  )('%s', async (_, each) => {
    await each.make(place);
    const info = await probe(place.at(each.file));
    const { soundTracks, frameRate, ...truth } = each.truth;
    const told = describeMedia(info);
    expect(told).toMatchObject(truth);
    if (frameRate) expect(told.frameRate).toBeCloseTo(frameRate, 6);
    if (soundTracks) expect(told.soundTracks.map(({ channels }) => ({ channels }))).toEqual(soundTracks);
    if (each.seconds) expect(Math.abs(info.durationSeconds - each.seconds)).toBeLessThan(0.1);
  });

  it.each([
    'squeezed-turned.mp4',
    'fields.mp4',
    'pq.mp4',
    'turned-5.mp4',
    'late.mkv',
    'prores.mov',
    'deep.tif',
    'lies.heic',
  ])('a browser does not show %s as it is meant, so that it gets something else', async (name) => {
    const file = place.at(name);
    const info = await probe(file);
    if (info.copied) return;
    expect(playsInBrowser(info, await keyFrameGap(file, '0'), 1e5)).toBe(false);
  });

  it('an animation stands as long as its maker said, and a photo in HEIC is opened from a copy that lies upright', async () => {
    const read = async (name: string) => {
      const folder = place.at(`${name}.read`);
      mkdirSync(folder, { recursive: true });
      const { copy, probe: info, proxy } = await readMedia(place.at(name), { folder, proxy: true });
      return { file: join(folder, copy!), info, proxy };
    };
    const film = await read('moves.webp');
    expect([film.info.kind, film.info.durationSeconds, film.proxy]).toEqual(['video', 2, false]);
    expect((await probe(film.file)).durationSeconds).toBeCloseTo(2, 1);
    const photo = await read('lies.heic');
    // JFIF begins with FF D8.
    expect((await readFile(photo.file)).subarray(0, 2).toString('hex')).toBe('ffd8');
    const [seen, truth] = [photo.file, place.at('base.png')].map((file) => decodeGray(file, 32, 18));
    expect(Math.max(...seen!.map((value, at) => Math.abs(value - truth![at]!)))).toBeLessThan(20);
  });

  it('uneven times of an animation are kept, too short ones are a tenth of a second', async () => {
    const gif = place.at('uneven.webp');
    ffmpeg('-i', place.at('moving.mkv'), '-frames:v', '3', '-loop', '0', gif);
    const bytes = await readFile(gif);
    // WebP container specification: a frame's time stands in 24 bits behind its place and size.
    const frames: number[] = [];
    for (let at = bytes.indexOf('ANMF'); at > 0; at = bytes.indexOf('ANMF', at + 4)) frames.push(at + 8 + 12);
    expect(frames).toHaveLength(3);
    frames.forEach((at, index) => bytes.writeUIntLE([400, 5, 200][index]!, at, 3));
    const uneven = place.at('uneven-times.webp');
    await writeFile(uneven, bytes);
    const info = await probe(uneven);
    expect([info.durationSeconds, info.rate]).toEqual([0.7, { num: 1000, den: 100 }]);
  });

  it('nothing is done to pictures that are as they are meant', async () => {
    const { coding } = await probe(place.at('turned-1.mp4'));
    expect(asShown(coding!)).toBe('');
  });
});
