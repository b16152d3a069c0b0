import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { ServerBuild } from 'react-router';
import { settings } from '#settings';
import { webApp } from './webApp';

/** Entry point of a web server process. */
const folder = join(process.cwd(), 'build');
const build = (await import(pathToFileURL(join(folder, 'server/index.js')).href)) as ServerBuild;
const { HOST, PORT, BRIGHT_REEL_PROXIES } = settings();
const server = webApp(build, join(folder, 'client'), BRIGHT_REEL_PROXIES).listen(PORT, HOST, () =>
  console.log(`listens on http://${HOST}:${PORT}`),
);

/** A client that takes longer to say what it wants, or that says and takes nothing for so long, is let go. */
server.headersTimeout = 30_000;
server.setTimeout(300_000);
/** Longer than proxies keep a line, so that they never send on one that is just being closed. */
server.keepAliveTimeout = 75_000;
/** Uploads and archives take as long as they take; it is silence that ends a request, not its length. */
server.requestTimeout = 0;

/** What is on its way gets so long to be sent. */
const patienceMilliseconds = 2000;
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), patienceMilliseconds).unref();
  });
