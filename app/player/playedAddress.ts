import type { Item } from '#usecases/projects';

/** Where what a player plays of an item lies. Browsers keep it, so that the address changes with what was read of it. */
export const playedAddress = ({ id, parameters }: Pick<Item, 'id' | 'parameters'>): string =>
  parameters === '' ? `/media/${id}` : `/media/${id}?as=${encodeURIComponent(parameters)}`;
