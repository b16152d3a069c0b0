import { useMemo } from 'react';
import { Outlet, Link } from 'react-router';
import { showProject, type ProjectData } from '#usecases/projects';
import { modelOf } from '../server/answer.server';
import { HelpLink } from '../handbook/HelpLink';
import { FirstLookBar } from '../begin/FirstLookBar';
import { Hints } from '../hints/Hints';
import { CommandField } from '../ui/CommandField';
import { packItems, unpackItems } from '../ui/packedItems';
import { Places } from '../ui/Places';
import { ShadeMenu } from '../ui/ShadeMenu';
import { RunningWork } from '../ui/RunningWork';
import { useKeptScreens } from '../ui/useKeptScreens';
import type { Route } from './+types/project';

export async function loader({ params }: Route.LoaderArgs) {
  const { items, ...rest } = modelOf(await showProject(params.projectId));
  return { ...rest, packed: packItems(items) };
}

export const meta = ({ loaderData }: Route.MetaArgs) => [
  { title: loaderData ? `${loaderData.project.name} · Bright Reel` : 'Bright Reel' },
];

export default function Project({ loaderData }: Route.ComponentProps) {
  const { packed, ...rest } = loaderData;
  const { project, tasks, comments } = rest;
  const items = useMemo(() => unpackItems(packed), [packed]);
  const data: ProjectData = { ...rest, items };
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
        <Places projectId={project.id} items={items} tasks={tasks} comments={comments} />
        <CommandField projectId={project.id} items={items} />
        <ShadeMenu />
        <HelpLink />
        <RunningWork projectId={project.id} name={project.name} isEmpty={items.length === 0} initial={tasks} />
      </header>
      {project.beginning && <FirstLookBar beginning={project.beginning} items={items} />}
      <Hints />
      <Outlet context={data} />
    </div>
  );
}
