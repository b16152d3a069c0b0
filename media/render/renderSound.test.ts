import { join } from 'node:path';
import { execFileSync } from 'node:child_process';
import { beforeAll, describe, expect, it } from 'vitest';
import { amplitude, assembleReel, levelAt, musicCurve, musicDefaults, type Reel, type Source } from '#core/reel';
import { rates } from '#core/time';
import { renderReel, type RenderSource } from './render';
import { filtersForLoudness, loudnessFilters, readLoudness } from './renderSound';
import { decodeMono, ffmpeg, testFolder } from '../testMedia';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const sources = new Map<string, RenderSource>();
const known = new Map<string, Source>();

beforeAll(() => {
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'color=gray:s=160x90:r=25:d=20',
    '-f',
    'lavfi',
    '-i',
    'sine=220:d=20:r=48000',
    '-ac',
    '2',
    '-pix_fmt',
    'yuv420p',
    at('low.mp4'),
  );
  ffmpeg('-f', 'lavfi', '-i', 'sine=3000:d=4:r=48000', '-ac', '2', at('high.wav'));
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'color=gray:s=160x90:r=25:d=12',
    '-f',
    'lavfi',
    '-i',
    'anoisesrc=d=12:c=pink:a=0.9:r=48000:seed=4',
    '-pix_fmt',
    'yuv420p',
    at('noise.mp4'),
  );
  // Strokes of noise under a square wave: encoders add two decibels and more to the peaks of such sound.
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'color=gray:s=160x90:r=25:d=12',
    '-f',
    'lavfi',
    '-i',
    "aevalsrc='0.55*sgn(sin(2*PI*97*t))+0.9*exp(-30*mod(t,0.25))*(random(0)*2-1)|0.5*sgn(sin(2*PI*131*t))+0.9*exp(-30*mod(t,0.25))*(random(1)*2-1)':d=12:s=48000",
    '-pix_fmt',
    'yuv420p',
    '-c:a',
    'flac',
    at('dense.mkv'),
  );
  for (const [id, file, seconds] of [
    ['dense', 'dense.mkv', 12],
    ['low', 'low.mp4', 20],
    ['high', 'high.wav', 4],
    ['noise', 'noise.mp4', 12],
  ] as const) {
    sources.set(id, { file: at(file), hasPicture: id !== 'high', hasSound: true, photo: false });
    known.set(id, { id, name: file, durationSeconds: seconds });
  }
});

let next = 0;
const reelOf = (...pieces: [media: string, start: number, end: number][]): Reel =>
  assembleReel(
    'Test',
    pieces.map(([media, start, end]) => ({ media, start, end, name: media })),
    known,
    rates['25'],
    { width: 160, height: 90 },
    () => String(next++),
  );

/** Level of one tone around a time, in dB, by the Goertzel algorithm (Goertzel 1958) over a tenth of a second. */
function toneLevel(samples: Float32Array, frequency: number, seconds: number): number {
  const length = 4800;
  const from = Math.round(seconds * 48000) - length / 2;
  const turn = 2 * Math.cos((2 * Math.PI * frequency) / 48000);
  let [a, b] = [0, 0];
  for (let index = 0; index < length; index++) [a, b] = [samples[from + index]! + turn * a - b, a];
  return 10 * Math.log10(Math.max(1e-12, (4 * (a * a + b * b - turn * a * b)) / length ** 2));
}

describe('levels and music in a render', () => {
  it('the music follows its curve to half a decibel, begins anew at its end, and leaves the pieces alone', async () => {
    const music = {
      media: 'high',
      name: 'high',
      ...musicDefaults,
      levelDb: -6,
      duckDb: 15,
      fadeInSeconds: 1,
      fadeOutSeconds: 2,
    };
    const reel = { ...reelOf(['low', 0, 10], ['low', 12, 16]), music };
    const speech = [
      { start: 4, end: 6 },
      { start: 9, end: 9.5 },
    ];
    await renderReel(reel, sources, at('music.mp4'), { size: reel.size, speech });
    const heard = decodeMono(at('music.mp4'), 48000);
    const source = toneLevel(decodeMono(at('high.wav'), 48000), 3000, 2);
    const curve = musicCurve(reel, speech);
    for (const seconds of [0.5, 2, 3.2, 5, 5.9, 7.5, 8.85, 9.2, 11, 11.5, 13])
      expect(
        Math.abs(toneLevel(heard, 3000, seconds) - source - levelAt(curve, seconds)),
        `at ${seconds} s`,
      ).toBeLessThan(seconds === 0.5 || seconds === 13 ? 1.5 : 0.6);
    const piece = toneLevel(decodeMono(at('low.mp4'), 48000), 220, 5);
    for (const seconds of [2, 5, 11]) expect(Math.abs(toneLevel(heard, 220, seconds) - piece)).toBeLessThan(0.3);
  });
  it('levels of pieces are heard, a muted one is silent, lengths stay', async () => {
    const reel = reelOf(['low', 0, 2], ['low', 2, 4], ['low', 4, 6]);
    const items = reel.tracks[0]!.items.map((item, index) => ({
      ...item,
      ...(index === 1 ? { levelDb: -9 } : index === 2 ? { muted: true } : {}),
    }));
    await renderReel({ ...reel, tracks: [{ ...reel.tracks[0]!, items }] }, sources, at('levels.mp4'), {
      size: reel.size,
    });
    const heard = decodeMono(at('levels.mp4'), 48000);
    const [full, less, none] = [1, 3, 5].map((seconds) => toneLevel(heard, 220, seconds)) as [number, number, number];
    expect(less - full).toBeCloseTo(-9, 1);
    expect(none).toBeLessThan(-80);
    expect(heard.length / 48000).toBeGreaterThan(5.99);
  });
});

