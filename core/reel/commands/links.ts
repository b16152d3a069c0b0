import { clipsOf, type Reel } from '../types';
import { withItems } from './change';

/**
 * A cut names the link of its second half by where it lies in the piece, so that the halves of picture and sound find
 * one another. A piece that was made longer and is cut there again would take the link of an earlier second half: what
 * the edit made gets another one then.
 */
export function partLinks(before: Reel, after: Reel): Reel {
  const pictures = new Set<string>();
  const twice = new Set<string>();
  for (const track of after.tracks)
    for (const item of track.kind === 'picture' ? track.items : []) {
      if (item.kind !== 'clip' || item.link === undefined) continue;
      if (pictures.has(item.link)) twice.add(item.link);
      pictures.add(item.link);
    }
  if (twice.size === 0) return after;
  const known = new Set(clipsOf(before).map((clip) => clip.id));
  const taken = new Set(clipsOf(after).map((clip) => clip.link));
  const fresh = new Map<string, string>();
  for (const link of twice) {
    let count = 2;
    while (taken.has(`${link}.${count}`)) count++;
    fresh.set(link, `${link}.${count}`);
  }
  return withItems(after, ({ items }) =>
    items.map((item) => {
      const link = item.kind === 'clip' && !known.has(item.id) && item.link !== undefined && fresh.get(item.link);
      return link ? { ...item, link } : item;
    }),
  );
}
