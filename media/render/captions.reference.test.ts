import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  captionAt,
  captionDefaults,
  captionFontNames,
  captionLines,
  captionLooks,
  drawCaption,
  layoutCaption,
  type CaptionStyle,
  type HeardWord,
} from '#core/captions';
import { captionTracks, type ReelTexts } from '#core/formats';
import type { Reel } from '#core/reel';
import { rates } from '#core/time';
import type { Word } from '#core/words';
import { captionCanvas } from './renderCaptions';
import { renderReel, type RenderSource } from './render';
import { ffmpeg, testFolder } from '../testMedia';

/** What libass (Debian's, inside ffmpeg) sets in the file, against what the screen draws with the same font. */
const folder = testFolder();
const size = { width: 360, height: 640 };
const words: Word[] = [
  ['Two', 0.2, 0.5],
  ['rolls', 0.5, 1],
  ['of', 1, 1.2],
  ['tape', 1.2, 1.8],
  ['and', 1.8, 2],
  ['wax.', 2, 2.6],
].map(([text, start, end], index) => ({
  text: String(text),
  start: Number(start),
  end: Number(end),
  confidence: 1,
  ...(index === 5 ? { emphasis: true } : {}),
}));
const heard: HeardWord[] = words.map((word, index) => ({ ...word, media: 'gray', index }));
const sources = new Map<string, RenderSource>([
  [
    'gray',
    {
      file: join(folder, 'gray.mp4'),
      hasPicture: true,
      hasSound: true,
      photo: false,
      width: 360,
      height: 640,
      durationSeconds: 4,
    },
  ],
]);

beforeAll(() =>
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'color=0x506070:s=360x640:r=25:d=4',
    '-f',
    'lavfi',
    '-i',
    'sine=300:d=4',
    '-pix_fmt',
    'yuv420p',
    '-crf',
    '4',
    join(folder, 'gray.mp4'),
  ),
);

const reelOf = (style: CaptionStyle): Reel => ({
  schema: 'BrightReel.Reel.1',
  name: 't',
  rate: rates['25'],
  size,
  captions: style,
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: [{ kind: 'clip', id: 'a', media: 'gray', name: 'gray', sourceIn: 0, frames: 75 }],
    },
  ],
});

async function rendered(
  style: CaptionStyle,
  name: string,
  texts: ReelTexts = { wordsOf: () => words },
): Promise<(seconds: number) => Uint8Array> {
  const file = join(folder, `${name}.mp4`);
  await renderReel(reelOf(style), sources, file, { size, quality: 'best', texts });
  return (seconds) =>
    new Uint8Array(
      execFileSync(
        'ffmpeg',
        [
          '-v',
          'error',
          '-ss',
          seconds.toFixed(3),
          '-i',
          file,
          '-frames:v',
          '1',
          '-f',
          'rawvideo',
          '-pix_fmt',
          'rgb24',
          '-',
        ],
        { maxBuffer: 1 << 26 },
      ),
    );
}

/** A canvas of the colour of the footage. */
function ground(font: CaptionStyle['font']): ReturnType<typeof captionCanvas> {
  const canvas = captionCanvas(font, size.width, size.height);
  canvas.fillStyle = '#506070';
  canvas.fillRect(0, 0, size.width, size.height);
  return canvas;
}

function pixelsOf(canvas: ReturnType<typeof captionCanvas>): Uint8Array {
  const pixels = canvas.getImageData(0, 0, size.width, size.height).data;
  return Uint8Array.from(
    { length: size.width * size.height * 3 },
    (_, index) => pixels[Math.floor(index / 3) * 4 + (index % 3)]!,
  );
}

/** The same frame as the screen draws it. */
function drawn(style: CaptionStyle, seconds: number, lit: number | null): Uint8Array {
  const canvas = ground(style.font);
  const line = captionLines(heard, { letters: style.letters, longestSeconds: 7 })[0]!;
  drawCaption(canvas, line, lit, style, size, seconds - line.start);
  return pixelsOf(canvas);
}

/** Bounding box of what differs from the ground. */
function extent(pixels: Uint8Array): [left: number, top: number, right: number, bottom: number] {
  let [left, top, right, bottom] = [size.width, size.height, 0, 0];
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const at = (y * size.width + x) * 3;
      if (Math.abs(pixels[at]! - 0x50) + Math.abs(pixels[at + 1]! - 0x60) + Math.abs(pixels[at + 2]! - 0x70) < 90)
        continue;
      [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(bottom, y)];
    }
  return [left, top, right, bottom];
}
const meanDifference = (a: Uint8Array, b: Uint8Array, [left, top, right, bottom]: readonly number[]): number => {
  let [sum, count] = [0, 0];
  for (let y = top!; y <= bottom!; y++)
    for (let x = left!; x <= right!; x++)
      for (let part = 0; part < 3; part++, count++)
        sum += Math.abs(a[(y * size.width + x) * 3 + part]! - b[(y * size.width + x) * 3 + part]!);
  return sum / count / 255;
};

