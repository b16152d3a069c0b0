import { join } from 'node:path';
import { mkdtempSync, readdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { beforeAll, describe, expect, it } from 'vitest';
import { reelFrames, type Clip, type Reel } from '#core/reel';
import { rates } from '#core/time';
import { Cancelled, MediaError } from '../process';
import { renderReel, soundArguments, type RenderSource } from './render';
import { soundBlocks } from './renderSound';
import { explainRenderFailure, runFfmpeg } from '../runFfmpeg';
import { decodeMono, ffmpeg, numberFilm, numbersIn, testFolder } from '../testMedia';

const folder = testFolder();
const at = (name: string) => join(folder, name);
/** Every frame shows its number, and sounds as loud as that number is large. */
const source: RenderSource = {
  file: at('numbers.mp4'),
  hasPicture: true,
  hasSound: true,
  photo: false,
  width: 320,
  height: 180,
  durationSeconds: 36,
};
const sources = new Map([['m', source]]);

beforeAll(() => {
  ffmpeg(
    ...numberFilm(25, 36),
    '-f',
    'lavfi',
    '-i',
    "aevalsrc='0.9*(floor(t*25)/900)*sin(2*PI*1000*t)':s=48000:d=36",
    '-pix_fmt',
    'yuv420p',
    '-g',
    '5',
    '-preset',
    'ultrafast',
    '-c:a',
    'pcm_s16le',
    at('numbers.mov'),
  );
  ffmpeg('-i', at('numbers.mov'), '-c', 'copy', '-f', 'mov', at('numbers.mp4'));
});

/** Pieces of two frames in an order of their own: 0, 37, 74 … of the source. */
const reelOf = (count: number, own: Partial<Reel> = {}): Reel => ({
  schema: 'BrightReel.Reel.1',
  name: 'Many',
  rate: rates['25'],
  size: { width: 320, height: 180 },
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: Array.from({ length: count }, (_, index): Clip => ({
        kind: 'clip',
        id: `c${index}`,
        media: 'm',
        name: `piece ${index}`,
        sourceIn: (index * 37) % 890,
        frames: 2,
      })),
    },
  ],
  ...own,
});
const wanted = (reel: Reel) =>
  reel.tracks[0]!.items.flatMap((item) =>
    Array.from({ length: item.frames }, (_, frame) => (item as Clip).sourceIn + frame),
  );

