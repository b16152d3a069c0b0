import { useEffect } from 'react';
import { data, useOutletContext, useRevalidator } from 'react-router';
import { createMontage } from '#core/montage';
import { readerVersion } from '#core/readings';
import { findHearing, loadMontage, saveMontage } from '#data/montages';
import { listMedia } from '#data/media';
import { listDecisions } from '#data/decisions';
import { loadPick } from '#data/log';
import { reelNames } from '#data/reels';
import { lastTask } from '#data/tasks';
import { enqueueHearing } from '#jobs/queue';
import { MontageScreen } from '../music/MontageScreen';
import { WaitForBeats } from '../music/WaitForBeats';
import { requireProject } from '../server/project.server';
import type { Route } from './+types/montage';
import type { ProjectData } from './project';

/** A piece of music with its beats, and how the project cuts to it; the beats are asked for while they are not known. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const items = await listMedia(project.id, readerVersion);
  const item = items.find((each) => each.id === params.mediaId);
  if (!item) throw data('This music is not in the project any more.', { status: 404 });
  const hearing = await findHearing(item.hash);
  if (!hearing) {
    const last = await lastTask('hear', item.hash);
    const problem = last?.state === 'failed' || last?.state === 'cancelled' ? last.sentence : null;
    // One that failed is tried again when somebody asks anew.
    if (problem && !new URL(request.url).searchParams.has('again'))
      return { hearing: null, problem, stored: null, gather: null, reels: [] };
    await enqueueHearing(project.id, item.hash, item.name);
    return { hearing: null, problem: null, stored: null, gather: null, reels: [] };
  }
  // The first look makes it, so that it is the same at the second.
  const stored =
    (await loadMontage(project.id, item.id)) ??
    (await saveMontage(
      project.id,
      item.id,
      0,
      createMontage(hearing, [], () => crypto.randomUUID()),
    )) ??
    (await loadMontage(project.id, item.id))!;
  const [{ value: pick }, decisions, reels] = await Promise.all([
    loadPick(project.id),
    listDecisions(project.id),
    reelNames(project.id),
  ]);
  return {
    hearing,
    problem: null,
    stored,
    gather: { mix: pick.mix, limits: pick.limits, photoSeconds: pick.photoSeconds, decisions },
    reels,
  };
}

export type MontageData = Awaited<ReturnType<typeof loader>>;

export default function MontagePlace({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const { hearing, stored, problem, gather } = loaderData;
  const music = items.find((item) => item.id === params.mediaId);
  const { revalidate } = useRevalidator();
  const waits = !hearing && !problem;
  useEffect(() => {
    if (!waits) return;
    const timer = setInterval(() => void revalidate(), 1000);
    return () => clearInterval(timer);
  }, [waits, revalidate]);
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
