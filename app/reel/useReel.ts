import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { applyCommand, type ReelCommand, type Source } from '#core/reel';
import type { OpenReel } from '#data/reels';
import type { SaveState } from '../ui/saveState';

/** A reel as it stands in the database, or an earlier version of it, to be looked at. */
export interface LiveReel extends OpenReel {
  readOnly?: boolean;
}

type Edit = { command: ReelCommand } | { step: 'undo' | 'redo' } | { restore: number };
export interface Instead {
  says: string;
  command: ReelCommand;
}

/**
 * A reel under one's hands: an edit shows at once (by the same function that the server uses) and is sent in order,
 * each on the version the one before it made, and again while the server is away. When somebody else was quicker, or
 * the server refuses, the reel is shown as it stands there.
 * @param initial from the loader; null when no reel is open
 */
export function useReel(initial: LiveReel | null, sources: ReadonlyMap<string, Source>) {
  const [reel, setReel] = useState(initial);
  const [problem, setProblem] = useState<string | null>(null);
  /** An edit that would fit where one was refused. */
  const [instead, setInstead] = useState<Instead | null>(null);
  const [state, setState] = useState<SaveState>('saved');
  const shown = useRef(initial);
  const head = useRef(initial?.head ?? 0);
  const queue = useRef<Edit[]>([]);
  const sending = useRef(false);
  /** When edits were made, so that a screen with several histories knows which was last. */
  const times = useRef<number[]>([]);

  const show = useCallback((next: LiveReel | null) => {
    shown.current = next;
    setReel(next);
  }, []);
  useEffect(() => {
    // Another reel was opened; the same one loaded again only counts when nothing of ours is on its way.
    if (initial?.id === shown.current?.id && (sending.current || (initial?.head ?? 0) < head.current)) return;
    head.current = initial?.head ?? 0;
    queue.current = [];
    show(initial);
  }, [initial, show]);

  const send = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    while (queue.current.length && shown.current) {
      const { id, projectId } = shown.current;
      setState((now) => (now === 'away' ? now : 'saving'));
      const answer = await fetch(`/projects/${projectId}/reels/${id}/edits`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ head: head.current, ...queue.current[0] }), keepalive: true }).catch(() => null);
      const body = answer && (answer.ok || answer.status === 409 || answer.status === 422) ? ((await answer.json()) as { reel: LiveReel; problem: string | null }) : null;
      if (shown.current?.id !== id) break;
      if (!body) {
        setState('away');
        await new Promise((wake) => setTimeout(wake, 1500));
        continue;
      }
      setState('saving');
      queue.current.shift();
      head.current = body.reel.head;
      if (body.problem) {
        // What waits behind a refused edit was meant for another reel.
        queue.current = [];
        setProblem(body.problem);
      }
      if (queue.current.length === 0) show(body.reel);
    }
    sending.current = false;
    setState('saved');
  }, [show]);

  /** @returns whether the edit fits; if not, `problem` says why */
  const edit = useCallback((command: ReelCommand): boolean => {
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
    queue.current.push({ command });
    void send();
    return true;
  }, [send, show, sources]);

  const push = useCallback((next: Edit) => {
    setProblem(null);
    setInstead(null);
    if (shown.current?.readOnly) return;
    queue.current.push(next);
    void send();
  }, [send]);

  return useMemo(() => ({
    reel, problem, instead, state, edit, undo: () => { times.current.pop(); push({ step: 'undo' }); }, redo: () => { times.current.push(Date.now()); push({ step: 'redo' }); }, lastEdit: () => times.current.at(-1) ?? 0, restore: (number: number) => push({ restore: number }),
    forgetProblem: () => { setProblem(null); setInstead(null); },
  }), [reel, problem, instead, state, edit, push]);
}
