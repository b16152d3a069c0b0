import { toast } from 'sonner';
import { applyCommand, type Reel, type ReelCommand, type Source } from '#core/reel';
import type { LiveReel } from '#usecases/reels';
import { newId } from '../newId';
import { Documents, LiveDocument } from '../history/document';
import { historyOf, type Participant } from '../history/history';
import { mayBeStale, postJson, saveQueue, type SaveQueue } from '../history/saveQueue';
import type { SaveState } from '../ui/SaveMark';
import { withWaiting, type UnsentEdit, type WaitingEdit } from './waitingEdits';

export interface Instead {
  says: string;
  command: ReelCommand;
}
export interface ReelState {
  reel: LiveReel;
  problem: string | null;
  /** An edit that would fit where one was refused. */
  instead: Instead | null;
  saving: SaveState;
}
type Sources = ReadonlyMap<string, Source>;

const lookedAt = 'This is an earlier version, to be looked at. Go back to it under “Versions” to change it.';

/**
 * A reel under one's hands: an edit shows at once (by the same function that the server uses), and so does a step back;
 * both are sent in order, each on the version that the one before it made, and again while the server is away. When
 * somebody else was quicker, or the server refuses, the reel is shown as it stands there.
 */
export class ReelDocument extends LiveDocument<ReelState> implements Participant {
  private readonly queue: SaveQueue<WaitingEdit> | null;
  private sources: Sources = new Map();
  /** The version that the next edit goes on from. */
  private head: number;
  /** The reel before each edit of this page, and after each that was taken back; what was done earlier the server knows. */
  private past: Reel[] = [];
  private future: Reel[] = [];
  /** A version that was loaded, and may be older than what was saved last. */
  private doubted: number | null = null;
  /** Whether there are steps before those of this page, and after them. */
  private earlier: boolean;
  private later: boolean;

  constructor(reel: LiveReel) {
    super({ reel, problem: null, instead: null, saving: 'saved' });
    [this.head, this.earlier, this.later] = [reel.head, reel.canUndo, reel.canRedo];
    this.queue = reel.readOnly || typeof window === 'undefined' ? null : saveQueue<WaitingEdit>(`reel:${reel.id}`);
    this.queue?.subscribe(() => this.set({ saving: this.queue!.state }));
    this.queue?.whenLeft((left) => this.showLeft(left));
    this.queue?.connect({
      send: ({ id, ...what }) =>
        postJson(`/projects/${reel.projectId}/reels/${reel.id}/edits`, { id, head: this.head, ...what }),
      settle: (answer) => this.settle(answer),
    });
  }

  get title(): string {
    return `the reel “${this.reel.document.name}”`;
  }
  get canUndo(): boolean {
    return this.reel.canUndo;
  }
  get canRedo(): boolean {
    return this.reel.canRedo;
  }

  /**
   * What was loaded; where it is older than what is here, it is put aside.
   * @returns whether it has to be loaded once more
   */
  load(reel: LiveReel, sources: Sources): boolean {
    this.sources = sources;
    if (!this.queue || this.queue.waiting.length === 0) {
      const stale = this.queue !== null && reel.head !== this.head && mayBeStale(this.queue);
      // Asked for once more; what comes then is as the server has it.
      const again = stale && this.doubted !== reel.head;
      this.doubted = again ? reel.head : null;
      if (again) return true;
      if (reel.head !== this.head) this.startAnew(reel);
      if (reel !== this.reel) this.show(reel);
    }
    return false;
  }

  /** @returns whether the edit fits; if not, `problem` says why */
  edit(command: ReelCommand): boolean {
    const before = this.reel;
    if (before.readOnly) return this.refuse(lookedAt);
    const result = applyCommand(before.document, command, this.sources);
    if (!result.ok) return this.refuse(result.reason, result.instead);
    if (result.note) toast(result.note);
    this.remember(before.document);
    this.set({ problem: null, instead: null });
    this.show({ ...before, document: result.reel, canUndo: true, canRedo: false });
    this.push({ command });
    historyOf(before.projectId).did(this);
    return true;
  }

