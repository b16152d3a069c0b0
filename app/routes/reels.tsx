import { Clapperboard, Copy, Layers } from 'lucide-react';
import { useMemo, type FormEvent } from 'react';
import { Form, Link, useFetcher, useOutletContext } from 'react-router';
import { counted } from '#core/sentences';
import { formatClock, framesPerSecond, framesToSeconds } from '#core/time';
import type { ProjectData } from '#usecases/projects';
import { createReels, showReels } from '#usecases/reels';
import { Poster } from '../drawing/Poster';
import { afterSaving } from '../history/saveQueue';
import { ImportReel } from '../reel/ImportReel';
import { failed, jsonOf, modelOf, succeeded } from '../server/answer.server';
import { IconButton } from '../ui/controls';
import { DeleteButton } from '../ui/DeleteButton';
import { formatMoment } from '../ui/format';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import type { Route } from './+types/reels';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showReels(params.projectId));

/** Makes reels of the pieces given. */
export async function action({ params, request }: Route.ActionArgs) {
  const made = await createReels(params.projectId, await jsonOf(request));
  if (!made.ok) return failed(made, { reels: [] as { id: string; name: string }[] });
  const { reels, open } = made.value;
  return succeeded({ reels, goTo: open ? `/projects/${params.projectId}/reels/${reels[0]!.id}` : null });
}

export default function Reels({ loaderData, params }: Route.ComponentProps) {
  const { items, comments } = useOutletContext<ProjectData>();
  const empty = loaderData.reels.length === 0;
  const itemOf = useMemo(() => new Map(items.map((item) => [item.id, item])), [items]);
  const copier = useFetcher<GoingAnswer>();
  useGoTo(copier);
  /** A copy is of what was seen last, also where that is not saved yet. */
  const copyWhenSaved = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    void afterSaving(() => void copier.submit(form));
  };
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
            to="../variants"
            relative="path"
            className="inline-flex h-[30px] items-center gap-2 rounded-md border border-line px-3 hover:bg-line/60"
          >
            <Layers size={15} aria-hidden /> Variants
          </Link>
        </span>
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-4">
        {loaderData.reels.map(({ id, name, rate, size, frames, pieces, pictures, role, updatedAt }) => {
          return (
            <li key={id} className="group relative [contain-intrinsic-size:auto_146px] [content-visibility:auto]">
              <Link to={id} className="block rounded-md border border-line bg-raised p-3 hover:border-muted">
                <span className="flex h-[72px] gap-0.5 overflow-hidden rounded">
                  {pictures.map((picture) => {
                    const item = itemOf.get(picture.media);
                    return (
                      <Poster
                        key={picture.id}
                        media={picture.media}
                        sheets={item?.sheets ?? null}
                        kind={item?.probe?.kind ?? null}
                        seconds={picture.seconds}
                        width={128}
                        height={72}
                        className="!rounded-none"
                      />
                    );
                  })}
                </span>
                <span className="mt-2 block text-base font-semibold">
                  {name}
                  {role === 'selects' && (
                    <span className="ml-2 rounded border border-line px-1.5 py-0.5 text-xs font-normal text-muted">
                      selects
                    </span>
                  )}
                  {comments[id] !== undefined && (
                    <span className="ml-2 rounded-full bg-line px-2 py-0.5 text-xs font-normal">
                      {counted(comments[id], 'comment')}
                    </span>
                  )}
                </span>
                <span className="text-muted">
                  <span className="tabular">{formatClock(framesToSeconds(frames, rate))}</span> · {pieces}{' '}
                  {pieces === 1 ? 'piece' : 'pieces'} · {size.width}×{size.height},{' '}
                  {Number(framesPerSecond(rate).toFixed(2))} fps ·{' '}
                  <time dateTime={new Date(updatedAt).toISOString()} suppressHydrationWarning>
                    {formatMoment(updatedAt)}
                  </time>
                </span>
              </Link>
              <span className="absolute bottom-2.5 right-2 flex opacity-0 focus-within:opacity-100 group-hover:opacity-100">
                <Form method="post" action={id} onSubmit={copyWhenSaved}>
                  <input type="hidden" name="intent" value="duplicate" />
                  <IconButton type="submit" label={`Make a copy of “${name}”`}>
                    <Copy size={15} />
                  </IconButton>
                </Form>
                <DeleteButton
                  label={`Delete “${name}”`}
                  question={`Delete the reel “${name}”?`}
                  says="Its history goes with it, and so do the files that were rendered of it and the link under which it is shown. The footage stays."
                  onDelete={() => void copier.submit({ intent: 'delete' }, { method: 'post', action: id })}
                />
              </span>
            </li>
          );
        })}
      </ul>
    </main>
  );
}
