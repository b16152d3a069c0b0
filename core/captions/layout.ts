import { captionFonts } from './style';
import type { CaptionLine, CaptionStyle, HeardWord } from './types';

/** What captions are measured and drawn with: the part of the canvas standard that they need. */
export interface CaptionCanvas {
  font: string;
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineJoin: string;
  textBaseline: string;
  globalAlpha: number;
  save(): void;
  restore(): void;
  translate(x: number, y: number): void;
  scale(x: number, y: number): void;
  beginPath(): void;
  roundRect(x: number, y: number, width: number, height: number, radius: number): void;
  fill(): void;
  fillText(text: string, x: number, y: number): void;
  strokeText(text: string, x: number, y: number): void;
  measureText(text: string): { width: number };
}

interface CaptionRow {
  words: { text: string; index: number; x: number; width: number }[];
  text: string;
  width: number;
  /** Of its middle, in pixels of the frame. */
  middle: { x: number; y: number };
  baseline: number;
}
/** Where the rows of a caption stand, in pixels of the frame. */
export interface CaptionLayout {
  rows: CaptionRow[];
  /** Size of the letters: the font's em, in pixels. */
  em: number;
  outline: number;
  box: { x: number; y: number; width: number; height: number; radius: number } | null;
}

/** Rows follow one another by so many ems. */
const leading = 1.16;
/** Captions stay inside this share of the width (EBU R 95: 5 % at each side), a plate's padding included. */
const widest = 0.9;

const fontOf = (style: CaptionStyle, em: number): string =>
  `${captionFonts[style.font].weight} ${em}px "${captionFonts[style.font].family}"`;
/** As it is shown. */
export const shownText = (text: string, style: CaptionStyle): string => (style.upper ? text.toLocaleUpperCase() : text);

/** Where every word of a caption stands in a frame of this size; text too wide becomes smaller. */
export function layoutCaption(
  canvas: Pick<CaptionCanvas, 'font' | 'measureText'>,
  { words, firstRow }: Pick<CaptionLine, 'words' | 'firstRow'>,
  style: CaptionStyle,
  size: { width: number; height: number },
): CaptionLayout {
  const shorter = Math.min(size.width, size.height);
  const face = captionFonts[style.font];
  const parts = [words.slice(0, firstRow), words.slice(firstRow)].filter((row) => row.length > 0);
  let em = (style.size / 100) * shorter;
  const padding = () => (style.box ? 0.42 * em : (style.outlineWidth / 100) * em);
  const widths = () =>
    parts.map((row) => canvas.measureText(row.map((word) => shownText(word.text, style)).join(' ')).width);
  canvas.font = fontOf(style, em);
  const room = widest * size.width;
  const most = Math.max(...widths(), 1);
  if (most + 2 * padding() > room) {
    em *= room / (most + 2 * padding());
    canvas.font = fontOf(style, em);
  }
  const height = leading * em;
  const block = parts.length * height;
  const top = Math.min(size.height - block - padding(), Math.max(padding(), style.place * size.height - block / 2));
  let index = 0;
  const rows = parts.map((row, at): CaptionRow => {
    const text = row.map((word) => shownText(word.text, style)).join(' ');
    const width = canvas.measureText(text).width;
    const middle = { x: size.width / 2, y: top + (at + 0.5) * height };
    let before = '';
    const placed = row.map((word) => {
      const own = shownText(word.text, style);
      // Measured with what stands before it, so that spaces and kerning are those of the whole row.
      const x = middle.x - width / 2 + canvas.measureText(before).width;
      before += `${own} `;
      return { text: own, index: index++, x, width: canvas.measureText(own).width };
    });
    return { words: placed, text, width, middle, baseline: middle.y + ((face.ascent - face.descent) / 2) * em };
  });
  const across = Math.max(...rows.map((row) => row.width));
  return {
    rows,
    em,
    outline: (style.outlineWidth / 100) * em,
    box: style.box
      ? {
          x: size.width / 2 - across / 2 - padding(),
          y: top - 0.16 * em,
          width: across + 2 * padding(),
          height: block + 0.32 * em,
          radius: 0.22 * em,
        }
      : null,
  };
}

