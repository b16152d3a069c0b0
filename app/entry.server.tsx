import { PassThrough } from 'node:stream';
import { createReadableStreamFromReadable } from '@react-router/node';
import { renderToPipeableStream } from 'react-dom/server';
import { isRouteErrorResponse, ServerRouter, type EntryContext, type HandleErrorFunction } from 'react-router';
import { warmThreads } from '#usecases/inThreads';
import { newNonce, pagePolicy } from './server/headers.server';
import { logFault } from './server/log.server';
import { NonceContext } from './ui/nonce';

warmThreads();

/** Milliseconds after which a page that is not whole by then is given up. */
const renderMilliseconds = 6000;

/** Renders a page as HTML. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
): Promise<Response> | Response {
  if (request.method === 'HEAD') return new Response(null, { status, headers });
  const nonce = newNonce();
  const page = (
    <NonceContext value={nonce}>
      <ServerRouter context={context} url={request.url} nonce={nonce} />
    </NonceContext>
  );
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => abort(), renderMilliseconds);
    const { pipe, abort } = renderToPipeableStream(page, {
      nonce,
      onShellReady() {
        headers.set('Content-Type', 'text/html; charset=utf-8');
        headers.set('Content-Security-Policy', pagePolicy(nonce));
        const body = new PassThrough();
        body.once('close', () => clearTimeout(timer));
        pipe(body);
        resolve(new Response(createReadableStreamFromReadable(body), { status, headers }));
      },
      onShellError: reject,
      onError: (error) => logFault(error, request),
    });
  });
}

/** Faults of loaders, actions and screens. A request that was broken off is none. */
export const handleError: HandleErrorFunction = (error, { request }) => {
  // What no route takes was refused by the router, and is no fault.
  const isRefused = isRouteErrorResponse(error) && error.status < 500;
  if (!request.signal.aborted && !isRefused) logFault(error, request);
};
