import { join } from 'node:path';
import { createRequestHandler } from '@react-router/express';
import compression from 'compression';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import type { ServerBuild } from 'react-router';

/** What screens, tools and uploads send; nothing else is asked here. */
const methods = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'];
/** Longer addresses are no address of ours. */
const longestAddress = 8000;
/** Whoever is at the other end of the line; see `guard`. */
const peerHeader = 'x-bright-reel-peer';

/**
 * What is taken away as a file: no screen asks for the data of it, for which all of it would have to be held at once.
 * React Router takes the ending off before anything of ours sees the address.
 */
const fileData =
  /^\/(upload|archives|health|ready|metrics|media\/[^/]+(\/(raw|levels|excerpt|camera|faces|sheets\/[^/]+))?|outputs\/[^/]+(\/captions)?|viewing\/[^/]+\/film\/[^/]+|projects\/[^/]+\/(archive|outputs\/archive|reels\/[^/]+\/export\/[^/]+))\.data$/;

const refuse: RequestHandler = (request, response, next) => {
  const { method, url, headers } = request;
  const say = (status: number, sentence: string) => void response.status(status).type('text/plain').send(sentence);
  if (!methods.includes(method)) {
    response.set('Allow', methods.join(', '));
    return say(405, 'This method is not known here.');
  }
  if (!headers.host || !URL.canParse(`http://${headers.host}`))
    return say(400, 'The request does not say which host it is for.');
  if (url.length > longestAddress) return say(414, 'The address is too long.');
  if (!url.startsWith('/') || !isWellFormed(url)) return say(400, 'The address is not well formed.');
  if (fileData.test(decodeURIComponent(url.replace(/\?.*$/, '')))) return say(404, 'There is nothing here.');
  headers[peerHeader] = request.ip ?? '';
  next();
};

/** Percent signs that stand for letters (RFC 3986, 2.1), and for none that no text holds. */
function isWellFormed(url: string): boolean {
  try {
    return !decodeURIComponent(url.replaceAll('+', ' ')).includes('\0');
  } catch {
    return false;
  }
}

/** What goes wrong before React Router has a request: what express cannot decode, and faults. */
const failed: ErrorRequestHandler = (error: Error & { status?: number }, _request, response, next) => {
  if (response.headersSent) return next(error);
  const status = error.status && error.status < 500 ? error.status : 500;
  if (status === 500) console.error(error);
  const sentences: Record<number, string> = {
    404: 'There is nothing here.',
    500: 'The server did not answer as it should.',
  };
  response
    .status(status)
    .type('text/plain')
    .send(sentences[status] ?? 'The request is not well formed.');
};

/**
 * The web application over HTTP.
 * @param files folder of what the browser gets as it was built
 * @param proxies that say for whom they ask, and how, beside those of this machine
 */
export function webApp(build: ServerBuild, files: string, proxies: readonly string[] = []): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', ['loopback', ...proxies]);
  app.use(refuse);
  app.use(compression());
  const plainly = {
    setHeaders: (response: express.Response) => void response.set('X-Content-Type-Options', 'nosniff'),
  };
  app.use(
    '/assets',
    express.static(join(files, 'assets'), { ...plainly, immutable: true, maxAge: '1y', fallthrough: false }),
  );
  app.use(express.static(files, { ...plainly, index: false }));
  app.all('*', createRequestHandler({ build, mode: process.env.NODE_ENV ?? 'production' }) as RequestHandler);
  app.use(failed);
  return app;
}
