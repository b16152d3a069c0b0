import { isSameShape, type Fit, type Size, type View } from '#core/framing';
import type { Segment, Fade, Reel } from '#core/reel';
import type { Rate } from '#core/time';
import { escaped } from '../process';
import { fromVideoLevels, toVideoLevels } from '../probe/shown';
import type { Piece } from './stretches';

/** The pictures of a reel as filters. Every chain gives exactly the planned frames at the reel's rate, in the render's size. */
export interface PictureOptions {
  rate: Rate;
  size: Reel['size'];
}

export const fpsOf = ({ num, den }: Rate): string => `${num}/${den}`;

export const blackChain = (label: string, frames: number, { rate, size }: PictureOptions): string =>
  `color=black:s=${size.width}x${size.height}:r=${fpsOf(rate)},trim=end_frame=${frames},format=yuv420p,setsar=1[${label}]`;

export interface Leaf {
  piece: Piece;
  input: number;
  /** Shape of the source, width ÷ height; null when it is not known. */
  shape: number | null;
  fit: Fit;
  /** A `.cube` file. */
  table: string | null;
  /** The one part of the source that is shown, when it is cropped by a still crop. */
  view?: View | null;
  source: Size;
  /** Rendered through moving views already: at its place, size and speed. */
  ready: boolean;
  /** Filters that show it as meant; see `asShown`. */
  shown: string;
  /** Its pictures in the input, as `streamOf` tells them. */
  stream: string;
}

/** One stretch of footage: rate, speed, shape, look, fades. */
export function leafChain(
  { piece, input, stream, shape, fit, table, view, source, ready, shown }: Leaf,
  label: string,
  { rate, size }: PictureOptions,
): string[] {
  const { frames, speed } = piece;
  const lead = ready ? 0 : (piece.lead ?? 0);
  const timed = ready
    ? `fps=${fpsOf(rate)}:start_time=0:round=near,`
    : `${shown}${speed !== 1 && speed > 0 ? `setpts=PTS/${speed},` : ''}fps=${fpsOf(rate)}:start_time=0:round=near,${speed === 0 ? 'trim=end_frame=1,' : ''}`;
  const end = [
    'setsar=1',
    ...(table
      ? [
          `scale=${fromVideoLevels}`,
          'format=gbrp',
          `lut3d=file=${escaped(table)}:interp=trilinear`,
          `scale=${toVideoLevels}`,
        ]
      : []),
    'format=yuv420p',
    `tpad=stop_mode=clone:stop=${frames + lead}`,
    `trim=start_frame=${lead}:end_frame=${lead + frames}`,
    'setpts=PTS-STARTPTS',
    ...fadeFilters(piece),
  ].join(',');
  const graph: string[] = [];
  const { width, height } = size;
  const same = shape !== null && isSameShape({ width: shape, height: 1 }, size);
  if (view) {
    // Scaled so that the view is as wide as the frame, then cut out at whole pixels.
    const [w, h] = [
      Math.max(width, Math.round(width / view.width)),
      Math.max(height, Math.round(((width / view.width) * source.height) / source.width)),
    ];
    const place = (middle: number, all: number, extent: number) =>
      Math.min(all - extent, Math.max(0, Math.round(middle * all - extent / 2)));
    graph.push(
      `[${input}:${stream}]${timed}scale=${w}:${h}:flags=bicubic,crop=${width}:${height}:${place(view.x, w, width)}:${place(view.y, h, height)}:exact=1,${end}[${label}]`,
    );
  } else if (same || fit === 'fill')
    graph.push(
      `[${input}:${stream}]${timed}scale=${width}:${height}:force_original_aspect_ratio=increase:flags=bicubic,crop=${width}:${height},${end}[${label}]`,
    );
  else if (fit === 'blur') {
    // The copy is made small before it is blurred: the same to the eye, a fraction of the work.
    const [w, h] = [Math.max(2, Math.round(width / 16) * 2), Math.max(2, Math.round(height / 16) * 2)];
    graph.push(
      `[${input}:${stream}]${timed}split[${label}a][${label}b]`,
      `[${label}a]scale=${w}:${h}:force_original_aspect_ratio=increase:flags=area,crop=${w}:${h},gblur=sigma=${(Math.min(w, h) / 14).toFixed(2)},scale=${width}:${height}:flags=bicubic,eq=brightness=-0.08,setsar=1[${label}c]`,
      `[${label}b]scale=${width}:${height}:force_original_aspect_ratio=decrease:flags=bicubic,setsar=1[${label}d]`,
      `[${label}c][${label}d]overlay=x=(W-w)/2:y=(H-h)/2,${end}[${label}]`,
    );
  } else
    graph.push(
      `[${input}:${stream}]${timed}scale=${width}:${height}:force_original_aspect_ratio=decrease:flags=bicubic,pad=${width}:${height}:-1:-1:color=black,${end}[${label}]`,
    );
  return graph;
}

function fadeFilters({ frames, fadeIn, fadeOut }: Segment): string[] {
  const fade = (kind: 'in' | 'out', { frames: length, colour }: Fade) =>
    `fade=t=${kind}:start_frame=${kind === 'in' ? 0 : frames - length}:nb_frames=${length}:color=${colour}`;
  return [...(fadeIn ? [fade('in', fadeIn)] : []), ...(fadeOut ? [fade('out', fadeOut)] : [])];
}

const crossNames = { dissolve: 'fade', push: 'slideleft', wipe: 'wipeleft', black: 'fadeblack', white: 'fadewhite' };

/** Two chains of equal length over one another. */
export const crossChain = (from: string, to: string, label: string, segment: Segment, rate: Rate): string =>
  `[${from}][${to}]xfade=transition=${crossNames[segment.cross!.kind]}:duration=${((segment.frames * rate.den) / rate.num).toFixed(6)}:offset=0,trim=end_frame=${segment.frames},tpad=stop_mode=clone:stop=1,trim=end_frame=${segment.frames},setpts=PTS-STARTPTS[${label}]`;