describe('captions in the file and on screen', () => {
  it.each(captionFontNames)('%s stands at the same place, to two pixels', async (font) => {
    const style = { ...captionDefaults, font, letters: 42 };
    const [file, screen] = [(await rendered(style, `font-${font.replace(/\s/g, '')}`))(1.5), drawn(style, 1.5, 3)];
    const [a, b] = [extent(file), extent(screen)];
    a.forEach((value, index) =>
      expect(Math.abs(value - b[index]!), `edge ${index}: ${a.join(' ')} and ${b.join(' ')}`).toBeLessThanOrEqual(2),
    );
    // Letters of 27 pixels that lie one pixel apart differ by 0.07.
    expect(meanDifference(file, screen, b)).toBeLessThan(0.08);
  });
  it.each(captionLooks.map((look) => [look.name, look.style] as const))(
    'the look “%s” is the same: plate, colours, capitals',
    async (name, style) => {
      const file = (await rendered(style, `look-${name}`))(1.5);
      const screen = drawn(style, 1.5, 3);
      expect(meanDifference(file, screen, extent(screen))).toBeLessThan(0.08);
    },
  );
  it('two languages and two speakers stand and shine as on screen', async () => {
    const style: CaptionStyle = { ...captionDefaults, letters: 42, speakers: ['#ff5050'], second: 'de' };
    const german = words.map((word, at) => ({
      ...word,
      text: ['Zwei', 'Rollen', 'Band', 'und', 'viel', 'Wachs.'][at]!,
    }));
    const texts: ReelTexts = {
      wordsOf: () => words,
      secondOf: () => german,
      speakerOf: (_, seconds) => ({ voice: seconds < 1.9 ? 0 : 1 }),
    };
    const frame = await rendered(style, 'two', texts);
    for (const seconds of [1.5, 2.3]) {
      const canvas = ground(style.font);
      for (const track of captionTracks(reelOf(style), texts)) {
        const now = captionAt(track.lines, seconds)!;
        drawCaption(canvas, now.line, track.follows ? now.lit : null, track.style, size, seconds - now.line.start);
      }
      const [file, screen] = [frame(seconds), pixelsOf(canvas)];
      const [a, b] = [extent(file), extent(screen)];
      a.forEach((value, index) =>
        expect(Math.abs(value - b[index]!), `edge ${index} at ${seconds}`).toBeLessThanOrEqual(2),
      );
      expect(meanDifference(file, screen, b)).toBeLessThan(0.08);
    }
  });
  it('the spoken word is lit at its time, three times over', async () => {
    const style = {
      ...captionDefaults,
      letters: 42,
      outlineWidth: 0,
      lit: '#ff0000',
      colour: '#ffffff',
      emphasis: '#00ff00',
    };
    const frame = await rendered(style, 'lit');
    const line = captionLines(heard, { letters: 42, longestSeconds: 7 })[0]!;
    const { rows, em } = layoutCaption(captionCanvas('Figtree'), line, style, size);
    const places = rows.flatMap((row) => row.words.map((word) => ({ ...word, y: row.middle.y })));
    /** How many pixels of a word are of a colour. */
    const count = (pixels: Uint8Array, index: number, isColour: (r: number, g: number, b: number) => boolean) => {
      const word = places.find((each) => each.index === index)!;
      let found = 0;
      for (let y = Math.round(word.y - em / 2); y < word.y + em / 2; y++)
        for (let x = Math.round(word.x); x < word.x + word.width; x++) {
          const at = (y * size.width + x) * 3;
          if (isColour(pixels[at]!, pixels[at + 1]!, pixels[at + 2]!)) found++;
        }
      return found;
    };
    const red = (r: number, g: number, b: number) => r > 180 && g < 90 && b < 90;
    const green = (r: number, g: number, b: number) => g > 180 && r < 120 && b < 120;
    for (const [seconds, lit] of [
      [0.4, 0],
      [0.8, 1],
      [1.5, 3],
    ] as const) {
      const pixels = frame(seconds);
      for (let index = 0; index < words.length; index++) {
        if (index === lit) expect(count(pixels, index, red), `word ${index} at ${seconds}`).toBeGreaterThan(40);
        else expect(count(pixels, index, red), `word ${index} at ${seconds}`).toBeLessThan(8);
      }
      expect(count(pixels, 5, green)).toBeGreaterThan(30);
    }
  });
  it('nothing stands before the first word and after the last', async () => {
    const frame = await rendered(captionDefaults, 'ends');
    expect(extent(frame(0))[2]).toBe(0);
    expect(extent(frame(1))[2]).toBeGreaterThan(0);
  });
});