/** How a caption comes, in seconds. */
export const comesIn = 0.14;
/** Opacity and size at a time after it came. */
export function captionMotion(style: CaptionStyle, since: number): { opacity: number; scale: number } {
  const share = Math.min(1, Math.max(0, since / comesIn));
  return style.motion === 'fade'
    ? { opacity: share, scale: 1 }
    : style.motion === 'pop'
      ? { opacity: 1, scale: 0.82 + 0.18 * share }
      : { opacity: 1, scale: 1 };
}

/** The colour of a word: lit while it is spoken, else emphasised, else its speaker's. @returns `#rrggbb` */
export function wordColour(style: CaptionStyle, lit: boolean, { emphasis, voice = 0 }: HeardWord): string {
  if (lit) return style.lit;
  if (emphasis) return style.emphasis;
  return voice > 0 && style.speakers?.length ? style.speakers[(voice - 1) % style.speakers.length]! : style.colour;
}

/** Letters of the second language, in shares of the first one's; and what lies between both, in ems of the first. */
const secondSize = 0.72,
  secondGap = 0.25;

/**
 * The styles of captions in two languages: the second one smaller below the first, with room for two rows each. Both move up
 * where the second would lie outside the picture (EBU R 95: 5 % at each side).
 */
export function twoLanguages(
  style: CaptionStyle,
  size: { width: number; height: number },
): [CaptionStyle, CaptionStyle] {
  const em = ((style.size / 100) * Math.min(size.width, size.height)) / size.height;
  const rows = 2 * leading * em;
  const below = rows / 2 + secondGap * em + (rows * secondSize) / 2;
  const bottom = style.place + below + (rows * secondSize) / 2;
  const place = style.place - Math.max(0, bottom - 0.95);
  return [
    { ...style, place },
    { ...style, size: style.size * secondSize, place: place + below },
  ];
}

/** Draws a caption as the renderer draws it. @param since seconds after it came */
export function drawCaption(
  canvas: CaptionCanvas,
  line: CaptionLine,
  lit: number | null,
  style: CaptionStyle,
  size: { width: number; height: number },
  since: number,
): void {
  const { rows, em, outline, box } = layoutCaption(canvas, line, style, size);
  const { opacity, scale } = captionMotion(style, since);
  canvas.save();
  canvas.globalAlpha = opacity;
  canvas.textBaseline = 'alphabetic';
  canvas.lineJoin = 'round';
  canvas.font = fontOf(style, em);
  if (box) {
    canvas.fillStyle = style.box;
    canvas.beginPath();
    canvas.roundRect(box.x, box.y, box.width, box.height, box.radius);
    canvas.fill();
  }
  for (const row of rows) {
    canvas.save();
    canvas.translate(row.middle.x, row.middle.y);
    canvas.scale(scale, scale);
    canvas.translate(-row.middle.x, -row.middle.y);
    if (outline > 0) {
      canvas.strokeStyle = style.outline;
      canvas.lineWidth = 2 * outline;
      for (const word of row.words) canvas.strokeText(word.text, word.x, row.baseline);
    }
    for (const word of row.words) {
      canvas.fillStyle = wordColour(style, word.index === lit, line.words[word.index]!);
      canvas.fillText(word.text, word.x, row.baseline);
    }
    canvas.restore();
  }
  canvas.restore();
}

/** Measures text where no font is at hand, by the mean width of a letter: for files whose player sets the text anyway. */
export function approximateCanvas(): Pick<CaptionCanvas, 'font' | 'measureText'> {
  const canvas = {
    font: '10px',
    measureText: (text: string) => ({
      width: text.length * 0.56 * (Number(/([\d.]+)px/.exec(canvas.font)?.[1]) || 10),
    }),
  };
  return canvas;
}
