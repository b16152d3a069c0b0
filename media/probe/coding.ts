import { isOrientation, type FieldOrder, type Orientation, type PictureCoding } from '#core/picture';
import { capture } from '../capture';
import { inputArguments } from '../process';

/** What ffprobe says of a stream with pictures. */
export interface PictureStream {
  index: number;
  codec_name?: string;
  width?: number;
  height?: number;
  pix_fmt?: string;
  sample_aspect_ratio?: string;
  field_order?: string;
  color_space?: string;
  color_transfer?: string;
  color_primaries?: string;
  color_range?: string;
  r_frame_rate?: string;
  side_data_list?: {
    displaymatrix?: string;
    rotation?: number;
    max_luminance?: string;
    max_content?: number;
  }[];
}

/** How the pictures of a stream are coded by what the file says; `fields` as flagged. */
export function codingOf(stream: PictureStream, isPhoto: boolean): PictureCoding {
  const format = stream.pix_fmt ?? '';
  const { width = 0, height = 0 } = stream;
  const hdr = stream.color_transfer === 'smpte2084' ? 'pq' : stream.color_transfer === 'arib-std-b67' ? 'hlg' : null;
  return {
    stream: stream.index,
    still: isPhoto,
    width,
    height,
    orientation: orientationOf(stream),
    pixelAspect: isPhoto ? { num: 1, den: 1 } : aspectOf(stream.sample_aspect_ratio),
    fields: isPhoto ? null : flaggedFields(stream),
    hdr,
    peakNits: hdr === 'pq' ? peakOf(stream) : 1000,
    wideGamut: stream.color_primaries === 'bt2020',
    matrix: matrixOf(stream, isPhoto),
    fullRange: stream.color_range === 'pc' || format.startsWith('yuvj'),
    alpha: /^(yuva|rgba|bgra|argb|abgr|gbrap|ya8|ya16|pal8)/.test(format),
  };
}

function matrixOf({ color_space: named = '', pix_fmt: format = '', height = 0 }: PictureStream, isPhoto: boolean) {
  if (/^(rgb|bgr|gbr|argb|abgr|0rgb|0bgr|pal8|gray|ya|mono)/.test(format)) return 'rgb';
  if (/^(smpte170m|bt470bg|fcc)$/.test(named)) return 'bt601';
  if (named === 'bt709' || named === 'smpte240m') return named;
  if (named.startsWith('bt2020')) return 'bt2020';
  // Where nothing is said: JFIF has it for photos; by height for films. Common practice, no source.
  return isPhoto || height < 720 ? 'bt601' : 'bt709';
}

/** Pixel aspects beyond this are mistakes. */
const oddest = 4;
function aspectOf(text: string | undefined): PictureCoding['pixelAspect'] {
  const [num, den] = (text ?? '').split(':').map(Number);
  const known = num && den && num > 0 && den > 0 && num / den <= oddest && den / num <= oddest;
  return known ? { num, den } : { num: 1, den: 1 };
}

/** Second letter of ffprobe's word: which field is shown first. */
const flaggedFields = ({ field_order: order = '' }: PictureStream): FieldOrder | null =>
  /^[tb]t$/.test(order) ? 'top' : /^[tb]b$/.test(order) ? 'bottom' : null;

/** Columns and rows that a display matrix (ISO/IEC 14496-12, 6.2.2) takes x and y to, by EXIF's value. */
const matrices: [orientation: Orientation, signs: string][] = [
  [1, '1 0 0 1'],
  [2, '-1 0 0 1'],
  [3, '-1 0 0 -1'],
  [4, '1 0 0 -1'],
  [5, '0 1 1 0'],
  [6, '0 1 -1 0'],
  [7, '0 -1 -1 0'],
  [8, '0 -1 1 0'],
];

