import type { Framing } from '#core/framing';
import { mkdtempSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCanvas, loadImage, type Image } from '@napi-rs/canvas';
import { beforeAll, describe, expect, it } from 'vitest';
import { lookTable } from '#core/look';
import {
  applyCommand,
  assembleReel,
  planPictures,
  segmentAt,
  type Reel,
  type ReelCommand,
  type Source,
} from '#core/reel';
import { rates } from '#core/time';
import { probe } from '#media/probe/probe';
import { renderReel, type RenderSource } from '#media/render/render';
import { Composer, type Scene } from './compose';

/** What the screen shows and what ffmpeg makes of the same reel, frame against frame. */
const folder = mkdtempSync(join(tmpdir(), 'bright-reel-compose-'));
const size = { width: 320, height: 180 };
const images = new Map<string, Image>();
const sources = new Map<string, RenderSource>();
const known = new Map<string, Source>();

beforeAll(async () => {
  // The two things of a browser that drawing needs.
  Object.assign(globalThis, { document: { createElement: () => createCanvas(1, 1), fonts: { status: 'loaded' } } });
  for (const [id, filter, width, height] of [
    ['warm', 'gradients=s=640x360:c0=0xd08040:c1=0x602010:c2=0xf0d090:nb_colors=3:seed=2', 640, 360],
    ['cool', 'gradients=s=640x360:c0=0x2060a0:c1=0x80c0d0:c2=0x103040:nb_colors=3:seed=5', 640, 360],
    ['tall', 'gradients=s=240x320:c0=0x40a060:c1=0xe0e0a0:nb_colors=2:seed=3', 240, 320],
  ] as const) {
    const file = join(folder, `${id}.png`);
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', filter, '-frames:v', '1', file]);
    images.set(id, await loadImage(file));
    const coding = (await probe(file)).coding!;
    sources.set(id, { file, hasPicture: true, hasSound: false, photo: true, width, height, coding });
    known.set(id, { id, name: id, durationSeconds: 0, photo: true });
  }
  // A film that stands still, so that only the crop moves.
  const film = join(folder, 'wide.mp4');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-f',
    'lavfi',
    '-i',
    'gradients=s=640x360:c0=0xd04060:c1=0x2080a0:c2=0xf0d090:c3=0x203010:nb_colors=4:seed=7',
    '-f',
    'lavfi',
    '-i',
    'sine=300:d=2',
    '-vf',
    'select=eq(n\\,0),drawgrid=w=64:h=60:t=4:c=white@0.8,loop=loop=-1:size=1,fps=25,trim=end_frame=50',
    '-pix_fmt',
    'yuv420p',
    '-crf',
    '8',
    '-t',
    '2',
    film,
  ]);
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', film, '-frames:v', '1', join(folder, 'wide.png')]);
  images.set('wide', await loadImage(join(folder, 'wide.png')));
  sources.set('wide', {
    file: film,
    hasPicture: true,
    hasSound: true,
    photo: false,
    width: 640,
    height: 360,
    durationSeconds: 2,
    coding: (await probe(film)).coding!,
  });
  known.set('wide', { id: 'wide', name: 'wide', durationSeconds: 2 });
});

function reelOf(pieces: string[], ...commands: ReelCommand[]): Reel {
  let next = 0;
  const reel = assembleReel(
    'Compose',
    pieces.map((media) => ({ media, start: 0, end: 1, name: media })),
    known,
    rates['25'],
    size,
    () => `c${next++}`,
  );
  return commands.reduce((now, command) => {
    const result = applyCommand(now, command, known);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
}

const sceneOf = (reel: Reel): Scene => ({
  quick: false,
  reel,
  isMissing: () => false,
  viewOf: () => null,
  captions: [],
  logo: null,
  pictureOf: (leaf) => {
    const image = images.get(leaf.media!)!;
    return { image: image as unknown as CanvasImageSource, width: image.width, height: image.height };
  },
  tableOf: (leaf) => {
    const look = leaf.clip?.look ?? reel.look;
    return look ? lookTable(look) : null;
  },
});

/** Largest mean difference of a frame between screen and file, 0 to 1. */
async function difference(reel: Reel, frames: number[], shape = size, shown = reel): Promise<number> {
  const file = join(folder, `${Math.random()}.mp4`);
  await renderReel(reel, sources, file, { size: shape, quality: 'best' });
  // As players decode what is marked as BT.709.
  const colours = 'scale=in_color_matrix=bt709:in_range=tv:flags=bicubic+accurate_rnd+full_chroma_int,format=rgba';
  const decoded = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-vf', colours, '-f', 'rawvideo', '-'], {
    maxBuffer: 1 << 28,
  });
  const plan = planPictures(shown);
  const composer = new Composer();
  const canvas = createCanvas(shape.width, shape.height);
  let most = 0;
  for (const frame of frames) {
    const segment = plan[segmentAt(plan, (frame + 0.5) / 25)]!;
    composer.draw(canvas as unknown as HTMLCanvasElement, segment, frame - segment.startFrame, sceneOf(shown));
    const drawn = canvas.getContext('2d').getImageData(0, 0, shape.width, shape.height).data;
    let sum = 0;
    const offset = frame * drawn.length;
    for (let index = 0; index < drawn.length; index++)
      if (index % 4 < 3) sum += Math.abs(drawn[index]! - decoded[offset + index]!);
    most = Math.max(most, sum / (drawn.length * 0.75) / 255);
  }
  return most;
}

