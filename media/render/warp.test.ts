import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { affineOf, type Size, type View } from '#core/framing';
import { decodeGray, ffmpeg, numberFilm, numbersIn, testFolder } from '../testMedia';
import { plainCoding } from '#core/picture';
import { warpFrame, warpPiece, type WarpJob } from './warp';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const size = { width: 320, height: 180 };
const whole: View = { x: 0.5, y: 0.5, width: 1, turn: 0 };
/** A soft picture as planar 4:2:0, through ffmpeg's filters. */
const picture = (filters: string, own: Size = size) =>
  new Uint8Array(
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      `gradients=s=${own.width}x${own.height}:c0=0x803020:c1=0x206080:c2=0xd0c080:nb_colors=3:seed=7`,
      '-frames:v',
      '1',
      '-vf',
      `format=yuv420p${filters}`,
      '-f',
      'rawvideo',
      '-',
    ),
  );
const through = (view: View, source = size, frame = source, blur = false, input = picture('', source)) => {
  const out = new Uint8Array((frame.width * frame.height * 3) / 2);
  warpFrame(input, source, out, frame, affineOf(view, source, frame), blur);
  return out;
};
const apart = (a: Uint8Array, b: Uint8Array) =>
  a.reduce((sum, value, index) => sum + Math.abs(value - b[index]!), 0) / a.length;

describe('a picture through a view', () => {
  it('of all of it is the picture', () => expect(through(whole)).toEqual(picture('')));
  it('of its middle half is what ffmpeg crops and scales', () => {
    expect(
      apart(through({ ...whole, width: 0.5 }), picture(',crop=160:90:80:46,scale=320:180:flags=bilinear')),
    ).toBeLessThan(0.8);
  });
  it('beside the middle is what ffmpeg crops there', () => {
    expect(
      apart(
        through({ x: 0.25, y: 0.5, width: 0.5, turn: 0 }, size, { width: 160, height: 180 }),
        picture(',crop=160:180:0:0'),
      ),
    ).toBeLessThan(0.01);
  });
  it('turned by a quarter is what ffmpeg transposes', () => {
    const square = { width: 180, height: 180 };
    expect(
      Math.min(
        ...['clock', 'cclock'].map((turn) =>
          apart(through({ ...whole, turn: Math.PI / 2 }, square), picture(`,transpose=${turn}`, square)),
        ),
      ),
    ).toBeLessThan(0.5);
  });
  it('beyond its edge it shows the edge, or a blurred copy of the picture', () => {
    const half = new Uint8Array((size.width * size.height * 3) / 2).fill(128);
    for (let y = 0; y < size.height; y++)
      half.fill(16, y * size.width, y * size.width + 160).fill(235, y * size.width + 160, (y + 1) * size.width);
    const beyond = { x: 0, y: 0.5, width: 1, turn: 0 };
    expect(through(beyond, size, size, false, half)[90 * size.width + 10]).toBe(16);
    const row = through(beyond, size, size, true, half).subarray(90 * size.width, 91 * size.width);
    // What lies left of the picture mirrors it: far out is its right half again.
    expect([row[159]! < 30, row[2]! < 120, row[161]]).toEqual([true, true, 16]);
  });
});

describe('a piece through moving views', () => {
  beforeAll(
    () => void ffmpeg(...numberFilm(25, 4), '-pix_fmt', 'yuv420p', '-g', '10', '-crf', '10', at('numbers.mp4')),
  );
  const numbers = async (name: string, over: Partial<WarpJob>) => {
    const file = at(name);
    await warpPiece(
      {
        file: at('numbers.mp4'),
        photo: false,
        sourceSeconds: 1,
        speed: 1,
        fps: '25/1',
        source: size,
        frame: size,
        views: Array.from({ length: 20 }, () => whole),
        blurBeyond: false,
        coding: plainCoding,
        ...over,
      },
      file,
    );
    return numbersIn(file);
  };
  const run = (from: number, step = 1) => Array.from({ length: 20 }, (_, index) => from + index * step);
  it('has as many frames as views, each the source’s own', async () =>
    expect(await numbers('plain.mkv', {})).toEqual(run(25)));
  it('frames before it that are decoded for a later part are dropped', async () =>
    expect(await numbers('lead.mkv', { lead: 2 })).toEqual(run(25)));
  it('runs at its speed', async () => expect(await numbers('fast.mkv', { speed: 2 })).toEqual(run(25, 2)));
  it('a held frame, and a source that ends early, are shown on', async () => {
    expect(await numbers('held.mkv', { speed: 0 })).toEqual(run(25, 0));
    expect(await numbers('early.mkv', { sourceSeconds: 3.6 })).toEqual([
      ...run(90).slice(0, 10),
      ...run(99, 0).slice(10),
    ]);
  });
  it('two views lie over one another', async () => {
    const left: View = { x: 0.25, y: 0.5, width: 0.5, turn: 0 };
    const right: View = { ...left, x: 0.75 };
    await warpPiece(
      {
        file: at('numbers.mp4'),
        photo: false,
        sourceSeconds: 1,
        speed: 1,
        fps: '25/1',
        source: size,
        frame: { width: 160, height: 360 },
        views: [left],
        below: [right],
        blurBeyond: false,
        coding: plainCoding,
      },
      at('two.mkv'),
    );
    const grey = decodeGray(at('two.mkv'), 160, 360);
    const source = decodeGray(at('numbers.mp4'), 320, 180).subarray(25 * 320 * 180, 26 * 320 * 180);
    for (const [x, y] of [
      [16, 90],
      [48, 20],
      [80, 90],
      [112, 160],
      [144, 90],
    ]) {
      expect(Math.abs(grey[y! * 160 + x!]! - source[y! * 320 + x!]!), `upper ${x}`).toBeLessThan(12);
      expect(Math.abs(grey[(y! + 180) * 160 + x!]! - source[y! * 320 + x! + 160]!), `lower ${x}`).toBeLessThan(12);
    }
  });
  it('what cannot be decoded is said', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'sine=440:d=1', at('sound.wav'));
    await expect(numbers('none.mkv', { file: at('sound.wav') })).rejects.toThrow(/could not be decoded/);
  });
});
