import { toast } from 'sonner';
import { applyCommand, mergeReels, type Reel, type ReelCommand, type Source } from '#core/reel';
import type { LiveReel } from '#usecases/reels';
import { newId } from '../newId';
import { Documents, LiveDocument } from '../history/document';
import { historyOf, type Participant } from '../history/history';
import { mayBeStale, postJson, saveQueue, type SaveQueue } from '../history/saveQueue';
import type { SaveState } from '../ui/SaveMark';
import { withWaiting, type EditBase, type UnsentEdit, type WaitingEdit } from './waitingEdits';

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

/** What one edit of this page did; null where only the server knows. */
interface Step {
  edit: string;
  before: Reel | null;
  after: Reel | null;
}
interface EditAnswer {
  reel?: LiveReel;
  isMerged?: boolean;
  problem?: string | null;
}
/** So many edits are done again at most to find out what a later one meant; see the server's form. */
const mostSince = 200;

const lookedAt = 'This is an earlier version, to be looked at. Go back to it under “Versions” to change it.';

/**
 * A reel under one's hands: an edit shows at once (by the same function that the server uses), and so does a step back;
 * both are sent in order, each on the version that the one before it made, and again while the server is away. When
 * somebody else changed the reel meanwhile, both changes are in it; a step back takes back what was done here, and leaves
 * theirs. Where both changed the same, or the server refuses, the reel is shown as it stands there.
 */
export class ReelDocument extends LiveDocument<ReelState> implements Participant {
  private readonly queue: SaveQueue<WaitingEdit> | null;
  private sources: Sources = new Map();
  /** The version that this page knows, and what was sent on it since while somebody else changed the reel as well. */
  private base: EditBase;
  /** What was done on this page, and what of that was taken back; what was done earlier the server knows. */
  private past: Step[] = [];
  private future: Step[] = [];
  /** Somebody else changed the reel since the page came: steps are found among theirs. */
  private isShared = false;
  /** A version that was loaded, and may be older than what was saved last. */
  private doubted: number | null = null;
  /** Whether there are steps before those of this page, and after them. */
  private earlier: boolean;
  private later: boolean;

