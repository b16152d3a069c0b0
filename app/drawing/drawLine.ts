import type { Flaw, Footage, Moment } from '#core/moments';
import type { LinePart, Range } from '#core/time';
import type { MarkerKind } from '#usecases/moments';
import { inks } from './inks';
import { drawFrame, drawPhoto, type Sheets } from './sheets';

/** Measures of one line of the page, in CSS pixels. */
export const lineHeight = 84;
export const stripHeight = 44;
const rows = { lamp: 45, faces: 54, speech: 60, hill: 77 };

/** A stretch that is lit, with what it consists of. */
export type LitMoment = Pick<Moment, 'media' | 'start' | 'end' | 'score' | 'shares' | 'kept'>;

export interface LineFile {
  id: string;
  name: string;
  footage: Footage;
  sheets: Sheets | null;
  moments: LitMoment[];
  flaws: Flaw[];
  /** What of it stands in the open reel. */
  used: readonly Range[];
  /** What was asked for and found. */
  found: readonly Range[];
  markers: readonly { id: string; seconds: number; note: string; kind: MarkerKind }[];
}

/** Draws one line: thumbnails in the light of the choice, and the trace band below. */
export function drawLine(
  context: CanvasRenderingContext2D,
  width: number,
  parts: readonly LinePart[],
  files: readonly LineFile[],
): void {
  context.clearRect(0, 0, width, lineHeight);
  for (const part of parts) {
    const file = files[part.index];
    if (!file) continue;
    const x0 = part.from * width;
    const x1 = part.to * width;
    const scale = (x1 - x0) / (part.end - part.start);
    const toX = (seconds: number) => x0 + (seconds - part.start) * scale;
    context.save();
    context.beginPath();
    context.rect(x0, 0, x1 - x0, lineHeight);
    context.clip();
    drawStrip(context, file, part, x0, x1, scale);
    drawLight(context, file, part, toX, x0, x1);
    drawTraces(context, file, part, toX, scale);
    drawUsed(context, file, part, toX);
    drawFound(context, file, part, toX);
    drawMarkers(context, file, part, toX, x1);
    context.restore();
    for (const run of file.footage.runs)
      if (run.kind === 'scene' && run.start > part.start && run.start < part.end)
        boundary(context, toX(run.start), inks().boundary);
    if (!part.first) continue;
    if (part.from > 0) boundary(context, x0, inks().text);
    fileName(context, file.name, x0, x1);
  }
}

function boundary(context: CanvasRenderingContext2D, x: number, colour: string) {
  context.fillStyle = colour;
  context.fillRect(Math.round(x), 0, 1, stripHeight + 4);
}

/** The name where a file begins, as long as it fits. */
function fileName(context: CanvasRenderingContext2D, name: string, x0: number, x1: number) {
  context.font = "12px 'Figtree Variable', sans-serif";
  const room = Math.min(180, x1 - x0 - 8);
  let text = name;
  while (text.length > 3 && context.measureText(text).width > room - 8)
    text = `${text.slice(0, -2)}…`.replace('……', '…');
  const width = context.measureText(text).width + 8;
  if (width > room) return;
  context.fillStyle = inks().label;
  context.beginPath();
  context.roundRect(x0 + 4, 3, width, 17, 4);
  context.fill();
  context.fillStyle = inks().text;
  context.fillText(text, x0 + 8, 15);
}

function drawStrip(
  context: CanvasRenderingContext2D,
  file: LineFile,
  part: LinePart,
  x0: number,
  x1: number,
  scale: number,
) {
  context.fillStyle = inks().raised;
  context.fillRect(x0, 0, x1 - x0, stripHeight);
  if (file.footage.whole) {
    for (let x = x0; x < x1; x += 78) drawPhoto(context, file.id, x, 0, 78, stripHeight);
    return;
  }
  if (!file.sheets) return;
  const width = Math.max(24, Math.min(110, (stripHeight * file.sheets.width) / file.sheets.height));
  for (let x = x0; x < x1; x += width)
    drawFrame(context, file.id, file.sheets, part.start + (x - x0 + width * 0.3) / scale, x, 0, width, stripHeight);
}

