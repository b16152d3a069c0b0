import { Clapperboard, Copy, Layers, Scissors, Trash2 } from 'lucide-react';
import { randomUUID } from 'node:crypto';
import { data, Form, Link, redirect, useOutletContext } from 'react-router';
import { readerVersion } from '#core/readings';
import { assembleReel, clipsOf, inPlaceReel, reelFormat, reelFrames, type SyncedFile } from '#core/reel';
import { formatClock, framesPerSecond, framesToSeconds } from '#core/time';
import { listMedia } from '#data/media';
import { createReel, findSelects, listReels } from '#data/reels';
import { MakeReelsDto } from '../forms/dto';
import { Poster } from '../page/Poster';
import { ImportReel } from '../reel/ImportReel';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import { IconButton } from '../ui/controls';
import type { Route } from './+types/reels';
import type { ProjectData } from './project';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  return { reels: await listReels(project.id) };
}

/** Makes reels of the pieces given, in their order, at the rate and shape that most of it has. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const checked = check(MakeReelsDto, await request.json().catch(() => null));
  if (!checked.ok) return data({ problems: checked.problems, reels: [] }, { status: 422 });
  const refuse = (pieces: string) => data({ problems: { pieces }, reels: [] }, { status: 422 });
  const items = (await listMedia(project.id, readerVersion)).filter((item) => item.probe);
  const sources = new Map(
    items.map((item) => [
      item.id,
      {
        id: item.id,
        name: item.name,
        durationSeconds: item.probe!.durationSeconds,
        photo: item.probe!.kind === 'photo',
      },
    ]),
  );
  const wanted = checked.value.reels;
  if (wanted.some((reel) => reel.pieces.length === 0 && !reel.role))
    return refuse('Nothing is kept, so there is nothing to make a reel of. Lower the water or keep a moment.');
  // A new pile takes the rate and shape of the footage it will be filled from.
  const secondsOf = (id: string, whole: number) =>
    wanted.every((reel) => reel.pieces.length === 0)
      ? whole
      : wanted
          .flatMap((reel) => reel.pieces)
          .filter((piece) => piece.media === id)
          .reduce((sum, piece) => sum + piece.end - piece.start, 0);
  const { rate, size } = reelFormat(
    items
      .map((item) => ({
        rate: item.probe!.rate,
        width: item.probe!.width,
        height: item.probe!.height,
        seconds: secondsOf(item.id, item.probe!.durationSeconds),
      }))
      .filter((shape) => shape.seconds > 0),
  );
  const documents = wanted.map((reel) => ({
    role: reel.role ?? null,
    document: reel.inPlace
      ? inPlaceReel(reel.name, syncedFiles(reel.pieces, items), sources, rate, size, randomUUID)
      : assembleReel(reel.name, reel.pieces, sources, rate, size, randomUUID),
  }));
  if (documents.some(({ document, role }) => !role && clipsOf(document).length === 0))
    return refuse('None of this footage is in the project any more.');
  const reels = [];
  for (const { document, role } of documents) {
    const known = role === 'selects' ? await findSelects(project.id) : null;
    reels.push({ id: known ?? (await createReel(project.id, document, role)), name: document.name });
  }
  return checked.value.open === false
    ? { problems: {}, reels }
    : redirect(`/projects/${project.id}/reels/${reels[0]!.id}`);
}

/** Pieces by camera, each with its place on the common clock; a camera whose place is not known begins with the clock. */
function syncedFiles(
  pieces: readonly { media: string; start: number; end: number }[],
  items: Awaited<ReturnType<typeof listMedia>>,
): SyncedFile[] {
  return items.flatMap((item) => {
    const ranges = pieces.filter((piece) => piece.media === item.id);
    return ranges.length ? [{ media: item.id, name: item.name, offsetSeconds: item.syncOffset ?? 0, ranges }] : [];
  });
}

