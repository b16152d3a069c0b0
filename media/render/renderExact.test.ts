import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { lookTable, applyTable } from '#core/look';
import {
  applyCommand,
  assembleReel,
  planPictures,
  reelFrames,
  titleAt,
  titleStyle,
  type Reel,
  type ReelCommand,
  type Segment,
  type Source,
} from '#core/reel';
import { rates } from '#core/time';
import { renderReel, type RenderOptions, type RenderSource } from './render';
import { decodeGray, ffmpeg, numberFilm, numbersIn, testFolder } from '../testMedia';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const sources = new Map<string, RenderSource>();
const known = new Map<string, Source>();

/** Every frame shows its own number: ten upright bars, white where the number's bit is set. The second film counts from 512. */
beforeAll(() => {
  for (const [id, first] of [
    ['a', 0],
    ['b', 512],
  ] as const) {
    ffmpeg(
      ...numberFilm(25, 12, first),
      '-f',
      'lavfi',
      '-i',
      `sine=${id === 'a' ? 440 : 880}:d=12`,
      '-pix_fmt',
      'yuv420p',
      '-g',
      '25',
      '-crf',
      '12',
      at(`${id}.mp4`),
    );
    sources.set(id, {
      file: at(`${id}.mp4`),
      hasPicture: true,
      hasSound: true,
      photo: false,
      width: 320,
      height: 180,
      durationSeconds: 12,
    });
    known.set(id, { id, name: id, durationSeconds: 12 });
  }
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=640x480', '-frames:v', '1', at('p.png'));
  sources.set('p', { file: at('p.png'), hasPicture: true, hasSound: false, photo: true, width: 640, height: 480 });
  known.set('p', { id: 'p', name: 'p.png', durationSeconds: 0, photo: true });
  // Soft areas of colour that move a little, for looks.
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'gradients=s=320x180:r=25:d=3:c0=0x803020:c1=0x206080:c2=0xd0c080:c3=0x305030:nb_colors=4:speed=0.02:seed=4',
    '-pix_fmt',
    'yuv420p',
    '-crf',
    '8',
    at('c.mp4'),
  );
  sources.set('c', {
    file: at('c.mp4'),
    hasPicture: true,
    hasSound: false,
    photo: false,
    width: 320,
    height: 180,
    durationSeconds: 3,
  });
  known.set('c', { id: 'c', name: 'c.mp4', durationSeconds: 3 });
});