/** Light follows the exact kept range: kept at full brightness with a lamp line, the rest dimmed, flaws hatched. */
function drawLight(
  context: CanvasRenderingContext2D,
  file: LineFile,
  part: LinePart,
  toX: (seconds: number) => number,
  x0: number,
  x1: number,
) {
  let from = x0;
  context.fillStyle = inks().dim;
  const seen = file.moments.filter((moment) => moment.end > part.start && moment.start < part.end);
  for (const moment of seen) {
    context.fillRect(from, 0, Math.max(0, toX(moment.start) - from), stripHeight);
    from = Math.max(from, toX(moment.end));
  }
  context.fillRect(from, 0, Math.max(0, x1 - from), stripHeight);
  for (const flaw of file.flaws)
    if (flaw.end > part.start && flaw.start < part.end)
      hatch(
        context,
        toX(flaw.start),
        toX(flaw.end),
        seen.some((moment) => moment.start < flaw.end && moment.end > flaw.start),
      );
  context.shadowColor = inks().glow;
  context.shadowBlur = 5;
  context.fillStyle = inks().lamp;
  for (const moment of seen) {
    const a = Math.max(x0 - 4, toX(moment.start) + 0.5);
    const b = Math.min(x1 + 4, toX(moment.end) - 1);
    if (moment.kept === 'score') context.fillRect(a, rows.lamp, b - a, 2.5);
    else for (let x = a; x < b; x += 8) context.fillRect(x, rows.lamp, Math.min(5, b - x), 2.5);
  }
  context.shadowBlur = 0;
}

/** A light rail along the top edge of what stands in the open reel already. */
function drawUsed(
  context: CanvasRenderingContext2D,
  { used }: LineFile,
  part: LinePart,
  toX: (seconds: number) => number,
) {
  context.fillStyle = inks().text;
  for (const range of used) {
    if (range.end <= part.start || range.start >= part.end) continue;
    const a = toX(range.start);
    const b = toX(range.end);
    context.fillRect(a, 0, b - a, 2);
    context.fillRect(a, 0, 2, 6);
    context.fillRect(b - 2, 0, 2, 6);
  }
}

/** A dotted frame around what was asked for. */
function drawFound(
  context: CanvasRenderingContext2D,
  { found }: LineFile,
  part: LinePart,
  toX: (seconds: number) => number,
) {
  context.strokeStyle = inks().playhead;
  context.lineWidth = 1.5;
  context.setLineDash([2, 3]);
  for (const range of found)
    if (range.end > part.start && range.start < part.end)
      context.strokeRect(toX(range.start) + 1, 1, toX(range.end) - toX(range.start) - 2, stripHeight - 2);
  context.setLineDash([]);
}

/** A shape for each kind of marker, so that colour is not all that tells them apart. */
export const markerShapes: Record<MarkerKind, string> = {
  note: 'M2 2h8v8H2z',
  good: 'M6 1.5a4.5 4.5 0 1 1 0 9a4.5 4.5 0 1 1 0-9z',
  problem: 'M6 1.5l5 9H1z',
  idea: 'M6 1l5 5l-5 5l-5-5z',
};

function drawMarkers(
  context: CanvasRenderingContext2D,
  { markers }: LineFile,
  part: LinePart,
  toX: (seconds: number) => number,
  x1: number,
) {
  context.font = "12px 'Figtree Variable', sans-serif";
  for (const marker of markers) {
    if (marker.seconds < part.start || marker.seconds >= part.end) continue;
    const x = toX(marker.seconds);
    let text = marker.note;
    const room = Math.min(150, x1 - x - 22);
    while (text.length > 3 && context.measureText(text).width > room) text = `${text.slice(0, -2)}…`.replace('……', '…');
    if (context.measureText(text).width > room) text = '';
    const width = 18 + (text ? context.measureText(text).width + 4 : 0);
    context.fillStyle = inks().playhead;
    context.fillRect(x, 0, 1, stripHeight + 4);
    context.beginPath();
    context.roundRect(x, 22, width, 17, [0, 4, 4, 0]);
    context.fill();
    context.fillStyle = inks().ground;
    context.save();
    context.translate(x + 3, 24.5);
    context.fill(new Path2D(markerShapes[marker.kind]));
    context.restore();
    if (text) context.fillText(text, x + 18, 34);
  }
}

