// Appends what comes in to a log; one that grew to 10 MB becomes LOG.1, and so on, ten of them at most.
import { basename, dirname } from 'node:path';
import { createStream } from 'rotating-file-stream';

const log = process.argv[2];
const name = (index) => (index ? `${basename(log)}.${index}` : basename(log));
const stream = createStream(name, { path: dirname(log), size: '10M', maxFiles: 10, rotate: 10 });
stream.on('error', (error) => console.error(`${log}: ${error.message}`));
process.stdin.pipe(stream);
// Whoever writes ends first, and is heard out.
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => undefined);
