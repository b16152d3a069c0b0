// Says that the work of this process goes on, in a thread of its own: while the process computes, others must not take
// its tasks up. A process that does not come back from computing for long does not count as alive any more.
import { parentPort, workerData } from 'node:worker_threads';
import pg from 'pg';

const { url, beatMilliseconds, patienceMilliseconds, last } = workerData;
/** When the process was last seen between two things that it does, in milliseconds. */
const seen = new BigInt64Array(last);
const pool = new pg.Pool({ connectionString: url, max: 1, connectionTimeoutMillis: 15_000 });
pool.on('error', () => undefined);
/** Runs by task. */
const held = new Map();

parentPort.on('message', ({ task, run }) => (run ? held.set(task, run) : held.delete(task)));

async function beat() {
  const stuck = Date.now() - Number(Atomics.load(seen, 0)) > patienceMilliseconds;
  if (held.size > 0 && !stuck) {
    const [tasks, runs] = [[...held.keys()], [...held.values()]];
    await pool
      .query(
        `update tasks set heartbeat_at = now() from unnest($1::uuid[], $2::text[]) as held (id, run)
         where tasks.id = held.id and tasks.worker_id = held.run and tasks.state = 'running'`,
        [tasks, runs],
      )
      .catch(() => undefined);
  }
  setTimeout(beat, beatMilliseconds);
}
void beat();
