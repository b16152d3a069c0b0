// Appends what comes in to a log; one that grew to 10 MB becomes LOG.1, and so on, ten of them at most. Whoever writes
// never waits and never fails: what cannot be written, because the disk is full, is left out, and that is said later.
import { basename, dirname } from 'node:path';
import { createStream } from 'rotating-file-stream';

const log = process.argv[2];
const name = (index) => (index ? `${basename(log)}.${index}` : basename(log));
/** Milliseconds until writing is tried again. */
const pause = Number(process.argv[3] ?? 5000);
/** Bytes that wait for a slow disk. */
const most = 8e6;

let stream = null;
let next = 0;
let lost = 0;

function open() {
  const opened = createStream(name, { path: dirname(log), size: '10M', maxFiles: 10, rotate: 10 });
  opened.on('error', () => {
    if (stream !== opened) return;
    stream = null;
    next = Date.now() + pause;
    opened.destroy();
  });
  return opened;
}

process.stdin.on('data', (chunk) => {
  if (!stream && Date.now() >= next) {
    stream = open();
    if (lost > 0) stream.write(`${new Date().toISOString()} ${lost} bytes of this log could not be written.\n`);
    lost = 0;
  }
  if (stream && stream.writableLength < most) stream.write(chunk);
  else lost += chunk.length;
});
process.stdin.on('end', () => stream?.end());
process.on('uncaughtException', () => (stream = null));
// Whoever writes ends first, and is heard out.
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => undefined);
