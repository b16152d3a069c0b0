import { toast } from 'sonner';
import type { Thumb } from '#core/shorts';
import type { ShortSetData } from '#usecases/shorts';
import { Documents, LiveDocument } from '../history/document';
import { historyOf, type Participant } from '../history/history';
import { postJson, saveQueue, type SaveQueue } from '../history/saveQueue';

/** What is said of a set of shorts: praise, or away with one; and their order by hand, null for that of their scores. */
export type ShortsChange =
  { intent: 'thumb'; id: string; thumb: Thumb | null } | { intent: 'order'; order: string[] | null };

interface ShortsState {
  /** Not confirmed yet. */
  waiting: readonly ShortsChange[];
  /** Counts what the server has taken; the set is loaded anew then. */
  saved: number;
  problem: string | null;
}

/** Thumbs and order of a set of shorts under one's hands: shown at once, sent in order, taken back. */
export class LiveShortSet extends LiveDocument<ShortsState> implements Participant {
  readonly title = 'the shorts';
  private readonly queue: SaveQueue<ShortsChange> | null;
  private past: { back: ShortsChange; again: ShortsChange }[] = [];
  private future: { back: ShortsChange; again: ShortsChange }[] = [];

  constructor(
    private readonly projectId: string,
    setId: string,
  ) {
    super({ waiting: [], saved: 0, problem: null });
    this.queue = typeof window === 'undefined' ? null : saveQueue<ShortsChange>(`shorts:${setId}`);
    const showWaiting = () => this.set({ waiting: this.queue!.waiting });
    this.queue?.subscribe(showWaiting);
    this.queue?.whenLeft(showWaiting);
    this.queue?.connect({
      send: ({ ...change }) =>
        postJson(
          `/projects/${projectId}/shorts/${setId}`,
          change.intent === 'order' ? { ...change, order: change.order ?? [] } : change,
        ),
      settle: async (answer) => {
        const body = answer.ok ? null : ((await answer.json().catch(() => null)) as { problem?: string } | null);
        const problem = answer.ok ? null : (body?.problem ?? 'This could not be saved.');
        this.set({ saved: this.state().saved + 1, ...(problem ? { problem } : {}) });
        if (problem && !this.onScreen) toast.error(problem);
      },
    });
  }

  get canUndo(): boolean {
    return this.past.length > 0;
  }
  get canRedo(): boolean {
    return this.future.length > 0;
  }

  /** @param back takes it back again */
  change(again: ShortsChange, back: ShortsChange): void {
    this.past.push({ again, back });
    this.future = [];
    this.send(again);
    historyOf(this.projectId).did(this);
  }

  undo(): boolean {
    const last = this.past.pop();
    if (!last) return false;
    this.future.push(last);
    this.send(last.back);
    return true;
  }
  redo(): boolean {
    const next = this.future.pop();
    if (!next) return false;
    this.past.push(next);
    this.send(next.again);
    return true;
  }

  private send(change: ShortsChange): void {
    this.queue?.add(change);
    this.set({ waiting: this.queue?.waiting ?? [], problem: null });
  }
}

/** A set as it will stand once what waits is saved; which short comes up next the server knows. */
export function withChanges(set: ShortSetData, waiting: readonly ShortsChange[]): ShortSetData {
  let next = set;
  for (const change of waiting) {
    if (change.intent === 'order') next = { ...next, order: change.order };
    else {
      const { [change.id]: _, ...thumbs } = next.thumbs;
      next = { ...next, thumbs: change.thumb ? { ...thumbs, [change.id]: change.thumb } : thumbs };
    }
  }
  if (next === set) return set;
  const { order, thumbs } = next;
  const shorts = next.shorts.filter(({ id }) => thumbs[id] !== 'down');
  const place = ({ id }: { id: string }) => (order!.includes(id) ? order!.indexOf(id) : Infinity);
  return { ...next, shorts: order ? shorts.toSorted((a, b) => place(a) - place(b)) : shorts };
}

const documents = new Documents<LiveShortSet>();
/** The document of a set on this page; always the same one. */
export const shortsDocument = (projectId: string, setId: string): LiveShortSet =>
  documents.get(setId, () => new LiveShortSet(projectId, setId));
