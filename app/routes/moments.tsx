import { Film } from 'lucide-react';
import { Link, useOutletContext } from 'react-router';
import { showMoments } from '#usecases/moments';
import type { ProjectData } from '#usecases/projects';
import { MomentsScreen } from '../moments/MomentsScreen';
import { handOver } from '../moments/model/useChoice';
import { useReadings } from '../readings/useReadings';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/moments';

export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showMoments(params.projectId, new URL(request.url).searchParams.get('reel')));

export default function Moments({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const read = items.filter((item) => (item.probe?.kind === 'video' || item.probe?.kind === 'photo') && !item.problem);
  const footage = useReadings(
    read.map((item) => item.id),
    read.map((item) => String(Number(item.readAt))).join(),
    handOver,
  );
  if (read.length === 0) return <NothingYet reading={items.some((item) => item.state)} />;
  if (!footage)
    return (
      <p className="p-8 text-muted" role="status">
        Loading the footage…
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
      <Link to="../footage" relative="path" className="mt-2 text-lampline underline">
        To the footage
      </Link>
    </main>
  );
}
