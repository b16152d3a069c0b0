import { framesPerSecond, type Rate } from '#core/time';
import { findTheme, plainTheme, type TitleStyle } from './themes';
import type { Logo, Reel, Title } from './types';

/** What titles are drawn on: the part of the canvas standard that they need, the same in a browser and on the server. */
export interface TitleCanvas {
  font: string;
  fillStyle: unknown;
  textBaseline: string;
  shadowColor: string;
  shadowBlur: number;
  fillText(text: string, x: number, y: number): void;
  measureText(text: string): { width: number };
  fillRect(x: number, y: number, width: number, height: number): void;
  beginPath(): void;
  roundRect(x: number, y: number, width: number, height: number, radius: number): void;
  fill(): void;
}

/** Names under which the shipped fonts are known to canvases. */
export const fontFamilies: Readonly<Record<string, string>> = {
  Figtree: 'Figtree Variable',
  'Spline Sans Mono': 'Spline Sans Mono Variable',
};

/** How the titles of a reel are set. */
export const titleStyle = (reel: Pick<Reel, 'theme'>): TitleStyle => (findTheme(reel.theme) ?? plainTheme).title;

interface Line {
  text: string;
  size: number;
  weight: number;
  colour: string;
  x: number;
  /** Of its middle. */
  y: number;
  width: number;
}
/** Where the lines of a title stand, in pixels of the frame. */
export interface TitleLayout {
  lines: Line[];
  /** Behind the lines; all drawn things lie inside it. */
  box: { x: number; y: number; width: number; height: number };
}

/** Graphics stay inside 90 % of the picture, action inside 93 % (EBU R 95, safe areas for 16:9; from memory): so much is left at every edge. */
export const safeAreas = { graphics: 0.05, action: 0.035 };
const safe = safeAreas.graphics;
const lineHeight = 1.16;
/** Sizes in hundredths of the picture's shorter side. Common practice, no source. */
const sizes: Record<Title['kind'], { text: number; sub: number }> = {
  opening: { text: 9.5, sub: 4.2 },
  lower: { text: 4.8, sub: 3.2 },
  end: { text: 8, sub: 4 },
};

const fontOf = (style: TitleStyle, weight: number, size: number): string =>
  `${weight} ${size}px "${fontFamilies[style.family] ?? style.family}"`;

/** Breaks a text into lines no wider than `width`, at spaces. */
function wrapText(canvas: TitleCanvas, text: string, width: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/\s+/)) {
    const last = lines.at(-1);
    if (last !== undefined && canvas.measureText(`${last} ${word}`).width <= width)
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}

/** Where the lines of a title stand in a picture of this size; text that is too wide becomes smaller. */
export function layoutTitle(
  canvas: TitleCanvas,
  title: Title,
  style: TitleStyle,
  { width, height }: Reel['size'],
): TitleLayout {
  const unit = Math.min(width, height) / 100;
  const padding = style.plate ? 2.4 * unit : 0;
  const room = width * (1 - 2 * safe) - 2 * padding;
  const own = sizes[title.kind];
  const most = title.kind === 'lower' ? 2 : 3;
  const set = (text: string, size: number, weight: number): { size: number; lines: string[] } => {
    for (let now = size * unit; ; now *= 0.9) {
      canvas.font = fontOf(style, weight, now);
      const lines = wrapText(canvas, text, room);
      if ((lines.length <= most && lines.every((line) => canvas.measureText(line).width <= room)) || now < 2 * unit)
        return { size: now, lines };
    }
  };
  const upper = (text: string) => (style.upper ? text.toLocaleUpperCase() : text);
  const main = set(upper(title.text), own.text, style.weight);
  const subWeight = Math.max(400, style.weight - 200);
  const sub = title.sub?.trim() ? set(title.sub.trim(), own.sub, subWeight) : { size: 0, lines: [] };
  const rows = [
    ...main.lines.map((text) => ({ text, size: main.size, weight: style.weight, colour: style.colour })),
    ...sub.lines.map((text) => ({ text, size: sub.size, weight: subWeight, colour: style.subColour })),
  ];
  const widths = rows.map(({ text, size, weight }) => {
    canvas.font = fontOf(style, weight, size);
    return canvas.measureText(text).width;
  });
  const between = sub.lines.length ? 0.8 * unit : 0;
  const inner = {
    width: Math.max(...widths),
    height: rows.reduce((sum, row) => sum + row.size * lineHeight, 0) + between,
  };
  const boxWidth = inner.width + 2 * padding;
  const boxHeight = inner.height + 2 * padding;
  const left = style.align === 'left';
  const x = left ? width * safe : (width - boxWidth) / 2;
  // A lower third stands in the lowest third, clear of the edge; the others in the middle of the height.
  const y = title.kind === 'lower' ? height * (1 - 1.6 * safe) - boxHeight : (height - boxHeight) / 2;
  let at = y + padding;
  const lines = rows.map((row, index) => {
    if (index === main.lines.length) at += between;
    const middle = at + (row.size * lineHeight) / 2;
    at += row.size * lineHeight;
    return { ...row, x: left ? x + padding : (width - widths[index]!) / 2, y: middle, width: widths[index]! };
  });
  return { lines, box: { x, y, width: boxWidth, height: boxHeight } };
}

