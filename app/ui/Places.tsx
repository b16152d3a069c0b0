import { NavLink, useLocation } from 'react-router';
import type { ProjectData } from '#usecases/projects';
import { countsOfPlaces } from './placeCounts';
import { placeNames } from './placeNames';
import { useOutputsSeen } from './useOutputsSeen';
import { useTasks } from './useTasks';

interface PlacesProps {
  projectId: string;
  items: ProjectData['items'];
  tasks: ProjectData['tasks'];
  comments: ProjectData['comments'];
}

/** The places of a project, each with a number of what waits there or is new. */
export function Places({ projectId, items, tasks: initial, comments }: PlacesProps) {
  const { pathname } = useLocation();
  const tasks = useTasks(projectId) ?? initial;
  const seen = useOutputsSeen(projectId, pathname.endsWith('/outputs'), tasks);
  const counts = countsOfPlaces(items, tasks, seen, comments);
  // Every combination of parts is reels too.
  const isVariants = /\/variants(\/|$)/.test(pathname);
  return (
    <nav
      aria-label="Places"
      className="flex shrink-0 gap-6 max-[960px]:min-w-0 max-[960px]:shrink overflow-x-auto overflow-y-clip max-[960px]:gap-4"
    >
      {placeNames.map(([path, label]) => {
        const count = counts[path];
        return (
          <NavLink
            key={path}
            to={path}
            className={({ isActive, isPending }) =>
              `flex shrink-0 items-center gap-1.5 border-b-2 text-sm ${isPending ? 'animate-pulse border-muted text-text' : isActive || (path === 'reels' && isVariants) ? 'border-text text-text' : 'border-transparent text-muted hover:text-text'}`
            }
          >
            {label}
            {count && (
              <span
                className={`tabular min-w-4 rounded-full px-1 text-center text-xs leading-4 ${count.isTrouble ? 'bg-shake/20 text-shake' : 'bg-line text-text'}`}
                title={count.says}
              >
                <span aria-hidden>{count.number}</span>
                <span className="sr-only">{count.says}</span>
              </span>
            )}
          </NavLink>
        );
      })}
    </nav>
  );
}
