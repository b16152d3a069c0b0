import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import { toast } from 'sonner';
import { mayBeStale, postJson, saveQueue, type SaveQueue } from '../ui/saveQueue';
import type { SaveState } from '../ui/SaveMark';

/** Documents that have a version: another window may have changed them since. */
const versioned = ['pick', 'scenes', 'silence', 'montage'] as const;
type VersionedKind = (typeof versioned)[number];
const isVersioned = (kind: string): kind is VersionedKind => (versioned as readonly string[]).includes(kind);
const names: Record<VersionedKind, string> = {
  pick: 'The mix',
  scenes: 'The order of scenes',
  silence: 'What is kept of the silence',
  montage: 'The montage',
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
const sayFull = () =>
  void toast.warning(
    'The browser has no room to keep what is not saved yet. Leave this page open until it says “Saved”.',
    {
      id: 'unkept',
    },
  );

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

/**
 * Everything an editor changes on a project's page: shown at once, saved one after another as it is made and again while
 * the server is away, taken back without limit. Waiting changes are kept in the browser, so that a closed tab loses
 * none. When another window was quicker with a document, what stands there is shown, and one step back brings ours.
 */
export function useLog(address: string, initial: InitialLog) {
  const { revalidate } = useRevalidator();
  const storageKey = `unsaved:${address}`;
  const [entries, setEntries] = useState<Entries>(() => new Map(initial.entries));
  const [state, setState] = useState<SaveState>('saved');
  const now = useRef(entries);
  const versions = useRef(initial.versions);
  const queue = useRef<SaveQueue<Waiting> | null>(null);
  const past = useRef<Step[]>([]);
  const future = useRef<Step[]>([]);

  const show = useCallback((changes: readonly { key: string; after: unknown }[]) => {
    const next = new Map(now.current);
    for (const { key, after } of changes) {
      if (after === null) next.delete(key);
      else next.set(key, after);
    }
    now.current = next;
    setEntries(next);
  }, []);

  const settle = useCallback(
    async (answer: Response, sent: Waiting) => {
      const { kind } = parts(sent.key);
      const body = (await answer.json().catch(() => ({}))) as SaveAnswer;
      if (body.note) toast.warning(body.note);
      if (!answer.ok && answer.status !== 409)
        toast.error(
          `Not saved: ${Object.values(body.problems ?? {})[0] ?? refusals.get(answer.status) ?? 'this does not fit.'}`,
        );
      if (!isVersioned(kind) || body.version === undefined) return;
      versions.current = { ...versions.current, [kind]: body.version };
      // An answer that was lost on its way makes the same change come twice; that is no conflict.
      if (answer.status !== 409 || canonical(body.value) === canonical(sent.value)) return;
      past.current.push({
        changes: [{ key: sent.key, before: now.current.get(sent.key) ?? sent.value, after: body.value }],
        join: null,
        at: 0,
      });
      future.current = [];
      queue.current?.drop((each) => each.key === sent.key);
      show([{ key: sent.key, after: body.value }]);
      toast.warning(
        `${names[kind]} was changed in another window and is shown as it stands there. Ctrl Z brings yours back.`,
      );
    },
    [show],
  );

  const save = useCallback((changes: readonly Change[]) => {
    for (const { key, after } of changes) queue.current?.add({ key, value: after }, (waiting) => waiting.key === key);
  }, []);

  useEffect(() => {
    const own = saveQueue<Waiting>(storageKey, sayFull);
    queue.current = own;
    if (own.waiting.length) show(own.waiting.map(({ key, value }) => ({ key, after: value })));
    // The screen before may have saved something after this one was loaded.
    if (mayBeStale(own)) void revalidate();
    setState(own.state);
    const stop = own.subscribe(() => setState(own.state));
    own.connect({
      send: (change) => {
        const { kind, id } = parts(change.key);
        if (isVersioned(kind)) change.version ??= versions.current[kind] ?? 0;
        return postJson(address, {
          kind,
          id,
          value: change.value,
          ...(change.version === undefined ? {} : { version: change.version }),
        });
      },
      settle,
    });
    return stop;
  }, [address, revalidate, settle, show, storageKey]);

  // Loaded anew, after another window or person changed something: what waits here stays ours.
  const first = useRef(true);
  useEffect(() => {
    if (first.current) return void (first.current = false);
    const next = new Map(initial.entries);
    for (const { key, value } of queue.current?.waiting ?? []) {
      if (value === null) next.delete(key);
      else next.set(key, value);
    }
    for (const kind of versioned) {
      const [theirs, ours] = [initial.versions[kind] ?? 0, versions.current[kind] ?? 0];
      // What was loaded before our last change was saved is older than what is here.
      if (theirs < ours && now.current.has(kind)) next.set(kind, now.current.get(kind));
      else if (!queue.current?.waiting.some((each) => each.key === kind))
        versions.current = { ...versions.current, [kind]: theirs };
    }
    if (canonical([...next].sort()) === canonical([...now.current].sort())) return;
    now.current = next;
    setEntries(next);
  }, [initial]);

  /**
   * @param join changes with the same name shortly after one another are one step back
   * @returns whether this is a step of its own
   */
  const commit = useCallback(
    (wanted: readonly (readonly [string, unknown])[], join: string | null = null): boolean => {
      const changes = wanted
        .map(([key, after]) => ({ key, before: now.current.get(key) ?? null, after }))
        .filter((change) => change.before !== change.after);
      if (changes.length === 0) return false;
      const last = past.current.at(-1);
      const joined = Boolean(join && last?.join === join && Date.now() - last.at < joinMilliseconds);
      if (joined && last) {
        for (const change of changes) {
          const known = last.changes.find((each) => each.key === change.key);
          if (known) known.after = change.after;
          else last.changes.push(change);
        }
        last.at = Date.now();
      } else past.current.push({ changes, join, at: Date.now() });
      future.current = [];
      show(changes);
      save(changes);
      return !joined;
    },
    [save, show],
  );

  const step = useCallback(
    (from: typeof past, to: typeof past, turn: (change: Change) => Change) => {
      const last = from.current.pop();
      if (!last) return false;
      to.current.push({ ...last, join: null });
      const changes = last.changes.map(turn);
      show(changes);
      save(changes);
      return true;
    },
    [save, show],
  );
  const undo = useCallback(
    () => step(past, future, ({ key, before, after }) => ({ key, before: after, after: before })),
    [step],
  );
  const redo = useCallback(() => step(future, past, (same) => same), [step]);
  return useMemo(() => ({ entries, state, commit, undo, redo }), [entries, state, commit, undo, redo]);
}

/** The values of one kind. */
export const valuesOf = <T>(entries: Entries, kind: string): T[] =>
  [...entries].flatMap(([key, value]) => (key.startsWith(`${kind}:`) ? [value as T] : []));
