import { spawn } from 'node:child_process';
import { rename, rm, stat } from 'node:fs/promises';
import { cutFadeSeconds, planSegments, reelFrames, soundRate, type Reel, type Segment } from '#core/reel';
import { framesToSeconds, type Rate } from '#core/time';
import { Cancelled, MediaError, closing, inputArguments } from './process';

export interface RenderSource {
  file: string;
  hasPicture: boolean;
  hasSound: boolean;
  photo: boolean;
}

export interface RenderOptions {
  size: { width: number; height: number };
  signal?: AbortSignal;
  onProgress?(share: number): void;
}

/**
 * Renders a reel to MP4 (H.264 High, yuv420p, AAC 48 kHz, index first). The file appears whole or not at all.
 * @param sources by media id
 * @throws MediaError when footage is missing, the disk is full or ffmpeg fails; Cancelled
 */
export async function renderReel(reel: Reel, sources: ReadonlyMap<string, RenderSource>, output: string, options: RenderOptions): Promise<void> {
  const segments = planSegments(reel);
  if (segments.length === 0) throw new MediaError('The reel is empty; there is nothing to render.');
  for (const segment of segments) {
    const source = sources.get(segment.media);
    if (!source || !(await stat(source.file).then((stats) => stats.size > 0, () => false)))
      throw new MediaError(`The footage of “${segment.name}” is missing. Bring it in again or take the piece out.`);
  }
  const part = `${output}.part.mp4`;
  const args = renderArguments(segments, sources, reel.rate, options.size, part);
  const total = framesToSeconds(reelFrames(reel), reel.rate);
  const child = spawn('ffmpeg', args, { stdio: ['ignore', 'pipe', 'pipe'], signal: options.signal, killSignal: 'SIGKILL' });
  const ended = closing(child, options.signal);
  let words = '';
  child.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-4000)));
  child.stdout.on('data', (chunk: Buffer) => {
    const time = /out_time_us=(\d+)/.exec(chunk.toString());
    if (time) options.onProgress?.(Math.min(0.999, Number(time[1]) / 1e6 / total));
  });
  try {
    const [code] = await ended;
    if (options.signal?.aborted) throw new Cancelled();
    if (/No space left on device/i.test(words)) throw new MediaError('The disk is full. Free some space and render again; nothing was left half done.');
    if (code !== 0) throw new MediaError('The render stopped before its end. Try again; if it stops again, a piece of the footage may be damaged.', { cause: new Error(words) });
    await rename(part, output);
  } finally {
    await rm(part, { force: true });
  }
}

/** The whole ffmpeg command for a reel: one input per piece, sought to its start, one graph, one encode. */
export function renderArguments(segments: readonly Segment[], sources: ReadonlyMap<string, RenderSource>, rate: Rate, size: RenderOptions['size'], output: string): string[] {
  const inputs: string[] = [];
  const graph: string[] = [];
  const labels: string[] = [];
  for (const [index, segment] of segments.entries()) {
    const source = sources.get(segment.media)!;
    const seconds = framesToSeconds(segment.frames, rate);
    if (source.photo) inputs.push('-loop', '1', '-framerate', `${rate.num}/${rate.den}`, '-t', (seconds + 0.2).toFixed(6));
    else inputs.push('-ss', Math.max(0, segment.sourceSeconds - 1e-4).toFixed(6), '-t', (seconds + 0.5).toFixed(6));
    inputs.push('-threads', '2', ...inputArguments(source.file));
    graph.push(source.hasPicture ? pictureChain(index, segment, rate, size) : `color=black:s=${size.width}x${size.height}:r=${rate.num}/${rate.den},trim=end_frame=${segment.frames},format=yuv420p,setsar=1[v${index}]`);
    graph.push(soundChain(index, segment, source.hasSound && !source.photo));
    labels.push(`[v${index}][a${index}]`);
  }
  graph.push(`${labels.join('')}concat=n=${segments.length}:v=1:a=1[v][a]`);
  return [
    '-v', 'error', '-nostdin', '-y', '-progress', 'pipe:1', ...inputs, '-filter_complex', graph.join(';'), '-map', '[v]', '-map', '[a]',
    '-c:v', 'libx264', '-profile:v', 'high', '-preset', 'veryfast', '-crf', '20', '-pix_fmt', 'yuv420p', '-r', `${rate.num}/${rate.den}`,
    '-c:a', 'aac', '-b:a', '192k', '-ar', String(soundRate), '-movflags', '+faststart', '-map_metadata', '-1', '-fflags', '+bitexact', '-flags:v', '+bitexact', '-flags:a', '+bitexact', output,
  ];
}

/** Exactly `frames` frames at the reel's rate and size; the last one is held when the source ends early. */
function pictureChain(index: number, { frames }: Segment, rate: Rate, { width, height }: RenderOptions['size']): string {
  return [
    `[${index}:v:0]fps=${rate.num}/${rate.den}:start_time=0:round=near`,
    `scale=${width}:${height}:force_original_aspect_ratio=decrease:flags=bicubic`,
    `pad=${width}:${height}:-1:-1:color=black`, 'setsar=1', 'format=yuv420p',
    `tpad=stop_mode=clone:stop=${frames}`, `trim=end_frame=${frames}`, `setpts=PTS-STARTPTS[v${index}]`,
  ].join(',');
}

/** Exactly `samples` samples with a short fade at both cuts; silence where the source has none. */
function soundChain(index: number, { samples }: Segment, hasSound: boolean): string {
  const fade = Math.min(Math.round(cutFadeSeconds * soundRate), samples >> 1);
  const source = hasSound
    ? `[${index}:a:0]aresample=${soundRate}:async=1:first_pts=0,aformat=sample_fmts=fltp:channel_layouts=stereo,apad=whole_len=${samples}`
    : `anullsrc=r=${soundRate}:cl=stereo,aformat=sample_fmts=fltp`;
  return `${source},atrim=end_sample=${samples},asetpts=PTS-STARTPTS,afade=t=in:ss=0:ns=${fade},afade=t=out:ss=${samples - fade}:ns=${fade}[a${index}]`;
}
