import type { Range } from '#core/time';
import { inputArguments } from '../process';
import { heardOf } from '../probe/heard';
import { runFfmpeg } from '../runFfmpeg';

const sampleRate = 48_000;
/** So long one part goes over into the next, right before the beat on which they meet: the stroke there stays whole. */
const crossSeconds = 0.03;

/** A stretch of a piece of music, in seconds of it. */
export interface MusicStretch extends Range {
  file: string;
  gainDb: number;
}

/**
 * Writes stretches of music one after the other, as FLAC. Each begins to the sample where the one before it ends; the
 * end of one and what lies before the start of the next are crossed, at equal power, or at equal amplitude within one
 * song, whose two sides sound alike there.
 * @throws MediaError with the reason; Cancelled
 */
export async function joinMusic(
  stretches: readonly MusicStretch[],
  output: string,
  options: { signal?: AbortSignal; onProgress?(share: number): void } = {},
): Promise<void> {
  const samples = (seconds: number) => Math.round(seconds * sampleRate);
  const graph: string[] = [];
  let at = 0;
  for (const [index, { file, start, end, gainDb }] of stretches.entries()) {
    const [before, next] = [stretches[index - 1], stretches[index + 1]];
    const lead = before ? Math.min(samples(crossSeconds), samples(start)) : 0;
    const curve = (other: MusicStretch) => (other.file === file ? 'tri' : 'qsin');
    const length = samples(end) - samples(start) + lead;
    const tail = Math.min(samples(crossSeconds), length);
    const heard = heardOf(index, [{ track: 0, channel: null }], `heard${index}`);
    const steps = [
      'aresample=async=1:first_pts=0',
      `aresample=${sampleRate}`,
      'aformat=sample_fmts=fltp:channel_layouts=stereo',
      `atrim=start_sample=${samples(start) - lead}:end_sample=${samples(end)}`,
      'asetpts=PTS-STARTPTS',
      `volume=${gainDb.toFixed(2)}dB`,
      ...(before && lead > 0 ? [`afade=t=in:curve=${curve(before)}:ss=0:ns=${lead}`] : []),
      ...(next ? [`afade=t=out:curve=${curve(next)}:ss=${length - tail}:ns=${tail}`] : []),
      `adelay=delays=${at - lead}S:all=1`,
    ];
    graph.push(...heard.graph, `${heard.label}${steps.join(',')}[part${index}]`);
    at += samples(end) - samples(start);
  }
  const parts = stretches.map((_, index) => `[part${index}]`).join('');
  graph.push(`${parts}amix=inputs=${stretches.length}:duration=longest:normalize=0[all]`);
  await runFfmpeg(
    [
      ...['-v', 'error', '-nostdin', '-y'],
      ...stretches.flatMap(({ file }) => inputArguments(file)),
      ...['-filter_complex', graph.join(';'), '-map', '[all]', '-map_metadata', '-1'],
      ...['-c:a', 'flac', '-sample_fmt', 's32', '-f', 'flac', output],
    ],
    options.signal,
    (seconds) => options.onProgress?.(Math.min(0.99, (seconds * sampleRate) / at)),
  );
}