/** Draws a title, at rest, on a canvas as large as the picture. */
export function drawTitle(canvas: TitleCanvas, title: Title, style: TitleStyle, size: Reel['size']): void {
  const { lines, box } = layoutTitle(canvas, title, style, size);
  const unit = Math.min(size.width, size.height) / 100;
  canvas.shadowColor = 'rgba(0,0,0,0)';
  canvas.shadowBlur = 0;
  if (style.plate) {
    canvas.fillStyle = style.plate;
    canvas.beginPath();
    canvas.roundRect(box.x, box.y, box.width, box.height, 0.8 * unit);
    canvas.fill();
  }
  canvas.fillStyle = style.accent;
  // A stroke at the left of a title that stands left, a short one under a title in the middle.
  if (style.align === 'left') canvas.fillRect(box.x, box.y + 0.8 * unit, 0.7 * unit, box.height - 1.6 * unit);
  else if (title.kind !== 'lower')
    canvas.fillRect((size.width - 12 * unit) / 2, box.y + box.height + 1.6 * unit, 12 * unit, 0.4 * unit);
  if (!style.plate) {
    canvas.shadowColor = 'rgba(0,0,0,0.6)';
    canvas.shadowBlur = 1.4 * unit;
  }
  canvas.textBaseline = 'middle';
  for (const line of lines) {
    canvas.font = fontOf(style, line.weight, line.size);
    canvas.fillStyle = line.colour;
    canvas.fillText(line.text, line.x + (style.align === 'left' && !style.plate ? 2 * unit : 0), line.y);
  }
  canvas.shadowColor = 'rgba(0,0,0,0)';
}

/** Frames over which a title comes and goes. */
export const titleMotionFrames = (title: Title, rate: Rate): number =>
  Math.max(1, Math.min(Math.round(0.4 * framesPerSecond(rate)), Math.floor(title.frames / 3)));
/** How far it comes from, in pixels. */
export const titleTravel = (style: TitleStyle, { width, height }: Reel['size']): { x: number; y: number } => {
  const unit = Math.min(width, height) / 100;
  return { x: style.motion === 'slide' ? -5 * unit : 0, y: style.motion === 'rise' ? 4 * unit : 0 };
};

/** How a title stands at one of its frames: it comes in slowing down, and fades at its end. */
export function titleAt(
  title: Title,
  style: TitleStyle,
  frame: number,
  rate: Rate,
  size: Reel['size'],
): { opacity: number; x: number; y: number } {
  const motion = titleMotionFrames(title, rate);
  const inward = Math.min(1, frame / motion);
  const travel = titleTravel(style, size);
  const left = (1 - inward) ** 3;
  return {
    opacity: Math.max(0, Math.min(1, inward, (title.frames - frame) / motion)),
    x: travel.x * left,
    y: travel.y * left,
  };
}

/** Where a logo stands in a picture, in whole pixels: inside the graphics safe area (EBU R 95). */
export function logoBox(
  logo: Logo,
  source: Reel['size'],
  size: Reel['size'],
): { x: number; y: number; width: number; height: number } {
  const longer = logo.size * Math.min(size.width, size.height);
  const scale = longer / Math.max(source.width, source.height);
  const [width, height] = [
    Math.max(2, Math.round(source.width * scale)),
    Math.max(2, Math.round(source.height * scale)),
  ];
  const [across, down] = [Math.round(size.width * safe), Math.round(size.height * safe)];
  return {
    width,
    height,
    x: logo.corner.endsWith('left') ? across : size.width - across - width,
    y: logo.corner.startsWith('top') ? down : size.height - down - height,
  };
}
