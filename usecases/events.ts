import { hearNotices, type Notice } from '#data/notices';
import { isId } from '#data/projects';
import { openProject } from './openProject';
import { listTaskLines, type TaskLine } from './tasks';

/** What a screen hears of a project that it shows. */
export type ProjectEvent =
  | { what: 'tasks'; project: string; tasks: TaskLine[] }
  /** Something in it was changed; `by` is the window that did it, null for one that is not known. */
  | { what: 'changed'; project: string; by: string | null };
type Hear = (event: ProjectEvent) => void;

/** Tasks tell of every step; so many milliseconds together are told once. */
const gatherMilliseconds = 250;
/** The same where it happens in another project. */
const othersMilliseconds = 2000;
/** More screens are not told by one process; those ask from time to time. */
const mostHearers = 2000;

interface Heard {
  hearers: Set<Hear>;
  timer: ReturnType<typeof setTimeout> | null;
  isAsking: boolean;
  /** What was told last, and as what, so that nothing is told twice. */
  told: { text: string; tasks: TaskLine[] } | null;
  /** One of its tasks is not over: it waits for those of other projects, or shares a reading with them. */
  isWaiting: boolean;
}

/**
 * Tells screens what happens to the projects that they show, whichever process did it: notices come through the
 * database. However many screens show a project, its tasks are looked up once.
 */
export class EventHub {
  private readonly projects = new Map<string, Heard>();
  private end: (() => Promise<void>) | null = null;
  private count = 0;

  /** @returns ends it; null when there are too many already */
  hear(project: string, hear: Hear): (() => void) | null {
    if (this.count >= mostHearers) return null;
    this.end ??= hearNotices({ notice: (notice) => this.notice(notice), gap: () => this.gap() });
    let own = this.projects.get(project);
    if (!own)
      this.projects.set(
        project,
        (own = { hearers: new Set(), timer: null, isAsking: false, told: null, isWaiting: false }),
      );
    own.hearers.add(hear);
    this.count++;
    if (own.told) hear({ what: 'tasks', project, tasks: own.told.tasks });
    else this.soon(project, own, 0);
    return () => {
      if (!own.hearers.delete(hear)) return;
      this.count--;
      if (own.hearers.size > 0) return;
      if (own.timer) clearTimeout(own.timer);
      if (this.projects.get(project) === own) this.projects.delete(project);
    };
  }

  /** How many screens are told now. */
  get hearers(): number {
    return this.count;
  }

  async close(): Promise<void> {
    const { end } = this;
    this.end = null;
    await end?.();
  }

  private notice({ project, what, by }: Notice): void {
    const own = this.projects.get(project);
    if (what === 'tasks') {
      if (own) this.soon(project, own);
      for (const [other, its] of this.projects) if (its.isWaiting) this.soon(other, its, othersMilliseconds);
      return;
    }
    for (const hear of own?.hearers ?? []) hear({ what: 'changed', project, by: by ?? null });
  }

  /** What happened meanwhile is not known: everything is looked at again. */
  private gap(): void {
    for (const [project, own] of this.projects) {
      this.soon(project, own);
      for (const hear of own.hearers) hear({ what: 'changed', project, by: null });
    }
  }

  private soon(project: string, own: Heard, milliseconds = gatherMilliseconds): void {
    own.timer ??= setTimeout(() => {
      own.timer = null;
      // What comes while the last question is on its way is asked after it.
      if (own.isAsking) this.soon(project, own);
      else void this.tellTasks(project, own);
    }, milliseconds);
  }

  private async tellTasks(id: string, own: Heard): Promise<void> {
    own.isAsking = true;
    try {
      const project = await openProject(id);
      if (!project.ok) return;
      const tasks = await listTaskLines(project.value);
      const text = JSON.stringify(tasks);
      if (text === own.told?.text) return;
      own.told = { text, tasks };
      own.isWaiting = tasks.some(({ state }) => state === 'queued' || state === 'running');
      for (const hear of own.hearers) hear({ what: 'tasks', project: id, tasks });
    } catch {
      // The database is away; once it is back all is looked at again.
    } finally {
      own.isAsking = false;
    }
  }
}

/** Projects out of what somebody names, each once. */
export const projectsNamed = (given: readonly string[]): string[] => [...new Set(given)].filter(isId);

let shared: EventHub | null = null;
/** The one of this process. */
export const eventHub = (): EventHub => (shared ??= new EventHub());