function hatch(context: CanvasRenderingContext2D, x0: number, x1: number, kept: boolean) {
  context.save();
  context.beginPath();
  context.rect(x0, 0, x1 - x0, stripHeight);
  context.clip();
  if (!kept) {
    context.fillStyle = inks().dimMore;
    context.fillRect(x0, 0, x1 - x0, stripHeight);
  }
  context.strokeStyle = inks().hatch;
  context.lineWidth = 1;
  context.beginPath();
  for (let x = Math.floor((x0 - stripHeight) / 7) * 7; x < x1; x += 7) {
    context.moveTo(x, stripHeight);
    context.lineTo(x + stripHeight, 0);
  }
  context.stroke();
  context.restore();
}

/** Readings under the strip; each has its own shape as well as its colour. */
function drawTraces(
  context: CanvasRenderingContext2D,
  { footage }: LineFile,
  part: LinePart,
  toX: (seconds: number) => number,
  scale: number,
) {
  const { traces, hz, runs } = footage;
  const value = (values: Float32Array, seconds: number) =>
    values[Math.min(values.length - 1, Math.max(0, Math.floor(seconds * hz)))] ?? 0;
  const step = 2 / scale;
  area(context, inks().sound, 0.38, (add) => {
    for (let t = part.start; t <= part.end; t += step)
      add(toX(t), rows.hill - 5.5 * Math.sqrt(value(traces.wave, t)), rows.hill + 0.8);
  });
  area(context, inks().motion, 0.5, (add) => {
    for (let t = part.start; t <= part.end; t += step) add(toX(t), rows.hill - 13 * value(traces.motion, t), rows.hill);
  });
  context.fillStyle = inks().faces;
  const every = Math.max(1, 26 / scale);
  for (let t = Math.ceil(part.start / every) * every; t < part.end; t += every) {
    const count = Math.min(6, Math.round(value(traces.faces, t)));
    for (let face = 0; face < count; face++) {
      context.beginPath();
      context.arc(toX(t) + 3 + face * 5, rows.faces, 1.7, 0, 7);
      context.fill();
    }
  }
  for (const run of runs) {
    if (run.end <= part.start || run.start >= part.end) continue;
    const a = toX(run.start);
    const b = toX(run.end);
    if (run.kind === 'speech') {
      context.fillStyle = inks().speech;
      context.fillRect(a, rows.speech, Math.max(1.5, b - a - 0.8), 2.5);
    } else if (run.kind === 'shaky') line(context, inks().shake, zigzag(a, b));
    else if (run.kind === 'smooth')
      line(context, inks().camera, [
        [a, 80],
        [Math.min(b, a + 5), 75],
        [Math.max(a, b - 5), 75],
        [b, 80],
      ]);
    else if (run.kind === 'whip') {
      line(context, inks().camera, [
        [a - 4, 71],
        [a, 75],
        [a - 4, 79],
      ]);
      line(context, inks().camera, [
        [a + 1, 71],
        [a + 5, 75],
        [a + 1, 79],
      ]);
    }
  }
}

function area(
  context: CanvasRenderingContext2D,
  colour: string,
  alpha: number,
  points: (add: (x: number, top: number, bottom: number) => void) => void,
) {
  const bottoms: [number, number][] = [];
  context.fillStyle = colour;
  context.globalAlpha = alpha;
  context.beginPath();
  points((x, top, bottom) => {
    if (bottoms.length) context.lineTo(x, top);
    else context.moveTo(x, top);
    bottoms.push([x, bottom]);
  });
  for (const [x, bottom] of bottoms.reverse()) context.lineTo(x, bottom);
  context.fill();
  context.globalAlpha = 1;
}

function line(context: CanvasRenderingContext2D, colour: string, points: [number, number][]) {
  context.strokeStyle = colour;
  context.lineWidth = 1.4;
  context.beginPath();
  for (const [x, y] of points) context.lineTo(x, y);
  context.stroke();
}

function zigzag(from: number, to: number): [number, number][] {
  const points: [number, number][] = [];
  for (let x = from, up = true; x <= to; x += 4, up = !up) points.push([x, up ? 80 : 73]);
  return points;
}
