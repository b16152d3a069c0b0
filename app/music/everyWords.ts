import type { Every } from '#core/montage';

/** How often is cut, in words. */
export function everyWords(every: Every): string {
  switch (every) {
    case 'bar':
      return 'every bar';
    case 'marks':
      return 'on marks';
    case 1:
      return 'every beat';
    default:
      return `every ${every} beats`;
  }
}
