import { toast } from 'sonner';

/**
 * Something that can be changed and taken back: what was decided and noted, a reel, the words of a file, a montage, a
 * set of shorts. It keeps its own steps; the history knows in whose turn they were made.
 */
export interface Participant {
  /** Said when a step is taken back that is not on screen, such as “the reel “Selects””. */
  readonly title: string;
  /** Whether its changes show somewhere now. */
  readonly onScreen: boolean;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** Takes its last step back, and shows that at once. False when there is none. */
  undo(): boolean;
  redo(): boolean;
}

/** Participants that were changed together, such as two reels by a piece that moved. */
type Step = readonly Participant[];

/** What was done in a project on this page, in order: what was done last, wherever it was, is taken back first. */
export class History {
  private past: Step[] = [];
  private future: Step[] = [];
  /** Who was changed since `together` began. */
  private open: Participant[] | null = null;
  private listeners = new Set<() => void>();
  private count = 0;

  /** @param sayElsewhere hears what was taken back or done again where nobody sees it */
  constructor(private readonly sayElsewhere: (sentence: string) => void = () => undefined) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };
  /** Another number whenever something was done, taken back or done again. */
  version = (): number => this.count;

  /** A participant made a step of its own. */
  did(participant: Participant): void {
    if (this.open) {
      if (!this.open.includes(participant)) this.open.push(participant);
      return;
    }
    this.past.push([participant]);
    this.future = [];
    this.tell();
  }

  /** What is done inside is one step, however many participants it changes, each of them once. */
  together(act: () => void): void {
    this.open = [];
    try {
      act();
    } finally {
      const step = this.open;
      this.open = null;
      if (step.length > 0) {
        this.past.push(step);
        this.future = [];
        this.tell();
      }
    }
  }

  /** A participant's steps are void, because somebody else changed it meanwhile. */
  forget(participant: Participant): void {
    const without = (steps: Step[]) =>
      steps.map((step) => step.filter((each) => each !== participant)).filter((step) => step.length > 0);
    this.past = without(this.past);
    this.future = without(this.future);
    this.tell();
  }

  /** @param usual whose steps of earlier visits are taken back when nothing was done on this one */
  undo(usual: Participant | null = null): boolean {
    return this.step(this.past, this.future, 'undo', usual);
  }
  redo(usual: Participant | null = null): boolean {
    return this.step(this.future, this.past, 'redo', this.past.length === 0 ? usual : null);
  }
  canUndo(usual: Participant | null = null): boolean {
    return this.past.some((step) => step.some(({ canUndo }) => canUndo)) || (usual?.canUndo ?? false);
  }
  canRedo(usual: Participant | null = null): boolean {
    return (
      this.future.some((step) => step.some(({ canRedo }) => canRedo)) ||
      (this.past.length === 0 && (usual?.canRedo ?? false))
    );
  }

  private step(from: Step[], to: Step[], direction: 'undo' | 'redo', usual: Participant | null): boolean {
    // Steps that are void by now are passed over.
    for (let step = from.pop(); step !== undefined; step = from.pop()) {
      const done = step.filter((participant) => participant[direction]());
      if (done.length > 0) return this.stepped(done, to, direction);
    }
    return usual !== null && usual[direction]() ? this.stepped([usual], to, direction) : false;
  }

  private stepped(step: Step, to: Step[], direction: 'undo' | 'redo'): true {
    to.push(step);
    const hidden = step.filter(({ onScreen }) => !onScreen).map(({ title }) => title);
    if (hidden.length > 0)
      this.sayElsewhere(`${direction === 'undo' ? 'Undone' : 'Redone'} in ${hidden.join(' and ')}.`);
    this.tell();
    return true;
  }

  private tell(): void {
    this.count++;
    for (const listener of this.listeners) listener();
  }
}

const histories = new Map<string, History>();
/** The history of a project on this page; always the same one. */
export function historyOf(projectId: string): History {
  let history = histories.get(projectId);
  if (!history) histories.set(projectId, (history = new History((sentence) => void toast(sentence))));
  return history;
}
