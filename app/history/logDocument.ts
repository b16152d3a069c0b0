import { toast } from 'sonner';
import { mergeValues } from '#core/merge';
import { Documents, LiveDocument } from './document';
import { historyOf, type Participant } from './history';
import { shownKey } from '../keys';
import { mayBeStale, postJson, saveQueue, type SaveQueue } from './saveQueue';
import type { SaveState } from '../ui/SaveMark';

/** Documents that have a version: another window may have changed them since. */
const versioned = ['pick', 'scenes', 'silence', 'separation', 'montage', 'variants'] as const;
type VersionedKind = (typeof versioned)[number];
const isVersioned = (kind: string): kind is VersionedKind => (versioned as readonly string[]).includes(kind);
const names: Record<VersionedKind, string> = {
  pick: 'The mix',
  scenes: 'The order of scenes',
  silence: 'What is kept of the silence',
  separation: 'What counts as shaky',
  montage: 'The montage',
  variants: 'What variants are made of',
};

/** What an editor decided and noted, by "kind" or "kind:id". */
export type Entries = ReadonlyMap<string, unknown>;
export interface InitialLog {
  entries: [string, unknown][];
  versions: Partial<Record<VersionedKind, number>>;
}

interface Change {
  key: string;
  before: unknown;
  after: unknown;
}
interface Step {
  changes: Change[];
  join: string | null;
  at: number;
}
interface Waiting {
  key: string;
  value: unknown;
  /** Of the document that was changed. */
  version?: number;
}

interface SaveAnswer {
  version?: number;
  value?: unknown;
  problems?: Record<string, string>;
  note?: string | null;
}
/** What it means when a change is turned away before anybody looked at it. */
const refusals = new Map([
  [403, 'this page may not change anything; load it again.'],
  [404, 'the project does not exist any more.'],
  [413, 'it is too large.'],
  [500, 'the server failed on it several times.'],
]);

const parts = (key: string) => ({ kind: key.split(':')[0]!, id: key.slice(key.indexOf(':') + 1) });
/** Moves of one slider within this many milliseconds are one step back. */
const joinMilliseconds = 900;

/** The same text for the same value, whatever the order of its fields. */
const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) =>
    inner && typeof inner === 'object' && !Array.isArray(inner)
      ? Object.fromEntries(
          Object.entries(inner)
            .filter(([, each]) => each !== undefined)
            .sort(([a], [b]) => (a < b ? -1 : 1)),
        )
      : inner,
  );

/** How a document that grows large is sent: what changed since the version that the server has; null to send it whole. */
type ChangesBetween = (before: unknown, after: unknown) => unknown;

export interface LogAbout {
  projectId: string;
  /** Where it is saved. */
  address: string;
  title: string;
  changesBetween?: ChangesBetween;
}

interface LogState {
  entries: Entries;
  saving: SaveState;
}

/**
 * What an editor decides and notes: shown at once, saved one after another as it is made and again while the server is
 * away, taken back without limit. When another window was quicker with a document, both changes are in it; where both
 * changed the same, what stands there is shown, and one step back brings ours.
 */
export class LogDocument extends LiveDocument<LogState> implements Participant {
  readonly title: string;
  private readonly queue: SaveQueue<Waiting> | null;
  private versions: InitialLog['versions'];
  /** Versioned documents as the server has them, to tell what changed since. */
  private confirmed = new Map<string, { version: number; value: unknown }>();
  private past: Step[] = [];
  private future: Step[] = [];

  constructor(
    private readonly about: LogAbout,
    private loaded: InitialLog,
  ) {
    super({ entries: new Map(loaded.entries), saving: 'saved' });
    this.title = about.title;
    this.versions = loaded.versions;
    this.confirm(loaded);
    this.queue = typeof window === 'undefined' ? null : saveQueue<Waiting>(`log:${about.address}`);
    this.queue?.subscribe(() => this.set({ saving: this.queue!.state }));
    this.queue?.whenLeft((left) => this.show(left.map(({ key, value }) => ({ key, after: value }))));
    this.queue?.connect({
      send: (change) => postJson(about.address, this.bodyOf(change)),
      settle: (answer, sent) => this.settle(answer, sent),
    });
  }

  /** Of a document as the server has it now, as far as is known here. */
  versionOf(kind: VersionedKind): number {
    return this.versions[kind] ?? 0;
  }

  get canUndo(): boolean {
    return this.past.length > 0;
  }
  get canRedo(): boolean {
    return this.future.length > 0;
  }

  /**
   * What was loaded, perhaps after another window or person changed something: what waits here stays ours.
   * @returns whether it has to be loaded once more, as something was saved after it
   */
  load(initial: InitialLog): boolean {
    if (initial === this.loaded) return false;
    this.loaded = initial;
    const now = this.state().entries;
    const next = new Map(initial.entries);
    for (const { key, value } of this.queue?.waiting ?? []) {
      if (value === null) next.delete(key);
      else next.set(key, value);
    }
    for (const kind of versioned) {
      const [theirs, ours] = [initial.versions[kind] ?? 0, this.versions[kind] ?? 0];
      // What was loaded before our last change was saved is older than what is here.
      if (theirs < ours && now.has(kind)) next.set(kind, now.get(kind));
      else if (!this.queue?.waiting.some((each) => each.key === kind))
        this.versions = { ...this.versions, [kind]: theirs };
    }
    this.confirm(initial);
    if (canonical([...next].sort()) !== canonical([...now].sort())) this.set({ entries: next });
    return this.queue !== null && mayBeStale(this.queue);
  }

