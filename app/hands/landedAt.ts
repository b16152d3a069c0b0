import type { Landing } from './Movable';

/**
 * The place in a list where something is, once it has landed.
 * @param from its place now, -1 for what comes from elsewhere
 * @param over the place of what it is let go on
 */
export function landedAt(from: number, over: number, side: Landing['side']): number {
  const to = side === 'after' ? over + 1 : over;
  return from >= 0 && from < to ? to - 1 : to;
}
