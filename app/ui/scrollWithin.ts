/**
 * Scrolls the list that an element stands in so that it is in the middle, and nothing else: `scrollIntoView` also moves
 * every box around the list, up to the page itself.
 */
export function scrollWithin(element: HTMLElement | null): void {
  let list = element?.parentElement ?? null;
  while (list && !/auto|scroll/.test(getComputedStyle(list).overflowY)) list = list.parentElement;
  if (!element || !list) return;
  const [own, around] = [element.getBoundingClientRect(), list.getBoundingClientRect()];
  list.scrollTop += own.top - around.top - (list.clientHeight - own.height) / 2;
}
