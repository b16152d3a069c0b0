import { captionMotion, comesIn, layoutCaption, wordColour, type CaptionCanvas } from './layout';
import { litStretches, wholeStretch } from './lines';
import { captionFonts } from './style';
import type { CaptionTrack } from './types';

/** `#rrggbb` or `#rrggbbaa` as ASS has it: blue, green, red, and how much is see-through. */
function assColour(colour: string): { bgr: string; alpha: string } {
  const [, r, g, b, a = 'ff'] = /^#(..)(..)(..)(..)?$/.exec(colour)!;
  return {
    bgr: `&H${b}${g}${r}&`.toUpperCase(),
    alpha: `&H${(255 - parseInt(a, 16)).toString(16).padStart(2, '0')}&`.toUpperCase(),
  };
}

const clock = (seconds: number): string => {
  const total = Math.max(0, Math.round(seconds * 100));
  const two = (value: number) => String(value).padStart(2, '0');
  return `${Math.floor(total / 360_000)}:${two(Math.floor(total / 6000) % 60)}:${two(Math.floor(total / 100) % 60)}.${two(total % 100)}`;
};
const number = (value: number): string => String(Number(value.toFixed(2)));
/** Braces and backslashes would be commands. */
const escaped = (text: string): string => text.replace(/\\/g, '\u29F5').replaceAll('{', '(').replaceAll('}', ')');

/**
 * Captions as Advanced SubStation Alpha (v4.00+), each row at its own place, so that libass sets them where the screen
 * shows them. Between two changes of the lit word stands one event a row.
 * @param tracks at least one; what is seen at the same time, all in one font
 * @param fontName the name under which the font is found: its own full name for libass with our files, else its family
 * @param from seconds of the reel with which the picture begins
 */
export function captionsAss(
  canvas: Pick<CaptionCanvas, 'font' | 'measureText'>,
  tracks: readonly CaptionTrack[],
  size: { width: number; height: number },
  fontName = captionFonts[tracks[0]!.style.font].fullName,
  from = 0,
): string {
  const events = tracks.flatMap((track) => eventsOf(canvas, track, size, from));
  return `[Script Info]
ScriptType: v4.00+
PlayResX: ${size.width}
PlayResY: ${size.height}
WrapStyle: 2
ScaledBorderAndShadow: yes
Kerning: yes

[V4+ Styles]
Format: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding
Style: Caption,${fontName},40,&H00FFFFFF,&H00FFFFFF,&H00000000,&H00000000,0,0,0,0,100,100,0,0,1,2,0,5,0,0,0,1

[Events]
Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text
${events.join('\n')}
`;
}

function eventsOf(
  canvas: Pick<CaptionCanvas, 'font' | 'measureText'>,
  { lines, style, follows }: CaptionTrack,
  size: { width: number; height: number },
  from: number,
): string[] {
  const face = captionFonts[style.font];
  const events: string[] = [];
  const outline = assColour(style.outline);
  let name = '';
  const say = (layer: number, start: number, end: number, text: string) =>
    events.push(`Dialogue: ${layer},${clock(start - from)},${clock(end - from)},Caption,${name},0,0,0,,${text}`);
  for (const line of lines) {
    if (line.end <= from) continue;
    name = (line.words[0]?.speaker ?? '').replace(/[,\n\r]/g, ' ');
    const { rows, em, outline: border, box } = layoutCaption(canvas, line, style, size);
    if (box) {
      const { bgr, alpha } = assColour(style.box!);
      const fade = style.motion === 'fade' ? `\\fad(${comesIn * 1000},0)` : '';
      say(
        0,
        line.start,
        line.end,
        `{\\an7\\pos(0,0)\\bord0\\shad0\\c${bgr}\\1a${alpha}${fade}\\p1}${roundBox(box)}{\\p0}`,
      );
    }
    for (const { start, end, lit } of follows ? litStretches(line) : wholeStretch(line))
      for (const row of rows) {
        const since = start - line.start;
        const left = Math.round((comesIn - since) * 1000);
        const { opacity, scale } = captionMotion(style, since);
        const fade =
          style.motion === 'fade' && left > 0
            ? `\\alpha&H${Math.round(255 * (1 - opacity))
                .toString(16)
                .padStart(2, '0')
                .toUpperCase()}&\\t(0,${left},\\alpha&H00&)`
            : '';
        const pop =
          style.motion === 'pop' && left > 0
            ? `\\fscx${number(scale * 100)}\\fscy${number(scale * 100)}\\t(0,${left},\\fscx100\\fscy100)`
            : '';
        const words = row.words
          .map(
            ({ text, index }) =>
              `{\\c${assColour(wordColour(style, index === lit, line.words[index]!)).bgr}}${escaped(text)}`,
          )
          .join(' ');
        // Its size counts from ascent to descent in ASS, the em on screen.
        say(
          1,
          start,
          end,
          `{\\an5\\pos(${number(row.middle.x)},${number(row.middle.y)})\\fs${number(em * (face.ascent + face.descent))}\\bord${number(border)}\\3c${outline.bgr}${fade}${pop}}${words}`,
        );
      }
  }
  return events;
}

/** A box with round corners as an ASS drawing; corners are Bézier curves. */
function roundBox({
  x,
  y,
  width,
  height,
  radius: r,
}: {
  x: number;
  y: number;
  width: number;
  height: number;
  radius: number;
}): string {
  const [right, bottom] = [x + width, y + height];
  // Off the end of a quarter circle by this share of its radius lie the handles of the curve that looks like it.
  const k = r * (1 - 0.5523);
  const p = (...values: number[]) => values.map(number).join(' ');
  return [
    `m ${p(x + r, y)}`,
    `l ${p(right - r, y)}`,
    `b ${p(right - k, y, right, y + k, right, y + r)}`,
    `l ${p(right, bottom - r)}`,
    `b ${p(right, bottom - k, right - k, bottom, right - r, bottom)}`,
    `l ${p(x + r, bottom)}`,
    `b ${p(x + k, bottom, x, bottom - k, x, bottom - r)}`,
    `l ${p(x, y + r)}`,
    `b ${p(x, y + k, x + k, y, x + r, y)}`,
  ].join(' ');
}
