import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  applyCommand,
  assembleReel,
  planPictures,
  reelFrames,
  type Reel,
  type ReelCommand,
  type Source,
} from '#core/reel';
import { rates } from '#core/time';
import { renderReel, type RenderOptions, type RenderSource } from './render';
import { stretchesOf } from './stretches';
import { decodeGray, ffmpeg, numberFilm, numbersIn, testFolder } from '../testMedia';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const sources = new Map<string, RenderSource>();
const known = new Map<string, Source>();

/** Every frame of a film shows its own number as ten upright bars; the films have 25 and 30 frames a second, the reel 30. */
beforeAll(() => {
  for (const rate of [25, 30]) {
    const id = `film${rate}`;
    ffmpeg(
      ...numberFilm(rate, 12),
      '-f',
      'lavfi',
      '-i',
      'sine=440:d=12',
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
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=640x480', '-frames:v', '1', at('photo.png'));
  sources.set('photo', {
    file: at('photo.png'),
    hasPicture: true,
    hasSound: false,
    photo: true,
    width: 640,
    height: 480,
  });
  known.set('photo', { id: 'photo', name: 'photo', durationSeconds: 0, photo: true });
});

/** A of 25 frames a second (4 s), B of 30 at half speed (4 s), a photo that moves (2 s); 300 frames. A dissolves into B, a title and captions lie over cuts. */
function start(): Reel {
  let next = 0;
  const reel = assembleReel(
    'Long',
    [
      { media: 'film25', start: 2, end: 6, name: 'A' },
      { media: 'film30', start: 3, end: 5, name: 'B' },
      { media: 'photo', start: 0, end: 2, name: 'P' },
    ],
    known,
    rates['30'],
    { width: 320, height: 180 },
    () => 'ABP'[next++]!,
  );
  const commands: ReelCommand[] = [
    { type: 'speed', clip: 'B', percent: 50 },
    { type: 'transition', clip: 'B', into: { kind: 'dissolve', frames: 20 } },
    { type: 'fade', clip: 'P', edge: 'out', frames: 15 },
    {
      type: 'stillMove',
      clip: 'P',
      move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.3, y: 0.3, width: 0.5, height: 0.5 } },
    },
    { type: 'title', title: { id: 't', kind: 'lower', frame: 165, frames: 60, text: 'Cardboard boats' } },
  ];
  return commands.reduce((now, command) => {
    const result = applyCommand(now, command, known);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
}
const render = async (name: string, options: Partial<RenderOptions> = {}) => {
  await renderReel(start(), sources, at(name), { size: { width: 320, height: 180 }, ...options });
  return at(name);
};
const stretches = (length: number, range = { start: 0, end: 300 }) =>
  stretchesOf(planPictures(start()), range, rates['30'], length);

describe('where a render is cut into stretches', () => {
  it('where they are due, but never inside a transition or a fade', () => {
    expect(reelFrames(start())).toBe(300);
    // The dissolve lies at 110 to 130, the photo from 240 on, its fade from 285 on.
    expect(stretches(90).map((each) => each.range)).toEqual([
      { start: 0, end: 90 },
      { start: 90, end: 180 },
      { start: 180, end: 300 },
    ]);
    expect(stretches(115).map((each) => each.range.end)).toEqual([130, 300]);
    expect(stretches(60, { start: 58, end: 300 }).map((each) => each.range.end)).toEqual([130, 190, 250, 300]);
    expect(stretches(Infinity)).toHaveLength(1);
  });
  it('parts of a piece join without a gap, in the reel and in the source', () => {
    const parts = stretches(30).flatMap((each) => each.pieces);
    for (const [index, part] of parts.entries()) {
      const before = parts[index - 1];
      if (before) expect(part.startFrame).toBe(before.startFrame + before.frames);
      if (before?.id === part.id && !part.cross && !before.cross) {
        expect(part.sourceSeconds).toBeCloseTo(before.sourceSeconds + (before.frames / 30) * before.speed, 9);
        expect([part.into, part.lead]).toEqual([before.into + before.frames, 2]);
      }
    }
  });
});

describe('a render in stretches', () => {
  it('shows in every frame what it shows in one go: other rates, slow motion, dissolve, moving photo, title', async () => {
    const one = decodeGray(await render('one.mp4', { quality: 'best', stretchSeconds: 1000 }), 64, 36);
    const many = decodeGray(await render('many.mp4', { quality: 'best', stretchSeconds: 1 }), 64, 36);
    expect(many.length).toBe(300 * 64 * 36);
    const apart = Array.from({ length: 300 }, (_, frame) => {
      let sum = 0;
      for (let index = frame * 64 * 36; index < (frame + 1) * 64 * 36; index++)
        sum += Math.abs(one[index]! - many[index]!);
      return sum / (64 * 36);
    });
    expect(apart.map((difference, frame) => (difference > 2 ? frame : -1)).filter((frame) => frame >= 0)).toEqual([]);
  });
  it('each frame of a source of another rate is the one nearest in time, over all cuts of the render', async () => {
    const seen = numbersIn(await render('near.mp4', { stretchSeconds: 0.7, range: { start: 0, end: 105 } }));
    // Frame n of the reel shows the last frame of the source that begins, rounded to frames of the reel, at n or before.
    const nearest = (frame: number) =>
      Math.max(...Array.from({ length: frame + 1 }, (_, k) => k).filter((k) => Math.round((k / 25) * 30) <= frame));
    expect(seen).toEqual(Array.from({ length: 105 }, (_, frame) => 50 + nearest(frame)));
  });
  it.each(['mp4', 'webm'] as const)(
    'broken off, %s goes on where it stopped and gives the same bytes',
    async (format) => {
      const whole = readFileSync(
        await render(`undisturbed.${format}`, { format, quality: 'draft', stretchSeconds: 2 }),
      );
      const stop = new AbortController();
      const file = `broken.${format}`;
      const parts = () =>
        existsSync(at(`${file}.parts`))
          ? readdirSync(at(`${file}.parts`)).filter((name) => name.startsWith('picture-') && name.endsWith(format))
          : [];
      await expect(
        render(file, {
          format,
          quality: 'draft',
          stretchSeconds: 2,
          keepIn: at(`${file}.parts`),
          signal: stop.signal,
          onProgress: () => parts().length >= 2 && stop.abort(),
        }),
      ).rejects.toThrow(/Cancelled/);
      const kept = parts();
      expect(kept.length).toBeGreaterThanOrEqual(2);
      expect(existsSync(at(file))).toBe(false);
      const times = kept.map((name) => statSync(at(`${file}.parts/${name}`)).mtimeMs);
      const shares: number[] = [];
      let again: number[] = [];
      await render(file, {
        format,
        quality: 'draft',
        stretchSeconds: 2,
        keepIn: at(`${file}.parts`),
        onProgress: (share) => {
          if (shares.length === 0) again = kept.map((name) => statSync(at(`${file}.parts/${name}`)).mtimeMs);
          shares.push(share);
        },
      });
      expect(again).toEqual(times);
      expect(shares[0]).toBeGreaterThan(0.2);
      expect(readFileSync(at(file)).equals(whole)).toBe(true);
      expect(existsSync(at(`${file}.parts`))).toBe(false);
    },
  );
  it('footage that was exchanged meanwhile is encoded anew', async () => {
    const stop = new AbortController();
    await expect(
      render('changed.mp4', {
        stretchSeconds: 2,
        keepIn: at('changed.parts'),
        signal: stop.signal,
        onProgress: (share) => share > 0.5 && stop.abort(),
      }),
    ).rejects.toThrow(/Cancelled/);
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'color=white:s=320x180:r=25:d=12',
      '-f',
      'lavfi',
      '-i',
      'sine=440:d=12',
      '-pix_fmt',
      'yuv420p',
      at('film25.mp4'),
    );
    const grey = decodeGray(await render('changed.mp4', { stretchSeconds: 2, keepIn: at('changed.parts') }), 2, 2);
    expect(Math.min(...grey.slice(0, 400))).toBeGreaterThan(230);
  });
});
