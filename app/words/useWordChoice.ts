import { useCallback, useEffect, useRef, useState } from 'react';

/** Words that are chosen in a text, by their places in it; `to` is the one after the last. */
export interface WordChoice {
  from: number;
  to: number;
}

/** Where choosing began, and where it stands: the arrows go on from there. */
interface Ends {
  anchor: number;
  head: number;
}
const choiceOf = ({ anchor, head }: Ends): WordChoice => ({
  from: Math.min(anchor, head),
  to: Math.max(anchor, head) + 1,
});

interface WordChoiceOptions {
  /** How many words there are. */
  count: number;
  /** Where the arrows choose too: the first word of the sentence before and after the one of a word. */
  arrows?: { sentenceBefore(at: number): number; sentenceAfter(at: number): number };
  /** A word was pressed or gone to. */
  onGo(at: number): void;
  /** Words were drawn over, or chosen with Shift. */
  onDrawn?(choice: WordChoice): void;
  /** Whatever else keys do with the choice; true when it was done. */
  onKey?(event: KeyboardEvent, choice: WordChoice | null): boolean;
}

/**
 * Choosing words in a text: by pressing and drawing over them, with Shift from where it began, and with the arrows. Words carry
 * `data-word` with their place.
 */
export function useWordChoice(options: WordChoiceOptions) {
  const [ends, setEnds] = useState<Ends | null>(null);
  /** Where the words stand; it may come later than the choice. */
  const [box, setBox] = useState<HTMLDivElement | null>(null);
  const latest = useRef({ options, ends });
  useEffect(() => {
    latest.current = { options, ends };
  });
  const { count } = options;
  const isThere = ends !== null && ends.anchor < count && ends.head < count;
  const choice = isThere ? choiceOf(ends) : null;

  // On the element itself: a key that means the words must not reach what it means for the whole place.
  useEffect(() => {
    if (!box) return;
    const take = (event: KeyboardEvent) => {
      const { options: now, ends: at } = latest.current;
      const own = at && choiceOf(at);
      const taken = now.onKey?.(event, own) || arrow(event, at, now, setEnds) || escape(event, at, now, setEnds);
      if (!taken) return;
      event.preventDefault();
      event.stopPropagation();
    };
    box.addEventListener('keydown', take);
    return () => box.removeEventListener('keydown', take);
  }, [box]);

  const wordUnder = (target: EventTarget) => {
    const word = target instanceof Element ? target.closest<HTMLElement>('[data-word]') : null;
    return word ? Number(word.dataset.word) : null;
  };
  const choose = useCallback(
    (next: WordChoice | null) => {
      setEnds(next && next.to > next.from ? { anchor: next.from, head: next.to - 1 } : null);
      box?.focus({ preventScroll: true });
    },
    [box],
  );
  return {
    choice,
    /** The word that choosing stands at. */
    head: isThere ? ends.head : null,
    choose,
    boxProps: {
      ref: setBox,
      tabIndex: 0,
      onPointerDown: (event: React.PointerEvent) => {
        const at = wordUnder(event.target);
        if (at === null || event.button !== 0) return;
        // Letters are not marked meanwhile.
        event.preventDefault();
        box?.focus({ preventScroll: true });
        setEnds((before) => (event.shiftKey && before ? { ...before, head: at } : { anchor: at, head: at }));
        if (!event.shiftKey) options.onGo(at);
      },
      onPointerOver: (event: React.PointerEvent) => {
        const at = event.buttons === 1 ? wordUnder(event.target) : null;
        if (at !== null) setEnds((before) => before && { ...before, head: at });
      },
      onPointerUp: () => {
        const drawn = latest.current.ends && choiceOf(latest.current.ends);
        if (drawn && drawn.to - drawn.from > 1) latest.current.options.onDrawn?.(drawn);
      },
    },
  };
}

type Set = (ends: Ends | null) => void;

function arrow(event: KeyboardEvent, ends: Ends | null, options: WordChoiceOptions, set: Set): boolean {
  const { arrows } = options;
  if (!arrows || event.altKey || event.ctrlKey || event.metaKey || options.count === 0) return false;
  const at = ends?.head ?? 0;
  const to =
    event.key === 'ArrowLeft'
      ? at - 1
      : event.key === 'ArrowRight'
        ? at + 1
        : event.key === 'ArrowUp'
          ? arrows.sentenceBefore(at)
          : event.key === 'ArrowDown'
            ? arrows.sentenceAfter(at)
            : null;
  if (to === null) return false;
  const head = ends ? Math.max(0, Math.min(options.count - 1, to)) : 0;
  set(event.shiftKey && ends ? { ...ends, head } : { anchor: head, head });
  if (!event.shiftKey) options.onGo(head);
  return true;
}

function escape(event: KeyboardEvent, ends: Ends | null, { arrows }: WordChoiceOptions, set: Set): boolean {
  if (event.key !== 'Escape' || !ends) return false;
  set(null);
  // Where the place has the arrows, it has Escape too.
  return arrows !== undefined;
}
