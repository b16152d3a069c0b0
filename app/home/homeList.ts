import { counted, listOf } from '#core/sentences';
import type { HomeProject } from '#usecases/projects';
import { homeWords } from './words';

export const shelves = ['active', 'away', 'removed'] as const;
export type HomeShelf = (typeof shelves)[number];
export const sorts = ['changed', 'name', 'length'] as const;
export type Sort = (typeof sorts)[number];

export const shelfOf = ({ isPutAway, isRemoved }: Pick<HomeProject, 'isPutAway' | 'isRemoved'>): HomeShelf =>
  isRemoved ? 'removed' : isPutAway ? 'away' : 'active';

const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
const orders: Record<Sort, (a: HomeProject, b: HomeProject) => number> = {
  changed: (a, b) => b.changedAt.localeCompare(a.changedAt),
  name: (a, b) => byName.compare(a.name, b.name),
  length: (a, b) => b.seconds - a.seconds,
};

/** The projects of a shelf whose names hold a text, in an order. */
export function shownProjects(
  projects: readonly HomeProject[],
  shelf: HomeShelf,
  text: string,
  sort: Sort,
): HomeProject[] {
  const wanted = text.trim().toLocaleLowerCase();
  return projects
    .filter((project) => shelfOf(project) === shelf && project.name.toLocaleLowerCase().includes(wanted))
    .sort(orders[sort]);
}

/** What is in a project, in words. */
export function contentWords({ films, photos, sounds, items }: HomeProject): string {
  const unknown = items - films - photos - sounds;
  const parts = [
    [films, 'film'],
    [photos, 'photo'],
    [sounds, 'recording'],
    [unknown, 'other file'],
  ] as const;
  return listOf(parts.flatMap(([count, noun]) => (count > 0 ? [counted(count, noun)] : []))) || homeWords.nothingIn;
}

/** How much of it was read, in words. */
export function stateWords({ items, read, failed }: HomeProject): string {
  if (items === 0) return '';
  const done = read === items ? homeWords.allRead : homeWords.someRead(read, items);
  return failed > 0 ? `${done}, ${homeWords.unreadable(failed)}` : done;
}
