import type { TaskLine } from '#usecases/tasks';

type Watched = Pick<TaskLine, 'id' | 'kind' | 'state' | 'title'>;

/** Work of one kind that has come to its end. */
export interface EndedBatch {
  kind: TaskLine['kind'];
  /** How long it went on while it was watched, in seconds. */
  seconds: number;
  done: number;
  failed: number;
  /** Of the only one, else null. */
  title: string | null;
}

const isActive = ({ state }: Watched) => state === 'queued' || state === 'running';

/** Notices when the last task of a kind is over; what was over before it looked is no news. */
export class BatchWatch {
  private readonly batches = new Map<TaskLine['kind'], { from: number; titles: Map<string, string> }>();

  /** @param now in milliseconds */
  look(tasks: readonly Watched[], now: number): EndedBatch[] {
    for (const task of tasks.filter(isActive)) {
      const batch = this.batches.get(task.kind) ?? { from: now, titles: new Map<string, string>() };
      batch.titles.set(task.id, task.title);
      this.batches.set(task.kind, batch);
    }
    const ended: EndedBatch[] = [];
    for (const [kind, { from, titles }] of this.batches) {
      if (tasks.some((task) => task.kind === kind && isActive(task))) continue;
      this.batches.delete(kind);
      const own = (state: TaskLine['state']) =>
        tasks.filter((task) => titles.has(task.id) && task.state === state).length;
      const [done, failed] = [own('done'), own('failed')];
      // Cancelled by hand, or put away: nothing to tell.
      if (done + failed === 0) continue;
      ended.push({
        kind,
        seconds: (now - from) / 1000,
        done,
        failed,
        title: titles.size === 1 ? [...titles.values()][0]! : null,
      });
    }
    return ended;
  }
}
