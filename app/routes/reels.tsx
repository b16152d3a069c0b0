import { Clapperboard } from 'lucide-react';
import { randomUUID } from 'node:crypto';
import { data, Link, redirect, useOutletContext } from 'react-router';
import { readerVersion } from '#core/readings';
import { assembleReel, mainTrack, reelFormat, reelFrames } from '#core/reel';
import { formatClock, framesPerSecond, framesToSeconds } from '#core/time';
import { listMedia } from '#data/media';
import { createReel, listReels } from '#data/reels';
import { MakeReelDto } from '../forms/dto';
import { Poster } from '../page/Poster';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/reels';
import type { ProjectData } from './project';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  return { reels: await listReels(project.id) };
}

/** Makes a reel of the pieces given, in their order, at the rate and shape that most of it has. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const checked = check(MakeReelDto, await request.json().catch(() => null));
  if (!checked.ok) return data({ problems: checked.problems }, { status: 422 });
  const { name, pieces } = checked.value;
  const items = (await listMedia(project.id, readerVersion)).filter((item) => item.probe);
  const shapes = items.map((item) => ({
    rate: item.probe!.rate, width: item.probe!.width, height: item.probe!.height,
    seconds: pieces.filter((piece) => piece.media === item.id).reduce((sum, piece) => sum + piece.end - piece.start, 0),
  })).filter((shape) => shape.seconds > 0);
  const { rate, size } = reelFormat(shapes);
  const sources = new Map(items.map((item) => [item.id, { id: item.id, name: item.name, durationSeconds: item.probe!.durationSeconds, photo: item.probe!.kind === 'photo' }]));
  const reel = assembleReel(name, pieces, sources, rate, size, randomUUID);
  if (mainTrack(reel).items.length === 0) return data({ problems: { pieces: 'None of this footage is in the project any more.' } }, { status: 422 });
  return redirect(`/projects/${project.id}/reels/${await createReel(project.id, reel)}`);
}

export default function Reels({ loaderData }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  if (loaderData.reels.length === 0)
    return (
      <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
        <Clapperboard size={28} className="text-muted" aria-hidden />
        <h1 className="text-base font-semibold">No reels yet</h1>
        <p className="max-w-sm text-muted">Choose what counts and how long it should be on the Moments screen, then press “Make reel”.</p>
        <Link to="../moments" relative="path" className="mt-2 text-lamp underline">To the moments</Link>
      </main>
    );
  return (
    <main className="flex-1 overflow-y-auto p-4">
      <h1 className="mb-3 text-sm font-semibold">Reels</h1>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-4">
        {loaderData.reels.map(({ id, document, updatedAt }) => {
          const pieces = mainTrack(document).items;
          const shown = [0, 0.25, 0.5, 0.75].map((share) => pieces[Math.floor(share * pieces.length)]).filter((clip, index, all) => clip && all.indexOf(clip) === index);
          return (
            <li key={id}>
              <Link to={id} className="block rounded-md border border-line bg-raised p-3 hover:border-muted">
                <span className="flex h-[72px] gap-0.5 overflow-hidden rounded">
                  {shown.map((clip) => {
                    const item = items.find((each) => each.id === clip!.media);
                    return <Poster key={clip!.id} media={clip!.media} sheets={item?.sheets ?? null} kind={item?.probe?.kind ?? null} seconds={framesToSeconds(clip!.sourceIn + clip!.frames / 2, document.rate)} width={128} height={72} className="!rounded-none" />;
                  })}
                </span>
                <span className="mt-2 block text-base font-semibold">{document.name}</span>
                <span className="text-muted"><span className="tabular">{formatClock(framesToSeconds(reelFrames(document), document.rate))}</span> · {pieces.length} {pieces.length === 1 ? 'piece' : 'pieces'} · {document.size.width}×{document.size.height}, {Number(framesPerSecond(document.rate).toFixed(2))} fps · <time dateTime={new Date(updatedAt).toISOString()} suppressHydrationWarning>{new Date(updatedAt).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}</time></span>
              </Link>
            </li>
          );
        })}
      </ul>
    </main>
  );
}
