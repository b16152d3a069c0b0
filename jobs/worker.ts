import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { Logger, run, type Task as JobTask, type TaskList } from 'graphile-worker';
import pino from 'pino';
import { settings } from '#settings';
import {
  collectGarbage,
  concurrencyOf,
  forgetWorker,
  helpJob,
  helpWithRender,
  HereWatcher,
  lanes,
  nearestTask,
  queueConnections,
  runsNow,
  runTask,
  sayWorker,
  sweepParts,
  takeUpLost,
  works,
  type Lane,
  type Task,
} from '#usecases/background/index';

/** Entry point of a worker process. Any number may run, on any number of machines, against one database and store. */
const {
  LOG_LEVEL,
  BRIGHT_REEL_STALE_SECONDS: staleSeconds,
  BRIGHT_REEL_CONCURRENCY: heavy,
  BRIGHT_REEL_WORKER: kinds,
} = settings();
const log = pino({ name: 'worker', level: LOG_LEVEL });

const hourMilliseconds = 3_600_000;
/** Once an hour, by whichever worker comes first, what nothing refers to is deleted. */
const tidyUp = 'tidyUp';
const hourly = `17 * * * * ${tidyUp} ?max=1&jobKey=${tidyUp}`;

/** So often it says that it is there. */
const hereMilliseconds = 3000;

/** So often it is asked which folders are to be watched. */
const followMilliseconds = 5000;

const stopping = new AbortController();
/** How many of a lane run at once in this process. */
const concurrency = concurrencyOf(kinds, heavy);

const taskOf =
  (kind: Task['kind']): JobTask =>
  async (payload, { job }) => {
    const { taskId } = payload as { taskId: string };
    const nearest = await nearestTask(taskId);
    const isOwn = nearest.id === taskId;
    const lastAttempt = isOwn && job.attempts >= job.max_attempts;
    await runTask(nearest.id, lastAttempt, stopping.signal, works[isOwn ? kind : nearest.kind!]);
  };

/** Says now and then that it is there, and what it is at. */
const self = { id: randomUUID(), host: hostname(), pid: process.pid, slots: concurrency, draining: false };
const sayHere = () => void sayWorker({ ...self, runs: runsNow() }).catch((error: Error) => log.error(error.message));

/** Gives tasks of dead workers back to the queue. */
async function lookAfterLost(): Promise<void> {
  for (const task of await takeUpLost(staleSeconds))
    log.warn({ task: task.id, title: task.title, state: task.state }, 'lost its worker or its job');
}

const quietly = new Logger(
  (scope) => (level, message) => (String(level) === 'error' ? log.error(scope, message) : log.debug(scope, message)),
);
/** A film that another worker renders. */
const help: TaskList = {
  [helpJob]: async (payload) => {
    const { renderId } = payload as { renderId: string };
    const made = await helpWithRender(renderId, stopping.signal, () => !self.draining);
    if (made > 0) log.info({ render: renderId, stretches: made }, 'helped');
  },
};
const tidy: TaskList = { [tidyUp]: collectGarbage };
const runners = await Promise.all(
  (Object.keys(lanes) as Lane[])
    .filter((lane) => concurrency[lane] > 0)
    .map((lane, index) =>
      run({
        pgPool: queueConnections(),
        taskList: {
          ...Object.fromEntries(lanes[lane].map((kind) => [kind, taskOf(kind)])),
          ...(lane === 'rendering' ? help : {}),
          ...(index === 0 ? tidy : {}),
        },
        ...(index === 0 ? { crontab: hourly } : {}),
        concurrency: concurrency[lane],
        pollInterval: 1000,
        noHandleSignals: true,
        logger: quietly,
      }),
    ),
);
log.info('ready');
const sweep = setInterval(
  () => void lookAfterLost().catch((error: Error) => log.error(error.message)),
  Math.min(2000, staleSeconds * 250),
);
await lookAfterLost();
sayHere();
const saying = setInterval(sayHere, hereMilliseconds);
// One worker of a machine that watches is enough; of several each sees the same, and asks once.
const watcher = new HereWatcher((error) => log.error(error.message));
const follow = () => void watcher.follow().catch((error: Error) => log.error(error.message));
follow();
const following = setInterval(follow, followMilliseconds);
/** What lies on this machine nobody else sees. */
const sweepHere = () => void sweepParts().catch((error: Error) => log.error(error.message));
sweepHere();
const sweeping = setInterval(sweepHere, hourMilliseconds);
await runners[0]?.addJob(tidyUp, {}, { jobKey: tidyUp, maxAttempts: 1 });

/** Without waiting for a database that is away; who does not say so is forgotten all the same. */
const takeLeave = () =>
  Promise.race([forgetWorker(self.id).catch(() => undefined), new Promise((wake) => setTimeout(wake, 1000))]);

/** A worker that is drained ends so, and is not started again. */
const drainedCode = 64;

/** Takes nothing more, brings to its end what it has, and ends. */
async function drain() {
  log.info('takes nothing more');
  self.draining = true;
  sayHere();
  await Promise.all(runners.map((runner) => runner.stop().catch(() => undefined)));
  await watcher.close();
  await takeLeave();
  process.exit(drainedCode);
}
process.once('SIGUSR2', () => void drain());

async function stop() {
  clearInterval(sweep);
  clearInterval(following);
  clearInterval(sweeping);
  clearInterval(saying);
  await watcher.close();
  stopping.abort();
  await Promise.all(runners.map((runner) => runner.stop().catch(() => undefined)));
  await takeLeave();
  process.exit(0);
}
process.once('SIGTERM', () => void stop());
process.once('SIGINT', () => void stop());
for (const runner of runners)
  runner.promise.catch((error: Error) => {
    log.error(error.message);
    process.exit(1);
  });
