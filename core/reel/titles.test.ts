import { createCanvas } from '@napi-rs/canvas';
import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { drawTitle, sizeOf, themes, titleAt, titleMotionFrames, type Shape, type Title, type TitleCanvas } from '.';
import { layoutTitle } from './titles';

const title = (kind: Title['kind'], text: string, sub?: string): Title => ({
  id: 't',
  kind,
  frame: 0,
  frames: 100,
  text,
  ...(sub ? { sub } : {}),
});
const canvasOf = ({ width, height }: { width: number; height: number }) => createCanvas(width, height);

describe('titles', () => {
  // EBU R 95: graphics stay inside 90 % of the picture's width and height.
  it.each(['16:9', '9:16', '1:1', '4:5'] as Shape[])(
    'every theme’s titles stay inside the graphics safe area at %s',
    (shape) => {
      const size = sizeOf(shape, 720);
      for (const { title: style, name } of themes)
        for (const kind of ['opening', 'lower', 'end'] as const) {
          const context = canvasOf(size).getContext('2d') as unknown as TitleCanvas;
          const { lines, box } = layoutTitle(
            context,
            title(kind, 'The great cardboard boat regatta on the village pond', 'and who stayed dry'),
            style,
            size,
          );
          const where = `${name} ${kind}`;
          expect(box.x, where).toBeGreaterThanOrEqual(size.width * 0.05 - 0.5);
          expect(box.x + box.width, where).toBeLessThanOrEqual(size.width * 0.95 + 0.5);
          expect(box.y + box.height, where).toBeLessThanOrEqual(size.height * 0.95 + 0.5);
          for (const line of lines) expect(line.x + line.width, where).toBeLessThanOrEqual(box.x + box.width + 0.5);
        }
    },
  );
  it('a word that is too long becomes smaller, and nothing is lost', () => {
    const size = sizeOf('9:16', 720);
    const context = canvasOf(size).getContext('2d') as unknown as TitleCanvas;
    const style = themes[0]!.title;
    const long = layoutTitle(context, title('opening', 'Donaudampfschifffahrtsgesellschaftskapitän'), style, size);
    const short = layoutTitle(context, title('opening', 'Pond'), style, size);
    expect(long.lines[0]!.size).toBeLessThan(short.lines[0]!.size);
    expect(long.lines.map((line) => line.text).join(' ')).toBe('Donaudampfschifffahrtsgesellschaftskapitän');
  });
  it('draws something at every shape, and only near its box', () => {
    const size = sizeOf('16:9', 360);
    for (const { title: style } of themes) {
      const canvas = canvasOf(size);
      drawTitle(canvas.getContext('2d'), title('lower', 'Boat seven'), style, size);
      const pixels = canvas.getContext('2d').getImageData(0, 0, size.width, size.height).data;
      const lit = (y: number) =>
        pixels.slice(y * size.width * 4, (y + 1) * size.width * 4).some((value, index) => index % 4 === 3 && value > 0);
      expect(Array.from({ length: 360 }, (_, y) => y).some(lit)).toBe(true);
      expect(Array.from({ length: 180 }, (_, y) => y).some(lit)).toBe(false);
    }
  });
  it('comes slowing down and fades at its end', () => {
    const own = title('lower', 'x');
    const style = { ...themes[0]!.title, motion: 'slide' as const };
    const size = { width: 1000, height: 1000 };
    expect(titleMotionFrames(own, rates['25'])).toBe(10);
    expect(titleAt(own, style, 0, rates['25'], size)).toEqual({ opacity: 0, x: -50, y: 0 });
    const [a, b, c] = [0, 5, 10].map((frame) => titleAt(own, style, frame, rates['25'], size).x) as [
      number,
      number,
      number,
    ];
    expect(b - a).toBeGreaterThan(c - b);
    expect(titleAt(own, style, 50, rates['25'], size)).toMatchObject({ opacity: 1 });
    expect(titleAt(own, style, 95, rates['25'], size).opacity).toBeCloseTo(0.5);
    expect(titleMotionFrames({ ...own, frames: 6 }, rates['25'])).toBe(2);
  });
});
