import { once } from 'node:events';
import { affineOf, type Affine, type Size, type View } from '#core/framing';
import { Cancelled, MediaError, closing, diskFull, inputArguments } from '../process';
import { startProgram } from '../startProgram';
import { asShown, beforeInput, noLongerThan, streamOf, type LookedCoding } from '../probe/shown';

export interface WarpJob {
  file: string;
  photo: boolean;
  coding: LookedCoding;
  /** Where the piece begins in its source, in seconds, and how fast it runs. */
  sourceSeconds: number;
  speed: number;
  /** Frames of the result that are decoded before it and dropped. */
  lead?: number;
  /** Frames a second of the result, as ffmpeg writes it. */
  fps: string;
  /** A source that is decoded at this size; the result has `frame`'s. */
  source: Size;
  frame: Size;
  /** One for every frame of the result; of the upper half when there is a lower one. */
  views: readonly View[];
  /** Of the lower half of the frame. */
  below?: readonly View[];
  /** What a view shows beyond the picture: its edge drawn out and blurred. */
  blurBeyond: boolean;
}

/**
 * Shows a piece through moving views, into a lossless file of exactly as many frames as there are views. Pixels between
 * pixels are interpolated bilinearly.
 * @throws MediaError, Cancelled
 */
export async function warpPiece(job: WarpJob, output: string, signal?: AbortSignal): Promise<void> {
  const { source, frame, views } = job;
  let lead = job.photo || job.speed === 0 ? 0 : (job.lead ?? 0);
  const inSource = (frames: number) => (frames / evaluate(job.fps)) * job.speed;
  const from = job.photo
    ? []
    : [
        '-ss',
        Math.max(0, job.sourceSeconds - inSource(lead) - 1e-4).toFixed(6),
        '-t',
        (Math.max(inSource(views.length + lead), 0.01) + 0.5).toFixed(6),
      ];
  const rate = job.photo
    ? ''
    : `${job.speed !== 1 && job.speed > 0 ? `setpts=PTS/${job.speed},` : ''}fps=${job.fps}:start_time=0:round=near,${noLongerThan((views.length + lead) / evaluate(job.fps))}`;
  const decoder = startProgram<'out'>(
    'ffmpeg',
    [
      '-v',
      'error',
      '-nostdin',
      ...from,
      ...beforeInput(job.coding),
      ...inputArguments(job.file),
      '-map',
      `0:${streamOf(job.coding)}`,
      '-vf',
      `${asShown(job.coding, { longest: Math.max(source.width, source.height) })}${rate}scale=${source.width}:${source.height}:flags=bicubic,format=yuv420p`,
      '-f',
      'rawvideo',
      '-',
    ],
    ['ignore', 'pipe', 'ignore'],
    { signal },
  );
  const encoder = startProgram<'in' | 'words'>(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      '-s',
      `${frame.width}x${frame.height}`,
      '-r',
      job.fps,
      '-i',
      'pipe:0',
      '-c:v',
      'libx264',
      '-preset',
      'ultrafast',
      '-qp',
      '0',
      '-f',
      'matroska',
      '-fflags',
      '+bitexact',
      output,
    ],
    ['pipe', 'ignore', 'pipe'],
    { signal },
  );
  const ended = [closing(decoder, signal), closing(encoder, signal)];
  for (const end of ended) end.catch(() => undefined);
  const gone = ended[1]!.catch(() => undefined);
  let words = '';
  encoder.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-2000)));
  encoder.stdin.on('error', () => undefined);
  const out = Buffer.alloc((frame.width * frame.height * 3) / 2);
  const halfFrame = { width: frame.width, height: frame.height / 2 };
  const halfOut = Buffer.alloc(job.below ? (frame.width * halfFrame.height * 3) / 2 : 0);
  let done = 0;
  let last: Buffer | null = null;
  const show = async (picture: Buffer) => {
    if (job.below) {
      for (const [index, list] of [views, job.below].entries()) {
        warpFrame(picture, source, halfOut, halfFrame, affineOf(list[done]!, source, halfFrame), job.blurBeyond);
        putHalf(halfOut, halfFrame, out, frame, index);
      }
    } else warpFrame(picture, source, out, frame, affineOf(views[done]!, source, frame), job.blurBeyond);
    done++;
    if (!encoder.stdin.write(Buffer.from(out)) && !encoder.stdin.destroyed)
      await Promise.race([once(encoder.stdin, 'drain'), gone]);
  };
  try {
    for await (const picture of frames(decoder.stdout, (source.width * source.height * 3) / 2)) {
      last = picture;
      if (lead-- > 0) continue;
      if (done < views.length) await show(picture);
      if (done >= views.length || job.photo || job.speed === 0) break;
    }
    if (!last) throw new MediaError('A piece that is to be steadied or moved could not be decoded.');
    // A photo, a held frame, and a source that ends early are shown on.
    while (done < views.length && encoder.exitCode === null) await show(last);
  } catch (error) {
    decoder.kill('SIGKILL');
    encoder.kill('SIGKILL');
    if (signal?.aborted) throw new Cancelled();
    throw error;
  }
  decoder.kill('SIGKILL');
  encoder.stdin.end();
  const [code] = await ended[1]!;
  if (signal?.aborted) throw new Cancelled();
  if (/No space left on device/i.test(words)) throw new MediaError(diskFull);
  if (code !== 0) throw new MediaError('A piece could not be steadied or moved.', { cause: new Error(words) });
}

