import { goesOn, joinSampleRate } from '#core/sound';
import { plainCoding } from '#core/picture';
import { capture } from '../capture';
import { inputArguments } from '../process';
import { heardAlone } from '../probe/heard';
import { probe, type Probe } from '../probe/probe';
import { streamOf } from '../probe/shown';

/** What is compared on both sides of a join, in seconds. */
const reachSeconds = { sound: 3, picture: 1.5 };
const small = { width: 64, height: 36 };
const bytes = small.width * small.height;
/** Pictures that change less than this from one file to the next show the same; mean difference of grey, of 255. */
const leastChange = 6;
/** How much more than from frame to frame they may change at the join. */
const margin = 3;

/** Whether a file goes on in another by what is heard and seen there; false as well when there is neither. */
export async function joinsWithoutBreak(before: string, after: string, signal?: AbortSignal): Promise<boolean> {
  const [one, other] = await Promise.all([probe(before), probe(after)]);
  const isFilm = one.kind === 'video' && other.kind === 'video';
  const isHeard = one.hasSound && other.hasSound;
  if (one.hasSound !== other.hasSound || (!isFilm && !isHeard)) return false;
  if (isFilm && !(await looksUnbroken([before, one], [after, other], signal))) return false;
  if (!isHeard) return true;
  return goesOn(await soundAt(before, 'end', signal), await soundAt(after, 'start', signal));
}

async function soundAt(file: string, side: 'start' | 'end', signal?: AbortSignal): Promise<Float32Array> {
  const seconds = String(reachSeconds.sound);
  const out = await capture(
    'ffmpeg',
    [
      ...['-v', 'error', '-nostdin', ...(side === 'end' ? ['-sseof', `-${seconds}`] : ['-t', seconds])],
      ...inputArguments(file),
      ...[...heardAlone([{ track: 0, channel: null }]), '-ac', '1', '-ar', String(joinSampleRate), '-f', 'f32le', '-'],
    ],
    { signal },
  );
  return new Float32Array(out.buffer.slice(out.byteOffset, out.byteOffset + out.byteLength - (out.byteLength % 4)));
}

type File = [path: string, info: Probe];

async function looksUnbroken(before: File, after: File, signal?: AbortSignal): Promise<boolean> {
  const [end, start] = [await framesAt(before, 'end', signal), await framesAt(after, 'start', signal)];
  if (end.length < 2 || start.length < 2) return false;
  const changes = [end, start].flatMap((frames) => frames.slice(1).map((frame, at) => changeOf(frames[at]!, frame)));
  return changeOf(end.at(-1)!, start[0]!) <= Math.max(leastChange, margin * Math.max(...changes));
}

async function framesAt([file, info]: File, side: 'start' | 'end', signal?: AbortSignal): Promise<Uint8Array[]> {
  const seconds = String(reachSeconds.picture);
  const out = await capture(
    'ffmpeg',
    [
      ...['-v', 'error', '-nostdin', ...(side === 'end' ? ['-sseof', `-${seconds}`] : ['-t', seconds])],
      ...inputArguments(file),
      ...['-map', `0:${streamOf(info.coding ?? plainCoding)}`, '-vf'],
      ...[`scale=${small.width}:${small.height}:flags=area,format=gray`, '-f', 'rawvideo', '-'],
    ],
    { signal },
  );
  return Array.from({ length: Math.floor(out.length / bytes) }, (_, at) =>
    Uint8Array.from(out.subarray(at * bytes, (at + 1) * bytes)),
  );
}

const changeOf = (a: Uint8Array, b: Uint8Array): number =>
  a.reduce((sum, value, at) => sum + Math.abs(value - b[at]!), 0) / a.length;
