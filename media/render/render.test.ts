import { existsSync, readFileSync, rmSync } from 'node:fs';
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { assembleReel, type Reel, type Source } from '#core/reel';
import { rates, type Rate } from '#core/time';
import { renderReel, type RenderSource } from './render';
import { decodeMono, ffmpeg, testFolder } from '../testMedia';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const sources = new Map<string, RenderSource>();
const known = new Map<string, Source>();

/** A flash of 2 frames and a beep of 66 ms at the same moment, once a second from 0.4 s on, where both rates have a frame; a steady low tone below. */
beforeAll(() => {
  for (const [id, rate] of [
    ['flash30', '30'],
    ['flash25', '25'],
  ] as const) {
    const file = at(`${id}.mp4`);
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      `color=black:s=320x180:r=${rate}:d=12,drawbox=c=white:t=fill:enable='lt(mod(t+0.6\\,1)\\,0.066)'`,
      '-f',
      'lavfi',
      '-i',
      `aevalsrc='0.8*sin(2*PI*1000*t)*lt(mod(t+0.6\\,1)\\,0.066)':s=48000:d=12`,
      '-pix_fmt',
      'yuv420p',
      '-g',
      '50',
      '-c:a',
      'aac',
      '-b:a',
      '192k',
      file,
    );
    sources.set(id, { file, hasPicture: true, hasSound: true, photo: false });
    known.set(id, { id, name: id, durationSeconds: 12 });
  }
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30:d=3', '-pix_fmt', 'yuv420p', at('mute.mp4'));
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=400x300', '-frames:v', '1', at('photo.png'));
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'color=gray:s=320x180:r=30:d=12',
    '-f',
    'lavfi',
    '-i',
    'sine=220:d=12',
    '-pix_fmt',
    'yuv420p',
    at('tone.mp4'),
  );
  for (const [id, file] of [
    ['mute', 'mute.mp4'],
    ['photo', 'photo.png'],
    ['tone', 'tone.mp4'],
  ] as const) {
    sources.set(id, { file: at(file), hasPicture: true, hasSound: id === 'tone', photo: id === 'photo' });
    known.set(id, {
      id,
      name: id,
      durationSeconds: id === 'mute' ? 3 : id === 'photo' ? 0 : 12,
      photo: id === 'photo',
    });
  }
});

let next = 0;
const reelOf = (rate: Rate, ...pieces: [media: string, start: number, end: number][]): Reel =>
  assembleReel(
    'Test',
    pieces.map(([media, start, end]) => ({ media, start, end, name: media })),
    known,
    rate,
    { width: 320, height: 180 },
    () => String(next++),
  );
const render = async (reel: Reel, name: string) => {
  const file = at(name);
  await renderReel(reel, sources, file, { size: reel.size });
  return file;
};
const probe = (file: string, entries: string) =>
  execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_entries', entries, '-of', 'json', file]).toString();

/** Seconds at which frames turn white and at which the beep begins. */
function events(file: string, rate: number): { flashes: number[]; beeps: number[] } {
  const grey = new Uint8Array(ffmpeg('-i', file, '-vf', 'scale=1:1:flags=area,format=gray', '-f', 'rawvideo', '-'));
  const sound = decodeMono(file, 48000);
  const flashes = [...grey.keys()]
    .filter((index) => grey[index]! > 128 && !(grey[index - 1]! > 128))
    .map((index) => index / rate);
  const beeps: number[] = [];
  for (let index = 0, quiet = 9999; index < sound.length; index++) {
    if (Math.abs(sound[index]!) < 0.08) quiet++;
    else {
      if (quiet > 9600) beeps.push(index / 48000);
      quiet = 0;
    }
  }
  return { flashes, beeps };
}

