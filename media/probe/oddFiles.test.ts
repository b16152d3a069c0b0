import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { analyze } from '../../cli/analyze';
import { logoBox, type Clip, type Reel } from '#core/reel';
import { rates } from '#core/time';
import { probe } from './probe';
import { readMedia } from '../read/read';
import { readCoarse } from '../read/readCoarse';
import { planReading } from '../read/readPlan';
import { renderReel } from '../render/render';
import { decodeGray, ffmpeg, realPicture, testFolder } from '../testMedia';
import { layDown, withExif } from '../testMaterial';
import { Watchdog } from '../watchdog';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const problem = (file: string) =>
  probe(file).then(
    () => null,
    (error: Error) => error.message,
  );

describe('sound tracks that hold little or nothing', () => {
  beforeAll(() => {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=640x360:r=25:d=40',
      '-f',
      'lavfi',
      '-i',
      'sine=d=40',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      '-preset',
      'ultrafast',
      '-c:a',
      'aac',
      at('whole.mkv'),
    );
    // A track that is announced and has no packet, as recorders write it whose microphone was off; and one that begins late.
    ffmpeg('-i', at('whole.mkv'), '-map', '0', '-c', 'copy', '-bsf:a', 'noise=drop=1', at('silent.mkv'));
    ffmpeg('-i', at('whole.mkv'), '-map', '0', '-c', 'copy', '-bsf:a', "noise=drop='lt(pts*tb,30)'", at('late.mkv'));
  });
  it.each([
    ['silent.mkv', false],
    ['late.mkv', true],
  ])('%s is read to its end, the pictures do not wait for it', async (name, heard) => {
    expect((await probe(at(name))).hasSound).toBe(true);
    const { raw } = await readMedia(at(name), { folder: at(`${name}.read`) });
    expect(raw.traces.get('frame.mean')!.values.length).toBe(1000);
    expect([raw.hasPicture, raw.hasSound]).toEqual([true, heard]);
    // Sound that begins late lies where it is heard.
    if (heard) expect(raw.traces.get('sound.level')!.values.findIndex((level) => level > -60) / 50).toBeCloseTo(30, 0);
    expect((await readCoarse(at(name), { folder: at(`${name}.coarse`) }))!.raw.hasPicture).toBe(true);
  });
});

describe('films with long gaps between their pictures', () => {
  it('are read to their end, as screen captures need it', async () => {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=640x360:r=1/6:d=60',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      at('slides.mp4'),
    );
    const { raw } = await readMedia(at('slides.mp4'), { folder: at('slides.read') });
    expect(raw.durationSeconds).toBeCloseTo(60, 0);
    expect(raw.faces.length).toBe(120);
  });
});

describe('what makes no progress', () => {
  it('is ended, and said', async () => {
    const child = spawn('sleep', ['60']);
    const ended = new Promise((done) => child.on('close', (_, signal) => done(signal)));
    const watchdog = new Watchdog([child], 0.2);
    expect(await ended).toBe('SIGKILL');
    expect(() => watchdog.check('Reading this file')).toThrow(/Reading this file made no progress/);
  });
  it('is left alone while it gives signs of life, and ended after the last', () => {
    vi.useFakeTimers();
    const kill = vi.fn();
    const watchdog = new Watchdog([{ kill } as unknown as ChildProcess], 0.4);
    const pipe = new PassThrough();
    watchdog.watch(pipe);
    for (let sign = 0; sign < 8; sign++) {
      vi.advanceTimersByTime(300);
      pipe.push(`${sign}\n`);
    }
    expect(String(pipe.read())).toBe('0\n1\n2\n3\n4\n5\n6\n7\n');
    expect(kill).not.toHaveBeenCalled();
    expect(() => watchdog.check('x')).not.toThrow();
    vi.advanceTimersByTime(600);
    expect(kill).toHaveBeenCalledWith('SIGKILL');
    vi.useRealTimers();
  });
});