/** Lays a picture of half the height into the upper or lower half of a planar 4:2:0 picture. */
function putHalf(half: Buffer, { width, height }: Size, whole: Buffer, frame: Size, index: number): void {
  const luma = width * height;
  const all = frame.width * frame.height;
  half.copy(whole, index * luma, 0, luma);
  for (const plane of [0, 1])
    half.copy(
      whole,
      all + (plane * all) / 4 + (index * luma) / 4,
      luma + (plane * luma) / 4,
      luma + ((plane + 1) * luma) / 4,
    );
}

const evaluate = (fps: string): number => {
  const [num, den = 1] = fps.split('/').map(Number);
  return num! / den;
};

async function* frames(stream: NodeJS.ReadableStream, bytes: number): AsyncGenerator<Buffer> {
  let frame = Buffer.allocUnsafe(bytes);
  let filled = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    let at = 0;
    while (at < chunk.length) {
      const count = chunk.copy(frame, filled, at, at + bytes - filled);
      at += count;
      filled += count;
      if (filled < bytes) continue;
      yield frame;
      frame = Buffer.allocUnsafe(bytes);
      filled = 0;
    }
  }
}

/** A planar 4:2:0 picture seen through a view. */
export function warpFrame(
  input: Uint8Array,
  source: Size,
  output: Uint8Array,
  frame: Size,
  affine: Affine,
  blurBeyond: boolean,
): void {
  const luma = source.width * source.height;
  const lumaOut = frame.width * frame.height;
  const half = ({ width, height }: Size): Size => ({ width: width >> 1, height: height >> 1 });
  const halved = { ...affine, c: affine.c / 2, f: affine.f / 2 };
  warpPlane(input, 0, source, output, 0, frame, affine, blurBeyond);
  warpPlane(input, luma, half(source), output, lumaOut, half(frame), halved, blurBeyond);
  warpPlane(input, luma + luma / 4, half(source), output, lumaOut + lumaOut / 4, half(frame), halved, blurBeyond);
}

/** Cells of the rough picture that stands in for what lies beyond the edge. */
const roughCells = 16;

function warpPlane(
  input: Uint8Array,
  start: number,
  { width, height }: Size,
  output: Uint8Array,
  startOut: number,
  frame: Size,
  { a, b, c, d, e, f }: Affine,
  blurBeyond: boolean,
): void {
  const rough = blurBeyond ? roughOf(input, start, width, height) : null;
  const [right, bottom] = [width - 1, height - 1];
  let to = startOut;
  for (let j = 0; j < frame.height; j++) {
    let x = a * 0.5 + b * (j + 0.5) + c - 0.5;
    let y = d * 0.5 + e * (j + 0.5) + f - 0.5;
    for (let i = 0; i < frame.width; i++, x += a, y += d) {
      if (rough && (x < -0.5 || y < -0.5 || x > right + 0.5 || y > bottom + 0.5)) {
        output[to++] = roughAt(rough, x / width, y / height);
        continue;
      }
      const px = x < 0 ? 0 : x > right ? right : x;
      const py = y < 0 ? 0 : y > bottom ? bottom : y;
      const x0 = px | 0;
      const y0 = py | 0;
      const sx = px - x0;
      const sy = py - y0;
      const at = start + y0 * width + x0;
      const across = x0 < right ? 1 : 0;
      const down = y0 < bottom ? width : 0;
      const top = input[at]! + (input[at + across]! - input[at]!) * sx;
      const low = input[at + down]! + (input[at + down + across]! - input[at + down]!) * sx;
      output[to++] = top + (low - top) * sy + 0.5;
    }
  }
}

function roughOf(input: Uint8Array, start: number, width: number, height: number): Float32Array {
  const sums = new Float32Array(roughCells * roughCells);
  const counts = new Float32Array(roughCells * roughCells);
  for (let y = 0; y < height; y += 4)
    for (let x = 0; x < width; x += 4) {
      const cell = (((y * roughCells) / height) | 0) * roughCells + (((x * roughCells) / width) | 0);
      sums[cell]! += input[start + y * width + x]!;
      counts[cell]!++;
    }
  return sums.map((sum, cell) => sum / Math.max(1, counts[cell]!));
}

/** The rough picture mirrored at its edges, between cells interpolated. */
function roughAt(rough: Float32Array, x: number, y: number): number {
  const mirrored = (value: number) => (value < 0 ? -value : value > 1 ? 2 - value : value);
  const px = Math.min(roughCells - 1.001, Math.max(0, mirrored(x) * roughCells - 0.5));
  const py = Math.min(roughCells - 1.001, Math.max(0, mirrored(y) * roughCells - 0.5));
  const [x0, y0] = [px | 0, py | 0];
  const [sx, sy] = [px - x0, py - y0];
  const at = y0 * roughCells + x0;
  const top = rough[at]! * (1 - sx) + rough[at + 1]! * sx;
  const low = rough[at + roughCells]! * (1 - sx) + rough[at + roughCells + 1]! * sx;
  return top * (1 - sy) + low * sy + 0.5;
}