/** A: frames 50 to 99, B: 637 to 686 (its 125 to 174), C: 200 to 229. */
function start(): Reel {
  let next = 0;
  return assembleReel(
    'Numbers',
    [
      { media: 'a', start: 2, end: 4, name: 'A' },
      { media: 'b', start: 5, end: 7, name: 'B' },
      { media: 'a', start: 8, end: 9.2, name: 'C' },
    ],
    known,
    rates['25'],
    { width: 320, height: 180 },
    () => 'ABC'[next++]!,
  );
}
const edit = (reel: Reel, ...commands: ReelCommand[]): Reel =>
  commands.reduce((now, command) => {
    const result = applyCommand(now, command, known);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
let count = 0;
async function render(reel: Reel, options: Partial<RenderOptions> = {}, ending = 'mp4'): Promise<string> {
  const file = at(`out${count++}.${ending}`);
  await renderReel(reel, sources, file, { size: reel.size, ...options });
  return file;
}
/** The number that the plan wants to see. */
const wanted = (segment: Segment): number[] =>
  Array.from(
    { length: segment.frames },
    (_, frame) =>
      Math.round((segment.sourceSeconds + (frame / 25) * segment.speed) * 25) + (segment.media === 'b' ? 512 : 0),
  );
const run = (from: number, count: number) => Array.from({ length: count }, (_, index) => from + index);

describe('every cut on its exact frame', () => {
  it('after rolls, slips, trims, splits, overlays and held frames', async () => {
    const reel = edit(
      start(),
      { type: 'roll', clip: 'B', frames: 7 },
      { type: 'slip', clip: 'C', frames: -13 },
      { type: 'trim', clip: 'A', edge: 'in', frames: 11 },
      { type: 'split', clip: 'B', at: 9, newId: 'B2' },
      { type: 'hold', clip: 'B2', at: 5, frames: 6, newId: 'H' },
      { type: 'put', how: 'above', at: 20, clips: [{ id: 'O', media: 'b', name: 'over', sourceIn: 3, frames: 17 }] },
    );
    const seen = numbersIn(await render(reel));
    expect(seen).toEqual(planPictures(reel).flatMap(wanted));
    // By hand: the first piece begins at frame 50 + 11; from frame 20 on the overlay shows 512 + 3.
    expect([seen[0], seen[19], seen[20], seen[36], seen.length]).toEqual([61, 80, 515, 531, reelFrames(reel)]);
  });
  it('at other speeds each frame is the source’s at that time, to one frame', async () => {
    const reel = edit(start(), { type: 'speed', clip: 'A', percent: 200 }, { type: 'speed', clip: 'B', percent: 50 });
    const seen = numbersIn(await render(reel));
    expect(seen).toHaveLength(25 + 100 + 30);
    planPictures(reel)
      .flatMap(wanted)
      .forEach((number, frame) => expect(Math.abs(seen[frame]! - number), `frame ${frame}`).toBeLessThanOrEqual(1));
    expect(seen.slice(125)).toEqual(run(200, 30));
  });
  it('a range is the same frames of the whole', async () => {
    const reel = start();
    expect(numbersIn(await render(reel, { range: { start: 40, end: 70 } }))).toEqual([
      ...run(90, 10),
      ...run(512 + 125, 20),
    ]);
    expect(numbersIn(await render(reel, { range: { start: 60, end: 61 }, format: 'png' }, 'png'))).toEqual([512 + 135]);
  });
  it('in WebM too', async () => {
    expect(numbersIn(await render(start(), { format: 'webm', quality: 'draft' }, 'webm'))).toEqual(
      planPictures(start()).flatMap(wanted),
    );
  });
});

/** Mean of every frame, 0 to 255; of four quarters, since ffmpeg scales to a single pixel wrongly. */
const means = (file: string) => {
  const grey = decodeGray(file, 2, 2);
  return Array.from(
    { length: grey.length / 4 },
    (_, frame) => grey.slice(frame * 4, frame * 4 + 4).reduce((sum, value) => sum + value, 0) / 4,
  );
};

describe('transitions', () => {
  // Film a at frame 0 is black, b at its frame 511 + 512 white; grey says how far the picture has gone over.
  const grey = () => {
    for (const [id, colour] of [
      ['black', 'black'],
      ['white', 'white'],
    ] as const) {
      ffmpeg('-f', 'lavfi', '-i', `color=${colour}:s=320x180:r=25:d=6`, '-pix_fmt', 'yuv420p', at(`${id}.mp4`));
      sources.set(id, {
        file: at(`${id}.mp4`),
        hasPicture: true,
        hasSound: false,
        photo: false,
        width: 320,
        height: 180,
        durationSeconds: 6,
      });
      known.set(id, { id, name: id, durationSeconds: 6 });
    }
    let next = 0;
    return assembleReel(
      'Grey',
      [
        { media: 'black', start: 2, end: 3, name: 'K' },
        { media: 'white', start: 2, end: 3, name: 'W' },
      ],
      known,
      rates['25'],
      { width: 320, height: 180 },
      () => 'KW'[next++]!,
    );
  };
  it('a dissolve goes over evenly, half of it before the cut', async () => {
    const seen = means(
      await render(edit(grey(), { type: 'transition', clip: 'W', into: { kind: 'dissolve', frames: 10 } }), {
        quality: 'best',
      }),
    );
    expect(seen).toHaveLength(50);
    seen.forEach((value, frame) =>
      expect(Math.abs(value - 255 * Math.min(1, Math.max(0, (frame - 20) / 10))), `frame ${frame}`).toBeLessThan(6),
    );
  });
  it('a push and a wipe let the new picture in from the right', async () => {
    for (const kind of ['push', 'wipe'] as const) {
      const file = await render(edit(grey(), { type: 'transition', clip: 'W', into: { kind, frames: 10 } }));
      const row = decodeGray(file, 20, 1).slice(25 * 20, 26 * 20);
      expect([row[2]! < 20, row[17]! > 235], kind).toEqual([true, true]);
      expect(Math.abs(means(file)[25]! - 127)).toBeLessThan(16);
    }
  });
  it('a dip goes to its colour at the cut', async () => {
    const seen = means(
      await render(edit(grey(), { type: 'transition', clip: 'W', into: { kind: 'black', frames: 20 } })),
    );
    expect([seen[25]! < 5, seen[30]! > 100 && seen[30]! < 155, seen[36]! > 250]).toEqual([true, true, true]);
  });
  it('fades from and to black', async () => {
    const seen = means(
      await render(
        edit(
          grey(),
          { type: 'fade', clip: 'W', edge: 'in', frames: 10 },
          { type: 'fade', clip: 'W', edge: 'out', frames: 10 },
        ),
      ),
    );
    expect([
      seen[25]! < 5,
      Math.abs(seen[30]! - 127) < 8,
      seen[38]! > 250,
      Math.abs(seen[45]! - 127) < 8,
      seen[49]! < 30,
    ]).toEqual([true, true, true, true, true]);
  });
});

describe('looks', () => {
  it('the file has the colours that the screen shows: mean difference under 2 %', async () => {
    let next = 0;
    const reel = assembleReel(
      'Looks',
      [{ media: 'c', start: 0, end: 1, name: 'C' }],
      known,
      rates['25'],
      { width: 320, height: 180 },
      () => `L${next++}`,
    );
    for (const look of [
      { exposure: 0.2, contrast: 0.4, saturation: 0.5, temperature: 0.4 },
      { exposure: 0, contrast: 0, saturation: 0, temperature: 0, named: 'Ember' },
      { exposure: -0.2, contrast: -0.3, saturation: -0.6, temperature: -0.5, named: 'Dusk' },
    ]) {
      const rgba = (file: string) =>
        new Uint8ClampedArray(ffmpeg('-i', file, '-frames:v', '1', '-vf', 'format=rgba', '-f', 'rawvideo', '-'));
      const screen = rgba(at('c.mp4'));
      applyTable(lookTable(look), screen);
      const file = rgba(await render(edit(reel, { type: 'look', clip: null, look }), { quality: 'best' }));
      let difference = 0;
      for (let index = 0; index < file.length; index++) difference += Math.abs(file[index]! - screen[index]!);
      expect(difference / (file.length * 0.75) / 255).toBeLessThan(0.02);
    }
  });
});

describe('photos, shapes and titles', () => {
  let next = 0;
  const stillReel = (size = { width: 320, height: 180 }) =>
    assembleReel('Photo', [{ media: 'p', start: 0, end: 1, name: 'P' }], known, rates['25'], size, () => `P${next++}`);
  it('a slow move has every frame, begins with the whole and ends near', async () => {
    const reel = stillReel();
    const clip = reel.tracks[0]!.items[0]!.id;
    const file = await render(
      edit(reel, {
        type: 'stillMove',
        clip,
        move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 } },
      }),
    );
    const frames = decodeGray(file, 320, 180);
    expect(frames.length).toBe(25 * 320 * 180);
    // The last frame is the middle of the photo at twice the size.
    const middle = new Uint8Array(
      ffmpeg('-i', at('p.png'), '-vf', 'crop=320:180:160:150,format=gray', '-f', 'rawvideo', '-'),
    );
    const last = frames.slice(24 * 320 * 180);
    const difference = last.reduce((sum, value, index) => sum + Math.abs(value - middle[index]!), 0) / last.length;
    expect(difference).toBeLessThan(6);
  });
  it('a moving photo goes over into footage: pieces made beforehand have the time base of all others', async () => {
    const reel = assembleReel(
      'Both',
      [
        { media: 'p', start: 0, end: 1, name: 'P' },
        { media: 'a', start: 4, end: 5, name: 'A' },
      ],
      known,
      rates['25'],
      { width: 320, height: 180 },
      () => `Q${next++}`,
    );
    const [photo, film] = reel.tracks[0]!.items.map((item) => item.id);
    const moved = edit(
      reel,
      {
        type: 'stillMove',
        clip: photo!,
        move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.3, y: 0.3, width: 0.5, height: 0.5 } },
      },
      { type: 'transition', clip: film!, into: { kind: 'dissolve', frames: 10 } },
    );
    const seen = numbersIn(await render(moved));
    expect(seen).toHaveLength(50);
    expect(seen.slice(30)).toEqual(run(105, 20));
  });
  it('fills, fits over a blurred copy, or shows bars', async () => {
    const corner = async (fit: 'fill' | 'blur' | 'bars') =>
      decodeGray(await render(edit(stillReel(), { type: 'fit', clip: null, fit })), 32, 18)[9 * 32]!;
    const [fill, blur, bars] = [await corner('fill'), await corner('blur'), await corner('bars')];
    expect(bars).toBeLessThan(3);
    expect(fill).toBeGreaterThan(20);
    expect(blur).toBeGreaterThan(10);
  });
  it.each([
    [5, 25],
    [60, 90],
  ])('a title stands at its frames and nowhere else: from frame %i on', async (from, frames) => {
    const still = () =>
      assembleReel(
        'Photo',
        [{ media: 'p', start: 0, end: frames / 25, name: 'P' }],
        known,
        rates['25'],
        { width: 640, height: 360 },
        () => `P${next++}`,
      );
    const reel = edit(still(), {
      type: 'title',
      title: { id: 't', kind: 'lower', frame: from, frames: 15, text: 'Cardboard boats' },
    });
    const plain = decodeGray(await render(still()), 64, 36);
    const titled = decodeGray(await render(reel), 64, 36);
    const changed = Array.from({ length: frames }, (_, frame) => {
      let sum = 0;
      for (let index = frame * 64 * 36; index < (frame + 1) * 64 * 36; index++)
        sum += Math.abs(plain[index]! - titled[index]!);
      return sum / (64 * 36);
    });
    const opacity = changed.map((_, frame) =>
      frame >= from && frame < from + 15
        ? titleAt(reel.titles![0]!, titleStyle(reel), frame - from, reel.rate, reel.size).opacity
        : 0,
    );
    const whole = changed[from + 7]!;
    expect(whole).toBeGreaterThan(1);
    changed.forEach((value, frame) =>
      expect(Math.abs(value / whole - opacity[frame]!), `frame ${frame}`).toBeLessThan(0.08),
    );
  });
});
