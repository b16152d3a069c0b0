import { useEffect, useState, type RefObject } from 'react';

/** What lies this near to the screen counts as seen. */
const margin = '200px';
const waiting = new Map<Element, () => void>();
let observer: IntersectionObserver | null = null;

function watch(element: Element, seen: () => void): () => void {
  observer ??= new IntersectionObserver(
    (entries) => {
      for (const { target, isIntersecting } of entries) if (isIntersecting) waiting.get(target)?.();
    },
    { rootMargin: margin },
  );
  waiting.set(element, seen);
  observer.observe(element);
  return () => {
    waiting.delete(element);
    observer!.unobserve(element);
  };
}

/** Whether an element has come onto the screen, or near it; once it has, it stays so. */
export function useSeen(element: RefObject<Element | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => (seen ? undefined : watch(element.current!, () => setSeen(true))), [element, seen]);
  return seen;
}