describe('files that claim more than they hold', () => {
  it('120 days in 1.5 KB are refused with a sentence, before anything is decoded', async () => {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'color=s=16x16:r=25',
      '-frames:v',
      '2',
      '-vf',
      "setpts='N*10368000/TB'",
      '-vsync',
      'vfr',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      at('days.mkv'),
    );
    expect(readFileSync(at('days.mkv')).length).toBeLessThan(3000);
    expect(await problem(at('days.mkv'))).toMatch(/says that it is \d+:\d\d:\d\d long; at most 12 hours/);
  });
  it('hours in a few bytes too; a held picture of ten minutes is fine', async () => {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'color=s=16x16:r=25',
      '-frames:v',
      '2',
      '-vf',
      "setpts='N*18000/TB'",
      '-vsync',
      'vfr',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      at('hours.mkv'),
    );
    expect(await problem(at('hours.mkv'))).toMatch(/holds only \d+ bytes. It is damaged/);
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'color=s=320x180:r=1:d=600',
      '-f',
      'lavfi',
      '-i',
      'anullsrc',
      '-shortest',
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      '-c:a',
      'aac',
      at('still.mp4'),
    );
    expect((await probe(at('still.mp4'))).durationSeconds).toBeCloseTo(600, 0);
  });
  it('more tracks than anybody records', async () => {
    ffmpeg(
      ...['-f', 'lavfi', '-i', 'sine=d=0.1', ...Array.from({ length: 130 }, () => ['-map', '0']).flat()],
      ...['-c:a', 'pcm_s16le', at('tracks.mkv')],
    );
    expect(await problem(at('tracks.mkv'))).toMatch(/holds 130 tracks; at most 128/);
  });
  it('pictures beyond all measure', async () => {
    // A PNG's header (ISO/IEC 15948, 11.2.2) with a picture of 30,000 × 30,000.
    ffmpeg('-f', 'lavfi', '-i', 'color=s=16x16', '-frames:v', '1', at('small.png'));
    const bytes = readFileSync(at('small.png'));
    bytes.writeUInt32BE(30_000, 16);
    bytes.writeUInt32BE(30_000, 20);
    writeFileSync(at('huge.png'), bytes);
    expect(await problem(at('huge.png'))).toMatch(/too large|no picture can be read/);
  });
  it('no more is read than a file can hold, whatever time a frame claims', async () => {
    const info = await probe(at('whole.mkv'));
    const { args } = planReading(at('whole.mkv'), info, folder, false);
    expect(Number(args[args.indexOf('-t') + 1])).toBeLessThan(1000);
    expect(args.indexOf('-t')).toBeLessThan(args.indexOf('-i'));
  });
});