export default function Reels({ loaderData, params }: Route.ComponentProps) {
  const { items } = useOutletContext<ProjectData>();
  const empty = loaderData.reels.length === 0;
  // The import stands in one place, empty or not: the first reel that comes in must not take it off the screen before it went there.
  return (
    <main
      className={
        empty ? 'flex flex-1 flex-col items-center justify-center gap-2 text-center' : 'flex-1 overflow-y-auto p-4'
      }
    >
      {empty && (
        <>
          <Clapperboard size={28} className="text-muted" aria-hidden />
          <h1 className="text-base font-semibold">No reels yet</h1>
          <p className="max-w-sm text-muted">
            Choose what counts and how long it should be on the Moments screen, then press “Make reel”.
          </p>
          <Link to="../moments" relative="path" className="mb-4 mt-2 text-lamp underline">
            To the moments
          </Link>
        </>
      )}
      <div className={empty ? 'flex flex-col items-center gap-3' : 'mb-3 flex items-start gap-6'}>
        {!empty && <h1 className="pt-1 text-sm font-semibold">Reels</h1>}
        <ImportReel projectId={params.projectId} items={items} />
        <span className="flex gap-3">
          <Link
            to="../shorts"
            relative="path"
            className="inline-flex h-[30px] items-center gap-2 rounded-md border border-line px-3 hover:bg-line/60"
          >
            <Scissors size={15} aria-hidden /> Shorts
          </Link>
          <Link
            to="../variants"
            relative="path"
            className="inline-flex h-[30px] items-center gap-2 rounded-md border border-line px-3 hover:bg-line/60"
          >
            <Layers size={15} aria-hidden /> Variants
          </Link>
        </span>
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-4">
        {loaderData.reels.map(({ id, document, role, updatedAt }) => {
          const pieces = clipsOf(document);
          const shown = [0, 0.25, 0.5, 0.75]
            .map((share) => pieces[Math.floor(share * pieces.length)])
            .filter((clip, index, all) => clip && all.indexOf(clip) === index);
          return (
            <li key={id} className="group relative">
              <Link to={id} className="block rounded-md border border-line bg-raised p-3 hover:border-muted">
                <span className="flex h-[72px] gap-0.5 overflow-hidden rounded">
                  {shown.map((clip) => {
                    const item = items.find((each) => each.id === clip!.media);
                    return (
                      <Poster
                        key={clip!.id}
                        media={clip!.media}
                        sheets={item?.sheets ?? null}
                        kind={item?.probe?.kind ?? null}
                        seconds={framesToSeconds(clip!.sourceIn + clip!.frames / 2, document.rate)}
                        width={128}
                        height={72}
                        className="!rounded-none"
                      />
                    );
                  })}
                </span>
                <span className="mt-2 block text-base font-semibold">
                  {document.name}
                  {role === 'selects' && (
                    <span className="ml-2 rounded border border-line px-1.5 py-0.5 text-xs font-normal text-muted">
                      selects
                    </span>
                  )}
                </span>
                <span className="text-muted">
                  <span className="tabular">{formatClock(framesToSeconds(reelFrames(document), document.rate))}</span> ·{' '}
                  {pieces.length} {pieces.length === 1 ? 'piece' : 'pieces'} · {document.size.width}×
                  {document.size.height}, {Number(framesPerSecond(document.rate).toFixed(2))} fps ·{' '}
                  <time dateTime={new Date(updatedAt).toISOString()} suppressHydrationWarning>
                    {new Date(updatedAt).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}
                  </time>
                </span>
              </Link>
              <span className="absolute bottom-2.5 right-2 flex opacity-0 focus-within:opacity-100 group-hover:opacity-100">
                <Form method="post" action={id}>
                  <input type="hidden" name="intent" value="duplicate" />
                  <IconButton type="submit" label={`Make a copy of “${document.name}”`}>
                    <Copy size={15} />
                  </IconButton>
                </Form>
                <Form
                  method="post"
                  action={id}
                  onSubmit={(event) => {
                    if (!confirm(`Delete “${document.name}” with its history? What was rendered of it goes too.`))
                      event.preventDefault();
                  }}
                >
                  <input type="hidden" name="intent" value="delete" />
                  <IconButton type="submit" label={`Delete “${document.name}”`}>
                    <Trash2 size={15} />
                  </IconButton>
                </Form>
              </span>
            </li>
          );
        })}
      </ul>
    </main>
  );
}
