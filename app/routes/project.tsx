import { Outlet, Link } from 'react-router';
import { showProject } from '#usecases/projects';
import { modelOf } from '../server/answer.server';
import { HelpLink } from '../handbook/HelpLink';
import { FirstLookBar } from '../begin/FirstLookBar';
import { Hints } from '../hints/Hints';
import { CommandField } from '../ui/CommandField';
import { Places } from '../ui/Places';
import { ShadeMenu } from '../ui/ShadeMenu';
import { RunningWork } from '../ui/RunningWork';
import { useKeptScreens } from '../ui/useKeptScreens';
import type { Route } from './+types/project';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showProject(params.projectId));

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: loaderData ? `${loaderData.project.name} · Bright Reel` : 'Bright Reel' },
];

export default function Project({ loaderData }: Route.ComponentProps) {
  const { project, tasks } = loaderData;
  useKeptScreens();
  return (
    <div className="flex h-screen flex-col overflow-clip">
      <header className="flex h-11 shrink-0 items-stretch border-b border-line px-4">
        <Link
          to="/"
          className="mr-8 flex min-w-24 items-center text-base font-semibold max-[960px]:mr-4"
          title="All projects"
        >
          <span className="truncate">{project.name}</span>
        </Link>
        <Places projectId={project.id} items={loaderData.items} tasks={tasks} comments={loaderData.comments} />
        <CommandField projectId={project.id} items={loaderData.items} />
        <ShadeMenu />
        <HelpLink />
        <RunningWork
          projectId={project.id}
          name={project.name}
          isEmpty={loaderData.items.length === 0}
          initial={tasks}
        />
      </header>
      {project.beginning && <FirstLookBar beginning={project.beginning} items={loaderData.items} />}
      <Hints />
      <Outlet context={loaderData} />
    </div>
  );
}