describe('screen and file show the same, to 2 % of mean colour', () => {
  it.each(['dissolve', 'push', 'wipe', 'black', 'white'] as const)('over a %s', async (kind) => {
    expect(
      await difference(
        reelOf(['warm', 'cool'], { type: 'transition', clip: 'c1', into: { kind, frames: 20 } }),
        [0, 14, 16, 20, 24, 26, 30, 34, 36, 49],
      ),
    ).toBeLessThan(0.02);
  });
  it('with looks, of the reel and of a piece', async () => {
    expect(
      await difference(
        reelOf(
          ['warm', 'cool'],
          { type: 'look', clip: null, look: { exposure: 0.1, contrast: 0.3, saturation: 0.3, temperature: 0.2 } },
          { type: 'look', clip: 'c1', look: { exposure: 0, contrast: 0, saturation: 0, temperature: 0, named: 'Tin' } },
        ),
        [0, 30],
      ),
    ).toBeLessThan(0.02);
  });
  it.each(['fill', 'bars', 'blur'] as const)('another shape, %s', async (fit) => {
    expect(await difference(reelOf(['tall'], { type: 'fit', clip: null, fit }), [0, 12])).toBeLessThan(
      fit === 'blur' ? 0.04 : 0.02,
    );
  });
  it('a slow move over a photo', async () => {
    expect(
      await difference(
        reelOf(['warm'], {
          type: 'stillMove',
          clip: 'c0',
          move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.4, y: 0.1, width: 0.5, height: 0.5 } },
        }),
        [0, 6, 12, 18, 24],
      ),
    ).toBeLessThan(0.02);
  });
  it('fades, and titles of every theme’s kind as they come and stand', async () => {
    const title = {
      type: 'title',
      title: { id: 't', kind: 'lower', frame: 2, frames: 40, text: 'Boat seven', sub: 'made of two fridges' },
    } as const;
    for (const theme of ['Landing stage', 'Brass band', 'Lantern night']) {
      const reel = reelOf(
        ['warm', 'cool'],
        { type: 'theme', theme },
        { type: 'fade', clip: 'c1', edge: 'out', frames: 10 },
        title,
      );
      expect(await difference(reel, [1, 4, 7, 16, 40, 46]), theme).toBeLessThan(0.025);
    }
  });
  const tall = { width: 180, height: 320 };
  const cropped = (framing: Partial<Framing>) => ({
    ...reelOf(
      ['wide'],
      { type: 'fit', clip: null, fit: 'fill' },
      {
        type: 'framing',
        framings: [{ clip: 'c0', framing: { subject: 'auto', zoom: 1, keys: [], path: [[0, 0.5, 0.5]], ...framing } }],
      },
    ),
    size: tall,
  });
  it('a crop that stands still, one that moves, one that comes close, one that jumps at a cut', async () => {
    expect(await difference(cropped({ path: [[0, 0.3, 0.5]] }), [0, 12, 24], tall)).toBeLessThan(0.02);
    expect(
      await difference(
        cropped({
          path: [
            [0, 0.2, 0.5],
            [0.3, 0.2, 0.5],
            [1, 0.8, 0.5],
          ],
        }),
        [0, 5, 8, 12, 18, 24],
        tall,
      ),
    ).toBeLessThan(0.02);
    expect(
      await difference(
        cropped({
          zoom: 2,
          path: [
            [0, 0.3, 0.4],
            [1, 0.6, 0.6],
          ],
        }),
        [0, 12, 24],
        tall,
      ),
    ).toBeLessThan(0.02);
    expect(
      await difference(
        cropped({
          path: [
            [0, 0.2, 0.5],
            [0.392, 0.2, 0.5],
            [0.392, 0.8, 0.5],
            [1, 0.8, 0.5],
          ],
        }),
        [0, 9, 10, 11, 20],
        tall,
      ),
    ).toBeLessThan(0.02);
  });
  it('a crop that is off by a twentieth of the picture would be noticed', async () => {
    const reel = cropped({ path: [[0, 0.3, 0.5]] });
    const off = {
      ...reel,
      tracks: [
        {
          ...reel.tracks[0]!,
          items: reel.tracks[0]!.items.map((item) =>
            item.kind === 'clip'
              ? { ...item, framing: { ...item.framing!, path: [[0, 0.35, 0.5] as [number, number, number]] } }
              : item,
          ),
        },
      ],
    };
    expect(await difference(reel, [5], tall, off)).toBeGreaterThan(0.04);
  });
  it('two pictures over one another', async () =>
    expect(
      await difference(
        cropped({
          subject: 'stack',
          path: [[0, 0.25, 0.5]],
          below: [
            [0, 0.5, 0.5],
            [1, 0.75, 0.5],
          ],
        }),
        [0, 12, 24],
        tall,
      ),
    ).toBeLessThan(0.02));
});