  /** @param join changes with the same name shortly after one another are one step back */
  commit(wanted: readonly (readonly [string, unknown])[], join: string | null = null): boolean {
    const { entries } = this.state();
    const changes = wanted
      .map(([key, after]) => ({ key, before: entries.get(key) ?? null, after }))
      .filter((change) => change.before !== change.after);
    if (changes.length === 0) return false;
    const last = this.past.at(-1);
    const joined = last !== undefined && join !== null && last.join === join && Date.now() - last.at < joinMilliseconds;
    if (joined) addTo(last, changes);
    else this.past.push({ changes, join, at: Date.now() });
    this.future = [];
    this.show(changes);
    this.save(changes);
    if (!joined) historyOf(this.about.projectId).did(this);
    return true;
  }

  undo(): boolean {
    return this.step(this.past, this.future, ({ key, before, after }) => ({ key, before: after, after: before }));
  }
  redo(): boolean {
    return this.step(this.future, this.past, (same) => same);
  }

  private step(from: Step[], to: Step[], turn: (change: Change) => Change): boolean {
    const last = from.pop();
    if (!last) return false;
    to.push({ ...last, join: null });
    const changes = last.changes.map((change) => this.amongTheirs(turn(change)));
    this.show(changes);
    this.save(changes);
    return true;
  }

  /** A step of ours where another window went on from it: what it did stays. */
  private amongTheirs(change: Change): Change {
    const theirs = this.state().entries.get(change.key) ?? null;
    if (!isVersioned(parts(change.key).kind) || canonical(theirs) === canonical(change.before)) return change;
    const merged = mergeValues({ base: change.before, mine: change.after, theirs });
    return 'value' in merged ? { ...change, after: merged.value } : change;
  }

  private show(changes: readonly { key: string; after: unknown }[]): void {
    const next = new Map(this.state().entries);
    for (const { key, after } of changes) {
      if (after === null) next.delete(key);
      else next.set(key, after);
    }
    this.set({ entries: next });
  }

  private save(changes: readonly Change[]): void {
    for (const { key, after } of changes) this.queue?.add({ key, value: after }, (waiting) => waiting.key === key);
  }

  /** Of what waits here the version stays known on which it was done. */
  private confirm({ entries, versions }: InitialLog): void {
    const waiting = new Set(this.queue?.waiting.map(({ key }) => key));
    for (const [key, value] of entries)
      if (isVersioned(key) && !waiting.has(key)) this.confirmed.set(key, { version: versions[key] ?? 0, value });
  }

  private bodyOf(change: Waiting): object {
    const { kind, id } = parts(change.key);
    if (!isVersioned(kind)) return { kind, id, value: change.value };
    change.version ??= this.versions[kind] ?? 0;
    const { version, value } = change;
    const known = this.confirmed.get(kind);
    const changes = known?.version === version ? (this.about.changesBetween?.(known.value, value) ?? null) : null;
    return changes === null ? { kind, id, version, value } : { kind, id, version, changes };
  }

  /**
   * Ours done to what another window made of it: saved anew, on their version.
   * @returns false where both changed the same
   */
  private joined(sent: Waiting, base: unknown, theirs: unknown): boolean {
    const merged = mergeValues({ base, mine: sent.value, theirs });
    if (!('value' in merged)) return false;
    // What came after it here was done to ours.
    const later = this.queue!.waiting.find((each) => each.key === sent.key && each !== sent);
    const next = later ? mergeValues({ base: sent.value, mine: later.value, theirs: merged.value }) : merged;
    if (!('value' in next)) return false;
    this.show([{ key: sent.key, after: next.value }]);
    this.queue!.add({ key: sent.key, value: next.value }, (waiting) => waiting.key === sent.key && waiting !== sent);
    return true;
  }

  private async settle(answer: Response, sent: Waiting): Promise<void> {
    const { kind } = parts(sent.key);
    const body = (await answer.json().catch(() => ({}))) as SaveAnswer;
    if (body.note) toast.warning(body.note);
    if (!answer.ok && answer.status !== 409)
      toast.error(
        `Not saved: ${Object.values(body.problems ?? {})[0] ?? refusals.get(answer.status) ?? 'this does not fit.'}`,
      );
    if (!isVersioned(kind) || body.version === undefined) return;
    const known = this.confirmed.get(kind);
    this.versions = { ...this.versions, [kind]: body.version };
    const isConflict = answer.status === 409;
    this.confirmed.set(kind, { version: body.version, value: isConflict ? body.value : sent.value });
    // An answer that was lost on its way makes the same change come twice; that is no conflict.
    if (!isConflict || canonical(body.value) === canonical(sent.value)) return;
    if (known && known.version === sent.version && this.joined(sent, known.value, body.value)) return;
    this.past.push({
      changes: [{ key: sent.key, before: this.state().entries.get(sent.key) ?? sent.value, after: body.value }],
      join: null,
      at: 0,
    });
    this.future = [];
    historyOf(this.about.projectId).did(this);
    this.queue!.drop((each) => each.key === sent.key);
    this.show([{ key: sent.key, after: body.value }]);
    toast.warning(
      `${names[kind]} was changed in another window and is shown as it stands there. ${shownKey('undo')} brings yours back.`,
    );
  }
}

/** Further changes of the same step. */
function addTo(step: Step, changes: readonly Change[]): void {
  for (const change of changes) {
    const known = step.changes.find((each) => each.key === change.key);
    if (known) known.after = change.after;
    else step.changes.push(change);
  }
  step.at = Date.now();
}

const documents = new Documents<LogDocument>();
/** The document that is saved at an address; always the same one on a page. */
export const logDocument = (about: LogAbout, initial: InitialLog): LogDocument =>
  documents.get(about.address, () => new LogDocument(about, initial));

/** The values of one kind. */
export const valuesOf = <T>(entries: Entries, kind: string): T[] =>
  [...entries].flatMap(([key, value]) => (key.startsWith(`${kind}:`) ? [value as T] : []));
