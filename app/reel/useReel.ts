import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import { toast } from 'sonner';
import { applyCommand, type ReelCommand, type Source } from '#core/reel';
import type { LiveReel } from '#usecases/reels';
import { mayBeStale, postJson, saveQueue, type SaveQueue } from '../ui/saveQueue';
import type { SaveState } from '../ui/SaveMark';
import { withWaiting, type Edit, type WaitingEdit } from './waitingEdits';
import { useLatest } from '../ui/useLatest';

export interface Instead {
  says: string;
  command: ReelCommand;
}

const noRoom = 'The browser has no room to keep what is not saved yet. Leave this page open until it is saved.';
const sayFull = () => void toast.warning(noRoom, { id: 'unkept' });

/** The version of each reel that its queue saved last; newer than what was loaded shortly before. */
const savedHeads = new Map<string, number>();

/**
 * A reel under one's hands: an edit shows at once (by the same function that the server uses) and is sent in order,
 * each on the version the one before it made, and again while the server is away. What was not confirmed is kept in the
 * browser: a reload, or leaving the place, loses none. When somebody else was quicker, or the server refuses, the reel is
 * shown as it stands there.
 * @param initial from the loader; null when no reel is open
 */
export function useReel(initial: LiveReel | null, sources: ReadonlyMap<string, Source>) {
  const [reel, setReel] = useState(initial);
  const [problem, setProblem] = useState<string | null>(null);
  /** An edit that would fit where one was refused. */
  const [instead, setInstead] = useState<Instead | null>(null);
  const [state, setState] = useState<SaveState>('saved');
  const { revalidate } = useRevalidator();
  const shown = useRef(initial);
  /** The version that the next edit goes on from; one object for each reel that was opened. */
  const line = useRef({ head: initial?.head ?? 0 });
  const loaded = useLatest(initial);
  const queue = useRef<SaveQueue<WaitingEdit> | null>(null);
  /** When edits were made, so that a screen with several histories knows which was last. */
  const times = useRef<number[]>([]);
  const known = useLatest(sources);

  const show = useCallback((next: LiveReel | null) => {
    shown.current = next;
    setReel(next);
  }, []);

  const [id, projectId, readOnly] = [initial?.id ?? null, initial?.projectId ?? null, initial?.readOnly ?? false];
  useEffect(() => {
    queue.current = null;
    if (!id || readOnly) return;
    const own = saveQueue<WaitingEdit>(`unsaved-reel:${id}`, sayFull);
    queue.current = own;
    const head = loaded.current?.head ?? 0;
    // The queue outlives this reel's screen; the version that it goes on from is its own then.
    const ownLine = (line.current = { head: mayBeStale(own) ? (savedHeads.get(id) ?? head) : head });
    const isShown = () => shown.current?.id === id && !shown.current.readOnly && queue.current === own;
    own.connect({
      send: ({ id: edit, ...what }) =>
        postJson(`/projects/${projectId}/reels/${id}/edits`, { id: edit, head: ownLine.head, ...what }),
      settle: async (answer) => {
        const body = (await answer.json().catch(() => null)) as { reel?: LiveReel; problem?: string | null } | null;
        if (!body?.reel) {
          own.drop();
          if (isShown())
            setProblem(
              answer.status === 404
                ? 'This reel was deleted; what was changed last could not be saved.'
                : 'The server refused this change. Load the page again.',
            );
          return;
        }
        ownLine.head = body.reel.head;
        savedHeads.set(id, body.reel.head);
        // What waits behind a refused edit was meant for another reel.
        if (body.problem) own.drop();
        if (!isShown()) return void (body.problem && toast.error(`“${body.reel.document.name}”: ${body.problem}`));
        if (body.problem) setProblem(body.problem);
        if (own.waiting.length <= 1) show(body.reel);
      },
    });
    if (mayBeStale(own)) void revalidate();
    setState(own.state);
    return own.subscribe(() => setState(own.state));
  }, [id, projectId, readOnly, revalidate, show, loaded]);

  useEffect(() => {
    const own = queue.current;
    const waits = own !== null && own.waiting.length > 0;
    // Another reel was opened; the same one loaded again only counts when nothing of ours is on its way.
    const same = initial?.id === shown.current?.id && initial?.readOnly === shown.current?.readOnly;
    if (same && shown.current !== initial) {
      if (waits || (initial?.head ?? 0) < line.current.head) return;
      line.current.head = initial?.head ?? 0;
    }
    show(initial && waits ? withWaiting(initial, own.waiting, known.current) : initial);
  }, [initial, show, known]);

  const push = useCallback((edit: Edit) => queue.current?.add({ id: crypto.randomUUID(), ...edit }), []);

  /** @returns whether the edit fits; if not, `problem` says why */
  const edit = useCallback(
    (command: ReelCommand): boolean => {
      if (!shown.current) return false;
      if (shown.current.readOnly) {
        setProblem('This is an earlier version, to be looked at. Go back to it under “Versions” to change it.');
        return false;
      }
      const result = applyCommand(shown.current.document, command, sources);
      setProblem(result.ok ? null : result.reason);
      setInstead(result.ok ? null : (result.instead ?? null));
      if (!result.ok) return false;
      if (result.note) toast(result.note);
      show({ ...shown.current, document: result.reel, canUndo: true, canRedo: false });
      times.current.push(Date.now());
      push({ command });
      return true;
    },
    [push, show, sources],
  );

  const step = useCallback(
    (next: Edit) => {
      setProblem(null);
      setInstead(null);
      if (!shown.current?.readOnly) push(next);
    },
    [push],
  );

  return useMemo(
    () => ({
      reel,
      problem,
      instead,
      state,
      edit,
      undo: () => {
        times.current.pop();
        step({ step: 'undo' });
      },
      redo: () => {
        times.current.push(Date.now());
        step({ step: 'redo' });
      },
      lastEdit: () => times.current.at(-1) ?? 0,
      restore: (version: number) => step({ command: { type: 'restore', version } }),
      forgetProblem: () => {
        setProblem(null);
        setInstead(null);
      },
    }),
    [reel, problem, instead, state, edit, step],
  );
}
