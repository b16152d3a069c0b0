import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { eventHub } from '#usecases/events';
import { measureWork } from '#usecases/measures';

/** What is measured of this process, in the text format of Prometheus (OpenMetrics 1.0). Names end with their unit. */
const registry = new Registry();
collectDefaultMetrics({ register: registry });

const answers = new Histogram({
  name: 'bright_reel_answer_seconds',
  help: 'How long answers of this web server took, by method and status.',
  labelNames: ['method', 'status'],
  buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30],
  registers: [registry],
});
const faults = new Counter({
  name: 'bright_reel_faults_total',
  help: 'Answers of this web server that were faults of ours (500).',
  registers: [registry],
});

/** Notes an answer. */
export function measureAnswer(method: string, status: number, seconds: number): void {
  // Whatever somebody calls a method is not a label of its own.
  const known = ['GET', 'HEAD', 'POST', 'PATCH', 'DELETE', 'OPTIONS', 'PUT'].includes(method) ? method : 'other';
  answers.observe({ method: known, status: String(status) }, seconds);
  if (status === 500) faults.inc();
}

const gauge = (name: string, help: string, labelNames: string[] = []) =>
  new Gauge({ name, help, labelNames, registers: [registry] });
const tasks = gauge('bright_reel_tasks', 'Tasks by kind and state.', ['kind', 'state']);
const waiting = gauge('bright_reel_waiting_seconds', 'How long the first task of a kind has waited.', ['kind']);
const took = gauge('bright_reel_work_seconds', 'Time that tasks took that are done, by kind.', ['kind']);
const lines = gauge('bright_reel_event_lines', 'Screens that this web server tells what happens.');
const free = gauge('bright_reel_disk_free_bytes', 'What is free on the disk of the data folder of this machine.');
const reserve = gauge('bright_reel_disk_reserve_bytes', 'What is kept free of it.');

/** All measures as text, with its media type. */
export async function writeMetrics(): Promise<{ text: string; type: string }> {
  const { tasks: counts, freeBytes, reserveBytes } = await measureWork();
  for (const each of [tasks, waiting, took]) each.reset();
  for (const { kind, state, count, oldestSeconds, tookSeconds } of counts) {
    tasks.set({ kind, state }, count);
    if (state === 'queued') waiting.set({ kind }, oldestSeconds);
    if (state === 'done') took.set({ kind }, tookSeconds);
  }
  lines.set(eventHub().hearers);
  free.set(freeBytes);
  reserve.set(reserveBytes);
  return { text: await registry.metrics(), type: registry.contentType };
}
