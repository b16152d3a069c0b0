import { useCallback, useRef, useState } from 'react';
import type { Decision } from '#core/moments';
import { overlap } from '#core/time';

type Save = (change: { kind: 'decision' | 'undecide'; value: unknown }) => void;
interface Step {
  added: Decision[];
  removed: Decision[];
}

/** Keeps and drops made by hand: shown at once, saved as they are made, taken back without limit. */
export function useDecisions(initial: Decision[], save: Save) {
  const [decisions, setDecisions] = useState(initial);
  const past = useRef<Step[]>([]);
  const future = useRef<Step[]>([]);

  const apply = useCallback((step: Step) => {
    setDecisions((now) => [...now.filter((each) => !step.removed.some((gone) => gone.id === each.id)), ...step.added]);
    for (const decision of step.removed) save({ kind: 'undecide', value: decision.id });
    for (const decision of step.added) save({ kind: 'decision', value: decision });
  }, [save]);

  const commit = useCallback((step: Step) => {
    past.current.push(step);
    future.current = [];
    apply(step);
  }, [apply]);

  /** Decides about a range; what was decided inside it before gives way. The same verdict again takes it back. */
  const decide = useCallback((media: string, start: number, end: number, verdict: Decision['verdict']) => {
    const touched = decisions.filter((each) => each.media === media && overlap(each, { start, end }) > 0.01);
    const again = touched.find((each) => each.verdict === verdict && Math.abs(each.start - start) < 0.06 && Math.abs(each.end - end) < 0.06);
    commit({ removed: touched, added: again ? [] : [{ id: crypto.randomUUID(), media, start, end, verdict }] });
    return !again;
  }, [commit, decisions]);

  const step = useCallback((from: typeof past, to: typeof past, turn: (step: Step) => Step) => {
    const last = from.current.pop();
    if (!last) return false;
    to.current.push(last);
    apply(turn(last));
    return true;
  }, [apply]);
  const undo = useCallback(() => step(past, future, ({ added, removed }) => ({ added: removed, removed: added })), [step]);
  const redo = useCallback(() => step(future, past, (same) => same), [step]);
  return { decisions, decide, undo, redo };
}
