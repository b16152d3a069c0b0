import { parentPort } from 'node:worker_threads';
import type { FromMeasurer, Measured, MeasuringPlan, Measure, ToMeasurer } from './measureAside';

type Bytes = AsyncIterable<Uint8Array>;
/** What each kind of thread does; nets are loaded only where they are needed. */
const measures: { [Kind in Measure]: (bytes: Bytes, plan: MeasuringPlan) => Promise<Measured[Kind]> } = {
  picture: async (bytes, plan) =>
    (await import('./measurePicture')).measurePicture(bytes, plan, (seconds) => answer({ kind: 'progress', seconds })),
  faces: async (bytes, plan) => (await import('./measureFaces')).measureFaces(bytes, plan),
  objects: async (bytes) => (await import('./measureFaces')).measureObjects(bytes),
};

/** The thread behind `measureAside`: one stream after the other. */
const port = parentPort!;
const answer = (message: FromMeasurer) => port.postMessage(message);

/** Bytes as they come; each is confirmed when the next one is asked for, so that not too many are on their way. */
async function* arriving(): AsyncGenerator<Uint8Array> {
  for (;;) {
    const message = waiting.shift() ?? (await new Promise<ToMeasurer>((take) => (wake = take)));
    if (message.kind !== 'bytes') return;
    yield message.bytes;
    answer({ kind: 'taken' });
  }
}
const waiting: ToMeasurer[] = [];
let wake: ((message: ToMeasurer) => void) | null = null;

port.on('message', (message: ToMeasurer) => {
  if (message.kind === 'begin')
    return void measures[message.measure](arriving(), message.plan).then(
      (measured) => answer({ kind: 'done', measured }),
      (error: unknown) => answer({ kind: 'failed', message: error instanceof Error ? error.message : String(error) }),
    );
  const take = wake;
  wake = null;
  if (take) take(message);
  else waiting.push(message);
});