  undo(): boolean {
    if (this.reel.readOnly || !this.reel.canUndo) return false;
    const document = this.past.pop();
    if (document) this.future.push(this.reel.document);
    else this.future = [];
    // Without the steps before, the server knows; it answers in a moment.
    const canUndo = this.past.length > 0 || this.earlier;
    this.set({ problem: null, instead: null });
    this.show({ ...this.reel, canUndo, canRedo: true, ...(document ? { document } : {}) });
    this.push({ step: 'undo' });
    return true;
  }

  redo(): boolean {
    if (this.reel.readOnly || !this.reel.canRedo) return false;
    const document = this.future.pop();
    if (document) this.past.push(this.reel.document);
    const canRedo = this.future.length > 0 || (!document && this.later);
    this.set({ problem: null, instead: null });
    this.show({ ...this.reel, canUndo: true, canRedo, ...(document ? { document } : {}) });
    this.push({ step: 'redo' });
    return true;
  }

  /** Goes back to an earlier version; the server has it, and answers in a moment. */
  restore(version: number): void {
    if (this.reel.readOnly) return;
    this.remember(this.reel.document);
    this.set({ problem: null, instead: null });
    this.push({ command: { type: 'restore', version } });
    historyOf(this.reel.projectId).did(this);
  }

  forgetProblem(): void {
    this.set({ problem: null, instead: null });
  }

  private get reel(): LiveReel {
    return this.state().reel;
  }
  private show(reel: LiveReel): void {
    this.set({ reel });
  }
  private remember(document: Reel): void {
    this.past.push(document);
    this.future = [];
    this.later = false;
  }
  private refuse(problem: string, instead: Instead | null = null): false {
    this.set({ problem, instead });
    return false;
  }
  private push(edit: UnsentEdit): void {
    this.queue?.add({ id: newId(), ...edit });
  }

  /** Somebody else changed it: steps of this page are void. */
  private startAnew({ head, canUndo, canRedo }: LiveReel): void {
    [this.head, this.earlier, this.later] = [head, canUndo, canRedo];
    this.forgetSteps();
  }
  private forgetSteps(): void {
    if (this.past.length + this.future.length > 0) historyOf(this.reel.projectId).forget(this);
    this.past = [];
    this.future = [];
  }

  /** What an earlier page left is on its way; the reel shows as it will stand. */
  private showLeft(left: readonly WaitingEdit[]): void {
    if (this.past.length + this.future.length === 0) this.show(withWaiting(this.reel, left, this.sources));
  }

  private async settle(answer: Response): Promise<void> {
    const body = (await answer.json().catch(() => null)) as { reel?: LiveReel; problem?: string | null } | null;
    if (!body?.reel) {
      this.queue!.drop();
      this.forgetSteps();
      const problem =
        answer.status === 404
          ? 'This reel was deleted; what was changed last could not be saved.'
          : 'The server refused this change. Reload the page.';
      return void this.say(problem);
    }
    this.head = body.reel.head;
    if (body.problem) {
      // What waits behind a refused edit was meant for another reel.
      this.queue!.drop();
      this.startAnew(body.reel);
      this.say(body.problem);
    }
    if (this.queue!.waiting.length <= 1) this.show(body.reel);
  }

  private say(problem: string): void {
    if (this.onScreen) this.set({ problem });
    else toast.error(`“${this.reel.document.name}”: ${problem}`);
  }
}

const documents = new Documents<ReelDocument>();
/** The document of a reel on this page; an earlier version has one of its own. */
export const reelDocument = (reel: LiveReel): ReelDocument =>
  documents.get(reel.readOnly ? `${reel.id} ${reel.head}` : reel.id, () => new ReelDocument(reel));
