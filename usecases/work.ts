import { lanesTaken, listFailed, listWaiting, listWorkers } from '#data/workers';
import { lanes, type Lane } from '#data/tasks';
import { done, type ValueOf } from './result';

/** Who works, what waits, and what failed, over all projects. */
export async function showWork() {
  const [workers, waiting, failed, taken] = await Promise.all([
    listWorkers(),
    listWaiting(),
    listFailed(),
    lanesTaken(),
  ]);
  const nobodyTakes = waiting.filter(({ kind }) => !taken.has(laneOf(kind))).map(({ kind }) => kind);
  return done({ workers, waiting, failed, nobodyTakes: [...new Set(nobodyTakes)] });
}
export type WorkData = ValueOf<typeof showWork>;

type Kind = (typeof lanes)[Lane][number];
/** The lane of a kind of task. */
export const laneOf = (kind: Kind): Lane =>
  (Object.keys(lanes) as Lane[]).find((lane) => (lanes[lane] as readonly Kind[]).includes(kind))!;