describe('loudness of the finished file (EBU R 128, measured by ffmpeg in it)', () => {
  it.each([-23, -16, -14])('%i LUFS to half a unit, true peak not over -1 dBTP', async (lufs) => {
    const reel = { ...reelOf(['noise', 0, 6], ['low', 0, 3]), loudnessLufs: lufs };
    const measured = await renderReel(reel, sources, at(`loud${lufs}.mp4`), { size: reel.size });
    expect(Math.abs(measured.integratedLufs! - lufs)).toBeLessThan(0.5);
    expect(measured.truePeakDb!).toBeLessThanOrEqual(-1);
    const log = execFileSync('bash', [
      '-c',
      'ffmpeg -hide_banner -nostats -i "$1" -af ebur128=peak=true:framelog=verbose -f null - 2>&1',
      '-',
      at(`loud${lufs}.mp4`),
    ]).toString();
    expect(readLoudness(log)).toEqual(measured);
  });
  it.each([
    ['mp4', -14],
    ['webm', -14],
    ['wav', -14],
    ['mp4', undefined],
  ] as const)(
    'loud, dense sound as %s at %s LUFS: what the encoder adds to peaks is taken off before it',
    async (format, lufs) => {
      const items = reelOf(['dense', 0, 10]).tracks[0]!.items.map((item) => ({
        ...item,
        levelDb: lufs === undefined ? 6 : 0,
      }));
      const base = reelOf(['dense', 0, 10]);
      const reel: Reel = {
        ...base,
        tracks: [{ ...base.tracks[0]!, items }],
        ...(lufs === undefined ? {} : { loudnessLufs: lufs }),
      };
      const measured = await renderReel(reel, sources, at(`dense.${format}`), { size: reel.size, format });
      expect(measured.truePeakDb!).toBeLessThanOrEqual(-1);
      if (lufs !== undefined) expect(Math.abs(measured.integratedLufs! - lufs)).toBeLessThan(0.7);
    },
  );
  it('a limiter comes in only where a gain would push peaks over the bound; silence is left alone', () => {
    expect(loudnessFilters(-23, { integratedLufs: -20, truePeakDb: -6 })).toBe('volume=-3.000dB');
    expect(loudnessFilters(-14, { integratedLufs: -20, truePeakDb: -6 })).toMatch(
      /^volume=6\.000dB,aresample=192000,alimiter=/,
    );
    expect(loudnessFilters(-14, { integratedLufs: null, truePeakDb: null })).toBe('');
    expect(amplitude(-6.0206)).toBeCloseTo(0.5, 4);
  });
  it('what a limiter takes away is made up for', async () => {
    const levels = [-20, -14.9, -14.3, -14.05];
    const asked: string[] = [];
    const filters = await filtersForLoudness(-14, (given) => {
      asked.push(given);
      return Promise.resolve({ integratedLufs: levels[asked.length - 1]!, truePeakDb: -3 });
    });
    expect(asked.map((each) => /volume=([\d.]+)dB/.exec(each)?.[1] ?? '')).toEqual(['', '6.000', '6.900', '7.200']);
    expect(filters).toBe(asked.at(-1));
  });
  it('music that vanished is named, and nothing is written', async () => {
    const reel = { ...reelOf(['low', 0, 1]), music: { media: 'gone', name: 'lost song', ...musicDefaults } };
    await expect(renderReel(reel, sources, at('never.mp4'), { size: reel.size })).rejects.toThrow(
      'The music “lost song” is missing. Bring it in again or take it out of the reel.',
    );
  });
});
