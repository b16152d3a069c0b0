import { NavLink, Outlet, Link, useLocation } from 'react-router';
import { readerVersion } from '#core/readings';
import { listMedia } from '#data/media';
import { subjectOf } from '#jobs/queue';
import { requireProject } from '../server/project.server';
import { taskLines } from '../server/taskLines.server';
import { isActive, RunningWork } from '../ui/RunningWork';
import { useKeptScreens } from '../ui/useKeptScreens';
import type { Route } from './+types/project';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const [items, tasks] = await Promise.all([listMedia(project.id, readerVersion), taskLines(project)]);
  const reading = new Map(
    tasks.filter((task) => task.kind === 'read' && isActive(task)).map((task) => [task.subject, task]),
  );
  return {
    project: { id: project.id, name: project.name },
    items: items.map((item) => {
      const { hash, parameters, nextParameters } = item;
      const own = reading.get(subjectOf({ hash, parameters }));
      const next = nextParameters === null ? undefined : reading.get(subjectOf({ hash, parameters: nextParameters }));
      return {
        ...item,
        state: (next ?? own)?.state ?? null,
        waits: (next ?? own)?.waits ?? null,
        nextTask: next?.id ?? null,
      };
    }),
    tasks,
  };
}

export type ProjectData = Awaited<ReturnType<typeof loader>>;
export type Item = ProjectData['items'][number];

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
