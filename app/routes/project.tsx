import { NavLink, Outlet, Link, useLocation } from 'react-router';
import { showProject } from '#usecases/projects';
import { modelOf } from '../server/answer.server';
import { RunningWork } from '../ui/RunningWork';
import { useKeptScreens } from '../ui/useKeptScreens';
import type { Route } from './+types/project';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showProject(params.projectId));

const places = [
  ['footage', 'Footage'],
  ['moments', 'Moments'],
  ['reels', 'Reels'],
  ['music', 'Music'],
  ['outputs', 'Outputs'],
] as const;

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: loaderData ? `${loaderData.project.name} · Bright Reel` : 'Bright Reel' },
];

export default function Project({ loaderData }: Route.ComponentProps) {
  const { project, tasks } = loaderData;
  useKeptScreens();
  // Shorts are reels too.
  const shorts = /\/(shorts|variants)(\/|$)/.test(useLocation().pathname);
  return (
    <div className="flex h-screen flex-col overflow-clip">
      <header className="flex h-11 shrink-0 items-stretch border-b border-line px-4">
        <Link to="/" className="mr-8 flex items-center text-base font-semibold" title="All projects">
          {project.name}
        </Link>
        <nav aria-label="Places" className="flex gap-6">
          {places.map(([path, label]) => (
            <NavLink
              key={path}
              to={path}
              className={({ isActive, isPending }) =>
                `flex items-center border-b-2 text-sm ${isPending ? 'animate-pulse border-muted text-text' : isActive || (path === 'reels' && shorts) ? 'border-text text-text' : 'border-transparent text-muted hover:text-text'}`
              }
            >
              {label}
            </NavLink>
          ))}
        </nav>
        <RunningWork projectId={project.id} initial={tasks} />
      </header>
      <Outlet context={loaderData} />
    </div>
  );
}
