import { Logger, run, type TaskList } from 'graphile-worker';
import pino from 'pino';
import { database } from '#data/db';
import { requeue, staleTasks, sweepParts } from '#data/tasks';
import { enqueueAgain } from './queue';
import { fetchMedia } from './fetchMedia';
import { frameShorts } from './frameShorts';
import { hearWords } from './hearWords';
import { hearBeats } from './hearBeats';
import { matchSound } from './matchSound';
import { postFile } from './postFile';
import { readFile } from './readFile';
import { renderFile } from './renderFile';
import { runTask } from './runTask';
import { syncBin } from './syncBin';

/** Entry point of a worker process. Any number may run, on any number of machines, against one database and store. */
const log = pino({ name: 'worker', level: process.env.LOG_LEVEL ?? 'info' });
/** A running task not heard of for so long has lost its worker. */
const staleSeconds = Number(process.env.BRIGHT_REEL_STALE_SECONDS ?? 20);

const stopping = new AbortController();
const taskList: TaskList = {
  read: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, readFile),
  words: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, hearWords),
  sync: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, syncBin),
  match: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, matchSound),
  hear: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, hearBeats),
  frame: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, frameShorts),
  post: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, postFile),
  fetch: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, fetchMedia),
  render: (payload, { job }) => runTask((payload as { taskId: string }).taskId, job.locked_by ?? '', job.attempts >= job.max_attempts, stopping.signal, renderFile),
};

/** Gives tasks of dead workers back to the queue: their locks are opened and the jobs run again. */
async function takeUpLost(): Promise<void> {
  for (const task of await staleTasks(staleSeconds)) {
    log.warn({ task: task.id, title: task.title }, 'lost its worker; back to the queue');
    if (task.workerId) await database().$client.query('select graphile_worker.force_unlock_workers($1::text[])', [[task.workerId]]);
    await requeue(task.id);
    await enqueueAgain(task);
  }
}

const quietly = new Logger((scope) => (level, message) => (String(level) === 'error' ? log.error(scope, message) : log.debug(scope, message)));
const runners = await Promise.all([
  { taskList: { read: taskList.read!, render: taskList.render!, sync: taskList.sync!, match: taskList.match!, hear: taskList.hear!, frame: taskList.frame! }, concurrency: Number(process.env.BRIGHT_REEL_CONCURRENCY ?? 1) },
  // What waits for a line does not keep the processor from its work.
  { taskList: { post: taskList.post!, fetch: taskList.fetch! }, concurrency: 3 },
  // Words take as long as somebody speaks; nothing else waits for them.
  { taskList: { words: taskList.words! }, concurrency: 1 },
].map((part) => run({ pgPool: database().$client, ...part, pollInterval: 1000, noHandleSignals: true, logger: quietly })));
log.info('ready');
const sweep = setInterval(() => void takeUpLost().catch((error: Error) => log.error(error.message)), Math.min(5000, staleSeconds * 500));
await takeUpLost();
await sweepParts().catch((error: Error) => log.error(error.message));

async function stop() {
  clearInterval(sweep);
  stopping.abort();
  await Promise.all(runners.map((runner) => runner.stop().catch(() => undefined)));
  process.exit(0);
}
process.once('SIGTERM', () => void stop());
process.once('SIGINT', () => void stop());
for (const runner of runners) runner.promise.catch((error: Error) => {
  log.error(error.message);
  process.exit(1);
});
