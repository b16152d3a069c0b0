/** A thread of the web server: answers the use cases that `threads.ts` sends it, several at a time. */
import { parentPort } from 'node:worker_threads';
import { heavy } from './heavy';
import type { ThreadAnswer, ThreadCall } from './threads';

const port = parentPort!;
const useCases = heavy as unknown as Record<string, (...given: unknown[]) => Promise<unknown>>;

/** What of a fault whoever called it looks at. */
function faultOf(error: unknown): ThreadAnswer['fault'] {
  const { name, message, code, stack } = (
    error instanceof Error ? error : new Error(String(error))
  ) as NodeJS.ErrnoException;
  return { name, message, ...(code === undefined ? {} : { code }), ...(stack === undefined ? {} : { stack }) };
}

port.on('message', ({ id, name, given }: ThreadCall) => {
  useCases[name]!(...given).then(
    (value) => port.postMessage({ id, value } satisfies ThreadAnswer),
    (error: unknown) => port.postMessage({ id, fault: faultOf(error) } satisfies ThreadAnswer),
  );
});