  constructor(reel: LiveReel) {
    super({ reel, problem: null, instead: null, saving: 'saved' });
    [this.base, this.earlier, this.later] = [{ head: reel.head, after: [] }, reel.canUndo, reel.canRedo];
    this.queue = reel.readOnly || typeof window === 'undefined' ? null : saveQueue<WaitingEdit>(`reel:${reel.id}`);
    this.queue?.subscribe(() => this.set({ saving: this.queue!.state }));
    this.queue?.whenLeft((left) => this.showLeft(left));
    this.queue?.connect({
      send: ({ on: _, ...edit }) =>
        postJson(`/projects/${reel.projectId}/reels/${reel.id}/edits`, { ...edit, ...this.base }),
      settle: (answer, { id }) => this.settle(answer, id),
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
      const stale = this.queue !== null && reel.head !== this.base.head && mayBeStale(this.queue);
      // Asked for once more; what comes then is as the server has it.
      const again = stale && this.doubted !== reel.head;
      this.doubted = again ? reel.head : null;
      if (again) return true;
      if (reel.head !== this.base.head) this.goOnFrom(reel);
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
    this.set({ problem: null, instead: null });
    this.remember({ edit: this.push({ command }), before: before.document, after: result.reel });
    this.show({ ...before, document: result.reel, canUndo: true, canRedo: false });
    historyOf(before.projectId).did(this);
    return true;
  }

  undo(): boolean {
    return this.step('undo');
  }
  redo(): boolean {
    return this.step('redo');
  }

  private step(step: 'undo' | 'redo'): boolean {
    const [from, to] = step === 'undo' ? [this.past, this.future] : [this.future, this.past];
    if (this.reel.readOnly || !(step === 'undo' ? this.reel.canUndo : this.reel.canRedo)) return false;
    const own = from.pop();
    const [was, wanted] = step === 'undo' ? [own?.after, own?.before] : [own?.before, own?.after];
    let document = wanted ?? null;
    if (this.isShared && was && wanted) {
      const merged = mergeReels(was, wanted, this.reel.document, this.sources);
      // It stays among what can be taken back once theirs is gone.
      if (!merged.ok) {
        from.push(own!);
        return this.refuse(merged.reason);
      }
      document = merged.reel;
    }
    if (own) to.push(own);
    // What was taken back after a step of an earlier visit is done again by the server.
    else to.length = 0;
    this.set({ problem: null, instead: null });
    this.push({ step, ...(own ? { of: own.edit } : {}) });
    // Without the steps before, the server knows; it answers in a moment.
    const canUndo = step === 'redo' || this.past.length > 0 || this.earlier;
    const canRedo = step === 'undo' || this.future.length > 0 || (!own && this.later);
    this.show({ ...this.reel, canUndo, canRedo, ...(document ? { document } : {}) });
    return true;
  }

  /** Goes back to an earlier version; the server has it, and answers in a moment. */
  restore(version: number): void {
    if (this.reel.readOnly) return;
    this.set({ problem: null, instead: null });
    const edit = this.push({ command: { type: 'restore', version } });
    this.remember({ edit, before: this.reel.document, after: null });
    historyOf(this.reel.projectId).did(this);
  }

  forgetProblem(): void {
    this.set({ problem: null, instead: null });
  }

  private get reel(): LiveReel {
    return this.state().reel;
  }
  private show(reel: LiveReel): void {
    const ends = this.isShared ? { canUndo: this.past.length > 0, canRedo: this.future.length > 0 } : {};
    this.set({ reel: { ...reel, ...ends } });
  }
  private remember(step: Step): void {
    this.past.push(step);
    this.future = [];
    this.later = false;
  }
  private refuse(problem: string, instead: Instead | null = null): false {
    this.set({ problem, instead });
    return false;
  }

  /** @returns the id by which the server will know it */
  private push(edit: UnsentEdit): string {
    const id = newId();
    const { head, after } = this.base;
    const since = [...after, ...this.queue!.waiting.map((each) => each.id)];
    this.queue!.add({ id, ...edit, ...(since.length <= mostSince ? { on: { head, after: since } } : {}) });
    return id;
  }

  /** Somebody else changed it: what was done on this page can still be taken back, what was done before it no more. */
  private share(): void {
    this.isShared = true;
    [this.earlier, this.later] = [false, false];
  }
  private goOnFrom({ head, canUndo, canRedo, lastEdit }: LiveReel): void {
    this.base = { head, after: [] };
    if (lastEdit !== null) return this.share();
    // What the server made of it, such as a montage that was put in, is taken back like what was done on an earlier visit.
    this.forgetSteps();
    [this.isShared, this.earlier, this.later] = [false, canUndo, canRedo];
  }
  private forgetSteps(): void {
    if (this.past.length + this.future.length > 0) historyOf(this.reel.projectId).forget(this);
    this.past = [];
    this.future = [];
  }

  /** What an earlier page left is on its way; the reel shows as it will stand. */
  private showLeft(left: readonly WaitingEdit[]): void {
    if (this.past.length + this.future.length > 0) return;
    if (left[0]?.on) this.base = left[0].on;
    this.show(withWaiting(this.reel, left, this.sources));
  }

  private async settle(answer: Response, sent: string): Promise<void> {
    const body = (await answer.json().catch(() => null)) as EditAnswer | null;
    if (!body?.reel) {
      this.queue!.drop();
      this.forgetSteps();
      const problem =
        answer.status === 404
          ? 'This reel was deleted; what was changed last could not be saved.'
          : 'The server refused this change. Reload the page.';
      return void this.say(problem);
    }
    const { reel } = body;
    if (body.problem) return this.dropAll(reel, body.problem, sent);
    const others = this.queue!.waiting.length > 1;
    const after = [...this.base.after, sent];
    // What waits was meant for the reel without what somebody else did.
    if (body.isMerged && others && after.length <= mostSince) this.base = { ...this.base, after };
    else this.base = { head: reel.head, after: [] };
    if (body.isMerged) this.share();
    this.completeStep(sent, reel);
    if (!others) this.show(reel);
  }

  /** What only the server knew. */
  private completeStep(edit: string, { document }: LiveReel): void {
    const own = this.past.find((step) => step.edit === edit);
    if (own && !own.after) own.after = document;
  }

  /** What waits behind a refused edit was meant for another reel. */
  private dropAll(reel: LiveReel, problem: string, refused: string): void {
    const gone = new Set([refused, ...this.queue!.waiting.map(({ id }) => id)]);
    this.queue!.drop();
    this.past = this.past.filter(({ edit }) => !gone.has(edit));
    this.future = [];
    this.goOnFrom(reel);
    if (this.past.length === 0) historyOf(this.reel.projectId).forget(this);
    this.show(reel);
    this.say(problem);
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
