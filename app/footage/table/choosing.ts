/** What is chosen in a list of rows, and the row that a range goes on from. */
export interface RowChoice {
  ids: ReadonlySet<string>;
  /** The row that was pressed, or moved to, last. */
  at: string | null;
  /** Where a range begins. */
  from: string | null;
}

export const nothingChosen: RowChoice = { ids: new Set(), at: null, from: null };

/** How a row is pressed: alone, one more or less, or all up to it. */
export type Press = 'only' | 'toggle' | 'upTo';

export const pressOf = (event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }): Press =>
  event.shiftKey ? 'upTo' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';

/** @param order ids as they stand on the screen */
export function choose(choice: RowChoice, order: readonly string[], id: string, how: Press): RowChoice {
  if (how === 'toggle') {
    const ids = new Set(choice.ids);
    if (!ids.delete(id)) ids.add(id);
    return { ids, at: id, from: id };
  }
  const from = how === 'upTo' && choice.from !== null && order.includes(choice.from) ? choice.from : id;
  const [first, last] = [order.indexOf(from), order.indexOf(id)].sort((a, b) => a - b) as [number, number];
  return { ids: new Set(order.slice(first, last + 1)), at: id, from };
}

/** One row on or back; with `upTo` the range follows. Without a row that was there, the first or the last. */
export function step(choice: RowChoice, order: readonly string[], by: 1 | -1, how: 'only' | 'upTo'): RowChoice {
  if (order.length === 0) return choice;
  const now = choice.at === null ? -1 : order.indexOf(choice.at);
  const next = now < 0 ? (by > 0 ? 0 : order.length - 1) : Math.max(0, Math.min(order.length - 1, now + by));
  return choose(choice, order, order[next]!, how);
}

export const chooseAll = (choice: RowChoice, order: readonly string[]): RowChoice => ({
  ...choice,
  ids: new Set(order),
});

/** Without what is not there any more. */
export function stillThere(choice: RowChoice, order: readonly string[]): RowChoice {
  const there = new Set(order);
  const ids = [...choice.ids].filter((id) => there.has(id));
  return ids.length === choice.ids.size ? choice : { ...choice, ids: new Set(ids) };
}