describe('render', () => {
  it.each([
    ['30', rates['30'], 30],
    ['29.97', rates['29.97'], 30000 / 1001],
    ['25', rates['25'], 25],
  ] as const)('flash and beep stay within 20 ms of each other at %s', async (name, rate, fps) => {
    const reel = reelOf(
      rate,
      ['flash30', 1.2, 4.1],
      ['flash25', 3.3, 5.9],
      ['flash30', 7.77, 10.3],
      ['flash25', 0.1, 2.2],
    );
    const { flashes, beeps } = events(await render(reel, `sync-${name}.mp4`), fps);
    expect(flashes.length).toBeGreaterThan(8);
    expect(beeps.length).toBe(flashes.length);
    for (const [index, flash] of flashes.entries()) {
      // A source of another rate places its flash on the nearest frame of the reel: half a frame is the reel's own grain.
      expect(Math.abs(flash - beeps[index]!), `flash ${index}`).toBeLessThan(0.0201);
    }
  });

  it('has exactly the planned frames and the length of them', async () => {
    const reel = reelOf(rates['29.97'], ['flash30', 0, 2.5], ['mute', 1, 3], ['photo', 0, 1.5], ['flash25', 11, 12]);
    const frames = reel.tracks[0]!.items.reduce((sum, clip) => sum + clip.frames, 0);
    const file = await render(reel, 'length.mp4');
    const { streams, format } = JSON.parse(
      probe(file, 'stream=codec_name,profile,pix_fmt,nb_read_frames,sample_rate,channels:format=duration'),
    ) as { streams: Record<string, string>[]; format: { duration: string } };
    expect(streams[0]).toMatchObject({
      codec_name: 'h264',
      profile: 'High',
      pix_fmt: 'yuv420p',
      nb_read_frames: String(frames),
    });
    expect(streams[1]).toMatchObject({ codec_name: 'aac', sample_rate: '48000', channels: 2 });
    expect(Math.abs(Number(format.duration) - (frames * 1001) / 30000)).toBeLessThan(1001 / 30000);
  });

  it('a picture above covers exactly its frames while the main sound goes on; a gap is black and silent', async () => {
    // Main: the gray film with its tone, a gap of ten frames, the tone again; above, five white frames from frame 20 on.
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'color=white:s=320x180:r=30:d=2',
      '-f',
      'lavfi',
      '-i',
      'sine=880:d=2',
      '-pix_fmt',
      'yuv420p',
      at('white.mp4'),
    );
    sources.set('white', { file: at('white.mp4'), hasPicture: true, hasSound: true, photo: false });
    const reel = reelOf(rates['30'], ['tone', 1, 2], ['tone', 5, 6]);
    const [one, two] = reel.tracks[0]!.items;
    reel.tracks[0]!.items = [one!, { kind: 'gap', id: 'gap', frames: 10 }, two!];
    reel.tracks.push({
      kind: 'picture',
      name: 'Above 1',
      items: [
        { kind: 'gap', id: 'lead', frames: 20 },
        { kind: 'clip', id: 'over', media: 'white', name: 'white', sourceIn: 12, frames: 5 },
      ],
    });
    const file = await render(reel, 'above.mp4');
    const grey = new Uint8Array(ffmpeg('-i', file, '-vf', 'scale=1:1:flags=area,format=gray', '-f', 'rawvideo', '-'));
    expect(grey.length).toBe(70);
    const kinds = [...grey].map((value) => (value > 220 ? 'w' : value < 25 ? 'b' : 'g')).join('');
    expect(kinds).toBe(`${'g'.repeat(20)}wwwww${'g'.repeat(5)}${'b'.repeat(10)}${'g'.repeat(30)}`);
    const sound = decodeMono(file, 48000);
    const level = (from: number, to: number) =>
      Math.sqrt(
        sound.subarray((from / 30) * 48000, (to / 30) * 48000).reduce((sum, value) => sum + value * value, 0) /
          (((to - from) / 30) * 48000),
      );
    expect(level(20, 25) / level(5, 15)).toBeCloseTo(1, 1);
    expect(level(32, 38)).toBeLessThan(0.002);
    // The tone of the piece above (880 Hz) is not heard: the sound under it crosses zero as often as 220 Hz does.
    const under = sound.subarray((20 / 30) * 48000, (25 / 30) * 48000);
    expect(
      [...under.keys()].filter((index) => index && under[index]! >= 0 !== under[index - 1]! >= 0).length,
    ).toBeLessThan(80);
  });

  it('puts the index first, so that playing can begin before all has arrived', async () => {
    const bytes = readFileSync(await render(reelOf(rates['30'], ['flash30', 0, 1]), 'fast.mp4'));
    expect(bytes.indexOf('moov')).toBeLessThan(bytes.indexOf('mdat'));
  });

  it('fades at every sound cut: no step larger than the tone itself makes', async () => {
    const sound = decodeMono(
      await render(reelOf(rates['30'], ['tone', 0.111, 2], ['tone', 5.3337, 7], ['tone', 9.2, 10]), 'clicks.mp4'),
      48000,
    );
    const cut = Math.round((57 / 30) * 48000);
    let edge = 0;
    let usual = 0;
    for (let index = 24000; index < 48000; index++)
      usual = Math.max(usual, Math.abs(sound[index]! - sound[index - 1]!));
    for (let index = cut - 960; index < cut + 960; index++)
      edge = Math.max(edge, Math.abs(sound[index]! - sound[index - 1]!));
    expect(edge).toBeLessThan(usual * 1.1);
    expect(Math.max(...sound.subarray(cut - 30, cut + 30).map(Math.abs))).toBeLessThan(0.03);
  });

  it('gives the same bytes for the same reel', async () => {
    const reel = reelOf(rates['30'], ['flash30', 0, 1], ['photo', 0, 0.5]);
    expect(readFileSync(await render(reel, 'one.mp4')).equals(readFileSync(await render(reel, 'two.mp4')))).toBe(true);
  });

  it('says which footage is missing, and leaves no half file', async () => {
    const reel = reelOf(rates['30'], ['flash30', 0, 1]);
    const gone = new Map([['flash30', { ...sources.get('flash30')!, file: at('gone.mp4') }]]);
    await expect(renderReel(reel, gone, at('never.mp4'), { size: reel.size })).rejects.toThrow(
      /footage of “flash30” is missing/,
    );
    await expect(renderReel(reelOf(rates['30']), sources, at('never.mp4'), { size: reel.size })).rejects.toThrow(
      /empty/,
    );
    expect(existsSync(at('never.mp4'))).toBe(false);
  });

  it('stops when asked, and leaves nothing behind', async () => {
    const reel = reelOf(rates['30'], ...Array.from({ length: 30 }, (): [string, number, number] => ['flash30', 0, 12]));
    const stop = new AbortController();
    const running = renderReel(reel, sources, at('stopped.mp4'), {
      size: { width: 1920, height: 1080 },
      signal: stop.signal,
      onProgress: () => stop.abort(),
    });
    await expect(running).rejects.toThrow(/Cancelled/);
    expect(existsSync(at('stopped.mp4'))).toBe(false);
    expect(existsSync(at('stopped.mp4.part.mp4'))).toBe(false);
    rmSync(folder, { recursive: true, force: true });
  });
});
