/** The box around an element that scrolls; null when there is none. */
export function scrollerOf(element: HTMLElement | null): HTMLElement | null {
  let box = element?.parentElement ?? null;
  while (box && !/auto|scroll/.test(getComputedStyle(box).overflowY)) box = box.parentElement;
  return box;
}