describe('photos that lie', () => {
  const upright = at('upright.jpg');
  beforeAll(() => {
    // A gradient that tells every side from every other: dark left to bright right, with a white corner above left.
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      "color=s=320x200,format=gray,geq=lum='if(lt(X,80)*lt(Y,50),255,X/320*160+Y/200*60)'",
      '-frames:v',
      '1',
      '-q:v',
      '2',
      upright,
    );
    for (const orientation of [1, 2, 3, 4, 5, 6, 7, 8]) {
      ffmpeg('-i', upright, '-vf', layDown[orientation]!, '-q:v', '2', at('laid.jpg'));
      writeFileSync(at(`photo-${orientation}.jpg`), withExif(readFileSync(at('laid.jpg')), orientation));
    }
  });
  const apart = (a: Uint8Array, b: Uint8Array) =>
    a.reduce((sum, value, index) => sum + Math.abs(value - b[index]!), 0) / a.length;

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('are measured and shown upright: orientation %i', async (orientation) => {
    const file = at(`photo-${orientation}.jpg`);
    const info = await probe(file);
    expect(info).toMatchObject({ kind: 'photo', width: 320, height: 200, coding: { orientation } });
    const { sheets } = await readMedia(file, { folder: at(`read-${orientation}`) });
    expect(sheets!.width).toBe(144);
    const wanted = decodeGray(upright, 32, 20);
    const sheet = new Uint8Array(
      ffmpeg(
        '-i',
        at(`read-${orientation}/sheet-0001.jpg`),
        '-vf',
        `crop=${sheets!.width}:${sheets!.height}:0:0,scale=32:20:flags=area,format=gray`,
        '-f',
        'rawvideo',
        '-',
      ),
    );
    expect(apart(sheet, wanted)).toBeLessThan(6);
    // In a reel: still, moved over, and as a logo in its corner.
    const clip: Clip = { kind: 'clip', id: 'c', media: 'p', name: 'photo', sourceIn: 0, frames: 4 };
    const reel: Reel = {
      schema: 'BrightReel.Reel.1',
      name: 'x',
      rate: rates['25'],
      size: { width: 320, height: 200 },
      tracks: [
        {
          kind: 'picture',
          name: 'Main',
          items: [
            clip,
            {
              ...clip,
              id: 'd',
              move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0, y: 0, width: 1, height: 1 } },
            },
          ],
        },
      ],
    };
    const source = {
      file,
      hasPicture: true,
      hasSound: false,
      photo: true,
      width: 320,
      height: 200,
      coding: info.coding!,
    };
    const out = at(`film-${orientation}.mp4`);
    await renderReel(reel, new Map([['p', source]]), out, { size: reel.size, quality: 'best' });
    for (const second of [0, 0.24])
      expect(
        apart(
          new Uint8Array(
            ffmpeg(
              '-ss',
              String(second),
              '-i',
              out,
              '-frames:v',
              '1',
              '-vf',
              'scale=32:20:flags=area,format=gray',
              '-f',
              'rawvideo',
              '-',
            ),
          ),
          wanted,
        ),
        `at ${second}`,
      ).toBeLessThan(8);
    const logo = {
      ...reel,
      tracks: [{ ...reel.tracks[0]!, items: [{ ...clip, media: 'g' }] }],
      logo: { media: 'p', corner: 'top left' as const, size: 0.6, opacity: 1 },
    };
    ffmpeg('-f', 'lavfi', '-i', 'color=black:s=320x200', '-frames:v', '1', at('black.png'));
    await renderReel(
      logo,
      new Map([
        ['p', source],
        ['g', { ...source, file: at('black.png'), coding: (await probe(at('black.png'))).coding! }],
      ]),
      at('logo.mp4'),
      { size: reel.size, quality: 'best' },
    );
    const box = logoBox(logo.logo, { width: 320, height: 200 }, reel.size);
    const corner = new Uint8Array(
      ffmpeg(
        '-i',
        at('logo.mp4'),
        '-frames:v',
        '1',
        '-vf',
        `crop=${box.width}:${box.height}:${box.x}:${box.y},scale=8:4:flags=area,format=gray`,
        '-f',
        'rawvideo',
        '-',
      ),
    );
    expect(apart(corner, decodeGray(upright, 8, 4))).toBeLessThan(15);
  });
  it.skipIf(!existsSync(realPicture('messi5.jpg')))('faces are found in them as in upright ones', async () => {
    ffmpeg('-i', realPicture('messi5.jpg'), '-vf', 'transpose=cclock', '-q:v', '2', at('face.jpg'));
    writeFileSync(at('face-6.jpg'), withExif(readFileSync(at('face.jpg')), 6));
    const faces = async (file: string) => (await analyze(file)).faces as unknown[];
    const found = await faces(realPicture('messi5.jpg'));
    expect(found.length).toBeGreaterThan(0);
    expect((await faces(at('face-6.jpg'))).length).toBe(found.length);
    // Without the tag nobody can know it.
    rmSync(at('face-6.jpg'));
  });
  it('a HEIC photo that is damaged is called one, not a film without an index', async () => {
    // A file type box (ISO/IEC 14496-12, 4.3) of the brand "heic" and a box that no decoder knows.
    const box = (type: string, body: Buffer) => {
      const head = Buffer.alloc(8);
      head.writeUInt32BE(8 + body.length, 0);
      head.write(type, 4, 'latin1');
      return Buffer.concat([head, body]);
    };
    writeFileSync(
      at('photo.heic'),
      Buffer.concat([box('ftyp', Buffer.from('heic\0\0\0\0mif1heic', 'latin1')), box('mdat', Buffer.alloc(3000, 7))]),
    );
    expect(await problem(at('photo.heic'))).toBe(
      'This photo cannot be read. It may have been cut off while it was copied; copy it again.',
    );
  });
});
describe('a film that lies', () => {
  it('is upright in its rough first reading too', async () => {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      "color=s=180x320:r=25:d=50,format=gray,geq=lum='Y/320*220'",
      '-pix_fmt',
      'yuv420p',
      '-g',
      '25',
      '-vf',
      'transpose=cclock',
      '-preset',
      'ultrafast',
      at('flat.mp4'),
    );
    // As phones write it: the picture as the sensor saw it, and a matrix that turns it (a tag of ffmpeg 5.1, in degrees anticlockwise).
    ffmpeg('-i', at('flat.mp4'), '-c', 'copy', '-metadata:s:v:0', 'rotate=270', at('tall.mp4'));
    expect(await probe(at('tall.mp4'))).toMatchObject({ width: 180, height: 320 });
    await readCoarse(at('tall.mp4'), { folder: at('tall') });
    const [top, bottom] = ffmpeg(
      '-i',
      at('tall/sheet-0001.jpg'),
      '-vf',
      'crop=50:90:0:0,scale=1:2:flags=area,format=gray',
      '-f',
      'rawvideo',
      '-',
    );
    expect(bottom! - top!).toBeGreaterThan(60);
  });
});
