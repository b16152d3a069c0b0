import { useCallback, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';

export type SaveState = 'saved' | 'saving' | 'away';

interface Change {
  kind: 'decision' | 'undecide' | 'pick';
  value: unknown;
}

/**
 * Sends changes one after another as they are made, and again while the server is away; nothing is dropped. Waiting
 * changes are kept in the browser, so that a closed tab loses none.
 */
export function useSaver(address: string): { state: SaveState; save(change: Change): void } {
  const queue = useRef<Change[]>([]);
  const sending = useRef(false);
  const [state, setState] = useState<SaveState>('saved');
  const key = `unsaved:${address}`;

  const send = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    while (queue.current.length) {
      setState((now) => (now === 'away' ? now : 'saving'));
      const answer = await fetch(address, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(queue.current[0]), keepalive: true }).catch(() => null);
      if (answer && (answer.ok || answer.status === 422)) {
        if (answer.status === 422) toast.error(`Not saved: ${Object.values(((await answer.json()) as { problems: Record<string, string> }).problems)[0]}`);
        queue.current.shift();
        localStorage.setItem(key, JSON.stringify(queue.current));
        setState('saving');
      } else {
        setState('away');
        await new Promise((wake) => setTimeout(wake, 1500));
      }
    }
    localStorage.removeItem(key);
    sending.current = false;
    setState('saved');
  }, [address, key]);

  useEffect(() => {
    const left = JSON.parse(localStorage.getItem(key) ?? '[]') as Change[];
    if (left.length === 0) return;
    queue.current.unshift(...left);
    void send();
  }, [key, send]);

  const save = useCallback((change: Change) => {
    const last = queue.current.at(-1);
    if (change.kind === 'pick' && last?.kind === 'pick' && queue.current.length > 1) queue.current[queue.current.length - 1] = change;
    else queue.current.push(change);
    localStorage.setItem(key, JSON.stringify(queue.current));
    void send();
  }, [key, send]);
  return { state, save };
}
