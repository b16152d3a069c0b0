import { Film } from 'lucide-react';
import { Link, useOutletContext } from 'react-router';
import { listDecisions } from '#data/decisions';
import { listMarkers, listRecipes, loadBoard, loadPick } from '#data/log';
import { listBins } from '#data/projects';
import { openReel, reelNames } from '#data/reels';
import { MomentsScreen } from '../page/MomentsScreen';
import { handOver } from '../page/useChoice';
import { useReadings } from '../page/useReadings';
import { requireProject } from '../server/project.server';
import type { Route } from './+types/moments';
import type { ProjectData } from './project';

export async function loader({ params, request }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const wanted = new URL(request.url).searchParams.get('reel');
  const [decisions, markers, recipes, pick, scenes, silence, bins, reels, reel] = await Promise.all([
    listDecisions(project.id),
    listMarkers(project.id),
    listRecipes(project.id),
    loadPick(project.id),
    loadBoard(project.id, 'scenes'),
    loadBoard(project.id, 'silence'),
    listBins(project.id),
    reelNames(project.id),
    wanted ? openReel(wanted) : null,
  ]);
  return {
    notes: { decisions, markers, recipes, pick, scenes, silence },
    bins,
    reels,
    reel: reel?.projectId === project.id ? reel : null,
  };
}

export type MomentsData = Awaited<ReturnType<typeof loader>>;

export default function Moments({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const read = items.filter((item) => (item.probe?.kind === 'video' || item.probe?.kind === 'photo') && !item.problem);
  const footage = useReadings(
    read.map((item) => item.id),
    read.map((item) => String(item.readAt)).join(),
    handOver,
  );
  if (read.length === 0) return <NothingYet reading={items.some((item) => item.state)} />;
  if (!footage)
    return (
      <p className="p-8 text-muted" role="status">
        Laying out the footage…
      </p>
    );
  return <MomentsScreen projectId={params.projectId} footage={footage} data={loaderData} />;
}

function NothingYet({ reading }: { reading: boolean }) {
  return (
    <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
      <Film size={28} className="text-muted" aria-hidden />
      <h1 className="text-base font-semibold">
        {reading ? 'The first file is being read' : 'No footage to pick from yet'}
      </h1>
      <p className="max-w-sm text-muted">
        {reading
          ? 'Its moments light up here as soon as it is done. The time left is shown at the top.'
          : 'Bring in video or photos on the Footage screen; the best moments light up here once they are read.'}
      </p>
      <Link to="../footage" relative="path" className="mt-2 text-lamp underline">
        To the footage
      </Link>
    </main>
  );
}
