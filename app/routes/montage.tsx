import { useEffect } from 'react';
import { useOutletContext } from 'react-router';
import { showMontage } from '#usecases/montages';
import type { ProjectData } from '#usecases/projects';
import { MontageScreen } from '../music/MontageScreen';
import { WaitForBeats } from '../music/WaitForBeats';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/montage';
import { repeatedly } from '../ui/repeatedly';
import { useReload } from '../ui/useReload';

export const loader = async ({ params, request }: Route.LoaderArgs) =>
  modelOf(await showMontage(params.projectId, params.mediaId, new URL(request.url).searchParams.has('again')));

export default function MontagePlace({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const { hearing, stored, problem, gather } = loaderData;
  const music = items.find((item) => item.id === params.mediaId);
  const reload = useReload();
  const waits = !hearing && !problem;
  useEffect(() => {
    if (!waits) return;
    return repeatedly(reload, 1000);
  }, [waits, reload]);
  if (!music) return <p className="p-8 text-muted">This music is not in the project any more.</p>;
  if (!hearing || !stored || !gather) return <WaitForBeats music={music} problem={problem} />;
  return (
    <MontageScreen
      key={music.id}
      projectId={params.projectId}
      music={music}
      hearing={hearing}
      stored={stored}
      gather={gather}
      reels={loaderData.reels}
      items={items}
    />
  );
}
