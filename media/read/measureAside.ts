import type { Readable } from 'node:stream';
import { Worker } from 'node:worker_threads';
import type { FaceSample, ObjectSample } from '#core/picture';
import type { MeasuredPicture } from './measurePicture';
import type { ReadPlan } from './readPlan';

/** What can be measured of a stream of frames, and what comes of it. */
export interface Measured {
  picture: MeasuredPicture;
  faces: FaceSample[];
  objects: ObjectSample[];
}
export type Measure = keyof Measured;
export type MeasuringPlan = Pick<ReadPlan, 'rate' | 'gray' | 'colour'>;

/** What goes to the thread, and what comes back. */
export type ToMeasurer =
  { kind: 'begin'; measure: Measure; plan: MeasuringPlan } | { kind: 'bytes'; bytes: Uint8Array } | { kind: 'end' };
export type FromMeasurer =
  | { kind: 'taken' }
  | { kind: 'progress'; seconds: number }
  | { kind: 'done'; measured: Measured[Measure] }
  | { kind: 'failed'; message: string };

function withResolvers<Value>() {
  let resolve!: (value: Value) => void;
  let reject!: (error: Error) => void;
  const promise = new Promise<Value>((done, failed) => ([resolve, reject] = [done, failed]));
  return { promise, resolve, reject };
}

/** So many pieces of a stream are on their way to the thread at most; a pipe gives 64 KiB at a time. */
const mostOnTheWay = 48;

/** Threads that wait for the next file; a process reads few files at once. */
const idle: Record<Measure, Worker[]> = { picture: [], faces: [], objects: [] };
function open(measure: Measure): Worker {
  const worker = new Worker(new URL('./measuringThread.mjs', import.meta.url), { execArgv: [] });
  // One that ends while nobody uses it is no fault of anybody; the next reading opens another.
  worker.on('error', () => undefined);
  worker.on('exit', () => {
    idle[measure] = idle[measure].filter((other) => other !== worker);
  });
  return worker;
}

/**
 * Measures a stream of frames in a thread of its own. The main one only passes bytes on: as long as nothing is computed
 * there ffmpeg never waits for somebody to read its pipes, and the process goes on answering.
 * @throws Error when the thread ends or the stream breaks
 */
export async function measureAside<Kind extends Measure>(
  measure: Kind,
  stream: Readable,
  { rate, gray, colour }: MeasuringPlan,
  onProgress: (seconds: number) => void = () => undefined,
): Promise<Measured[Kind]> {
  const worker = idle[measure].pop() ?? open(measure);
  // Until it is done its process stays.
  worker.ref();
  let onTheWay = 0;
  let wake: (() => void) | null = null;
  const tell = (message: ToMeasurer, transfer: ArrayBuffer[] = []) => worker.postMessage(message, transfer);
  const { promise: done, resolve, reject } = withResolvers<Measured[Kind]>();
  const hear = (message: FromMeasurer) => {
    if (message.kind === 'done') resolve(message.measured as Measured[Kind]);
    else if (message.kind === 'failed') reject(new Error(message.message));
    else if (message.kind === 'progress') onProgress(message.seconds);
    else {
      onTheWay--;
      wake?.();
    }
  };
  const lose = (error: unknown) =>
    reject(error instanceof Error ? error : new Error('The thread that measured this has ended.'));
  worker.on('message', hear).on('error', lose).on('exit', lose);
  let isOver = false;
  const over = () => {
    isOver = true;
    wake?.();
  };
  done.then(over, over);
  const send = async () => {
    tell({ kind: 'begin', measure, plan: { rate, gray, colour } });
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      while (onTheWay >= mostOnTheWay && !isOver) await new Promise<void>((free) => (wake = free));
      onTheWay++;
      const bytes = new Uint8Array(chunk);
      tell({ kind: 'bytes', bytes }, [bytes.buffer]);
    }
    tell({ kind: 'end' });
    return done;
  };
  try {
    const measured = await Promise.race([done, send()]);
    worker.off('message', hear).off('error', lose).off('exit', lose);
    worker.unref();
    idle[measure].push(worker);
    return measured;
  } catch (error) {
    await worker.terminate();
    throw error;
  }
}