describe('a reel of very many pieces', () => {
  // The kernel takes no argument of 128 KB and more (Linux, MAX_ARG_STRLEN: 32 pages): 580 pieces were too many.
  it('has a sound graph that no argument could hold', () => {
    const args = soundArguments(reelOf(650), sources, null);
    expect(args[args.indexOf('-filter_complex') + 1]!.length).toBeGreaterThan(131_072);
  });
  it('1,500 pieces: every frame and every sound in its place', async () => {
    const reel = reelOf(1500);
    await renderReel(reel, sources, at('many.mp4'), { size: reel.size, quality: 'draft' });
    expect(reelFrames(reel)).toBe(3000);
    expect(numbersIn(at('many.mp4'))).toEqual(wanted(reel));
    const sound = decodeMono(at('many.mp4'), 48_000);
    expect(Math.abs(sound.length / 48_000 - 120)).toBeLessThan(0.05);
    // Loudness of the first frame of a piece, where its fade is over, against the number it shows.
    const level = (frame: number) =>
      Math.max(...sound.subarray(Math.round((frame + 0.5) * 1920), Math.round((frame + 1) * 1920)).map(Math.abs));
    const shown = wanted(reel);
    const loudest = Math.max(
      ...Array.from({ length: 50 }, (_, index) => level(index * 50) / (shown[index * 50]! || 1)),
    );
    for (let frame = 0; frame < 3000; frame += 118)
      if (shown[frame]! > 50) expect(level(frame) / shown[frame]! / loudest, `frame ${frame}`).toBeGreaterThan(0.8);
  }, 600_000);
  it('sounds the same in blocks as in one go', async () => {
    const voice: Clip = { kind: 'clip', id: 'v', media: 'm', name: 'voice', sourceIn: 100, frames: 240, levelDb: -6 };
    const reel = reelOf(120, {});
    reel.tracks.push({ kind: 'sound', name: 'Voice', items: [voice] });
    expect(soundBlocks(reel, { start: 0, end: 240 }, 60).length).toBeGreaterThan(1);
    expect(soundBlocks(reel, { start: 0, end: 240 }, 500)).toEqual([{ start: 0, end: 240 }]);
    await renderReel(reel, sources, at('blocks.wav'), { size: reel.size, format: 'wav' });
    // Without blocks, by the same filters.
    await runFfmpeg(
      soundArguments(
        reel,
        sources,
        null,
        { start: 0, end: 240 },
        { filters: 'anull', format: 'wav', output: at('whole.wav') },
      ),
    );
    const [blocks, whole] = [decodeMono(at('blocks.wav'), 48_000), decodeMono(at('whole.wav'), 48_000)];
    expect(blocks.length).toBe(whole.length);
    const apart = blocks.reduce((most, value, index) => Math.max(most, Math.abs(value - whole[index]!)), 0);
    expect(apart).toBeLessThan(2e-4);
  });
  it('goes on with the blocks that are whole after it was broken off', async () => {
    const reel = reelOf(200);
    const keepIn = at('kept');
    const stop = new AbortController();
    await expect(
      renderReel(reel, sources, at('broken.wav'), {
        size: reel.size,
        format: 'wav',
        keepIn,
        signal: stop.signal,
        onProgress: () => undefined,
        ...stopAfterFirstBlock(keepIn, stop),
      }),
    ).rejects.toThrow(Cancelled);
    const kept = readdirSync(keepIn).filter((name) => /^mix-\w+\.f32$/.test(name));
    expect(kept.length).toBeGreaterThan(0);
    const before = statSync(join(keepIn, kept[0]!)).mtimeMs;
    await renderReel(reel, sources, at('broken.wav'), { size: reel.size, format: 'wav', keepIn: at('kept') });
    expect(before).toBeGreaterThan(0);
    expect(decodeMono(at('broken.wav'), 48_000).length).toBe(400 * 1920);
  });
});

/** Breaks a render off as soon as one of its blocks is whole. */
function stopAfterFirstBlock(folder: string, stop: AbortController): object {
  const timer = setInterval(() => {
    try {
      if (!readdirSync(folder).some((name) => /^mix-\w+\.f32$/.test(name))) return;
    } catch {
      return;
    }
    clearInterval(timer);
    stop.abort();
  }, 5);
  return {};
}

describe('a render that fails says why', () => {
  it.each([
    ['[out @ 0x1] x: No space left on device', 1, /disk is full/],
    ['Error while filtering: Cannot allocate memory', 1, /not enough memory/],
    ['x.mp4: Too many open files', 1, /too many files were open/],
    ['', null, /ended from outside/],
    [
      '[mov @ 0x55] moov atom not found\n/x/y.mp4: Invalid data found when processing input',
      1,
      /ffmpeg says “\/x\/y.mp4: Invalid data found/,
    ],
    ['', 1, /stopped before its end\. Try again/],
  ])('%j', (words, code, sentence) => expect(explainRenderFailure(words, code)).toMatch(sentence));
  it('with what ffmpeg said', async () => {
    const error = await runFfmpeg([
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'color',
      '-filter_complex',
      '[0]scale=nosuchsize[x]',
      '-map',
      '[x]',
      '-f',
      'null',
      '-',
    ]).catch((reason: unknown) => reason);
    expect(error).toBeInstanceOf(MediaError);
    expect((error as Error).message).toMatch(/nosuchsize|Invalid argument/);
    expect((error as Error).message).not.toMatch(/several tries/);
  });
  it('leaves nothing of its graphs behind', async () => {
    // A folder of its own: others render at the same time.
    const [usual, own] = [process.env.TMPDIR, mkdtempSync(join(tmpdir(), 'graphs-'))];
    process.env.TMPDIR = own;
    await runFfmpeg([
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'color=d=0.1',
      '-filter_complex',
      '[0]null[x]',
      '-map',
      '[x]',
      '-f',
      'null',
      '-',
    ]);
    if (usual === undefined) delete process.env.TMPDIR;
    else process.env.TMPDIR = usual;
    expect(readdirSync(own)).toEqual([]);
  });
});
