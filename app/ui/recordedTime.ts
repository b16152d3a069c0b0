import type { Item } from '#usecases/projects';

/** When an item was recorded, as far as its file tells; else when it was brought in. Milliseconds. */
export const recordedTime = ({ probe, createdAt }: Pick<Item, 'probe' | 'createdAt'>): number =>
  // Without an offset it is the clock of the place, which is most likely the editor's own.
  Date.parse(probe?.recordedAt ?? '') || +new Date(createdAt);
