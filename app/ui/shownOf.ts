/** The first element of a selector that is shown: of two reels on one screen only one has its picture in sight. */
export const shownOf = <E extends HTMLElement>(page: Document, selector: string): E | null =>
  [...page.querySelectorAll<E>(selector)].find((element) => element.getClientRects().length > 0) ?? null;