/** How a film lies by its display matrix; turns by other angles than a quarter go to the nearest. */
function orientationOf({ side_data_list: sides = [] }: PictureStream): Orientation {
  const text = sides.find((side) => side.displaymatrix)?.displaymatrix;
  if (!text) return 1;
  const rows = [...text.matchAll(/^\s*[0-9a-f]+:((?:\s+-?\d+)+)\s*$/gim)].map((row) =>
    row[1]!.trim().split(/\s+/).map(Number),
  );
  const [a = 0, b = 0] = rows[0] ?? [];
  const [c = 0, d = 0] = rows[1] ?? [];
  const upright = Math.abs(a) + Math.abs(d) >= Math.abs(b) + Math.abs(c);
  const signs = (upright ? [a, 0, 0, d] : [0, b, c, 0]).map(Math.sign).join(' ');
  const found = matrices.find(([, each]) => each === signs)?.[0];
  return isOrientation(found) ? found : 1;
}

/** Brightest light by what the file says of its content or its mastering screen; 1000 cd/m² where that is not to be believed. */
function peakOf({ side_data_list: sides = [] }: PictureStream): number {
  const content = Math.max(0, ...sides.map((side) => side.max_content ?? 0));
  const [num, den = 1] = (sides.find((side) => side.max_luminance)?.max_luminance ?? '').split('/').map(Number);
  const said = content || (num ? num / den : 0) || 1000;
  // In steps, so that few tables are needed.
  return [400, 600, 1000, 2000, 4000].find((step) => said <= step * 1.1) ?? 4000;
}

/** Heights of pictures that may be interlaced: SMPTE ST 125 and BT.601, and BT.709. */
const fieldHeights = new Set([480, 486, 512, 576, 608, 1080, 1088]);

/**
 * Whether and how pictures are interlaced, by what the file says and by what can be seen in it: cameras flag as
 * interlaced what was filmed whole, and transfers forget the flag. Looks at some stretches where there is any doubt.
 */
export async function settleFields(
  file: string,
  coding: PictureCoding,
  durationSeconds: number,
  fps: number,
  isFlaggedWhole: boolean,
): Promise<FieldOrder | null> {
  const { fields, height } = coding;
  const slow = fps > 23 && fps < 30.1;
  // Fields come at 50 or 59.94 a second; film at 24 has none.
  const rare = !slow || Math.abs(fps - 24) < 0.1;
  if (!fields && (!fieldHeights.has(height) || rare || (isFlaggedWhole && height > 608))) return null;
  const spots = durationSeconds < 6 ? [0] : [0.2, 0.5, 0.8].map((share) => share * durationSeconds);
  const counts = await Promise.all(spots.map((spot) => countFields(file, coding.stream, spot)));
  const sum = (kind: keyof FieldCount) => counts.reduce((all, count) => all + count[kind], 0);
  const [top, bottom, whole] = [sum('top'), sum('bottom'), sum('whole')];
  if (fields) return whole >= 8 && top + bottom < whole / 8 ? null : fields;
  const seen = Math.max(top, bottom);
  return seen >= 8 && seen > 2 * whole && seen > 4 * Math.min(top, bottom) ? (top > bottom ? 'top' : 'bottom') : null;
}

interface FieldCount {
  top: number;
  bottom: number;
  whole: number;
}
const fieldFrames = 25;

/** What ffmpeg's `idet` counts in a second of pictures. */
async function countFields(file: string, stream: number, seconds: number): Promise<FieldCount> {
  const said = await capture('ffmpeg', [
    ...['-hide_banner', '-nostdin', '-nostats', '-ss', seconds.toFixed(2), '-noautorotate', '-an'],
    ...inputArguments(file),
    ...[
      '-map',
      `0:${stream}`,
      '-frames:v',
      String(fieldFrames),
      '-vf',
      'idet,metadata=print:file=-',
      '-f',
      'null',
      '-',
    ],
  ]).then(
    (out) => out.toString(),
    () => '',
  );
  // The last frame has the sums.
  const last = (name: string) =>
    Number([...said.matchAll(new RegExp(`multiple\\.${name}=([\\d.]+)`, 'g'))].at(-1)?.[1] ?? 0);
  return { top: last('tff'), bottom: last('bff'), whole: last('progressive') };
}
