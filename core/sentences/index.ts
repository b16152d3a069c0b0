import { upTo } from './numbers';

export {
  decimal,
  formatDay,
  formatLongDay,
  formatMoment,
  formatSize,
  formatTimeLeft,
  formatTimeOfDay,
  upTo,
} from './numbers';

const plurals = new Intl.PluralRules('en');

/** A count with its noun: “1 piece”, “2 pieces”, “1,200 pieces”. @param many of the noun; with an s when missing */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${upTo(count, 0)} ${plurals.select(count) === 'one' ? one : many}`;

const lists = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** Parts of a sentence one after another: “a”, “a and b”, “a, b and c”. */
export const listOf = (parts: readonly string[]): string => lists.format(parts);
