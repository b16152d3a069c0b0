import { Download, HardDriveDownload, RotateCcw, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { Form, Link, useFetcher } from 'react-router';
import { formatNames } from '#core/reel';
import { formatClock } from '#core/time';
import { forgetRender, renderAgain, showOutputs } from '#usecases/renders';
import { PostForm } from '../outputs/PostForm';
import { PostList } from '../outputs/PostList';
import { failed, modelOf, succeeded } from '../server/answer.server';
import { Button, IconButton } from '../ui/controls';
import { formatSize, formatTimeLeft } from '../ui/format';
import { useTasks } from '../ui/useTasks';
import type { Route } from './+types/outputs';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showOutputs(params.projectId));

/** Tries a render again (`again`), or forgets one (`delete`). */
export async function action({ params, request }: Route.ActionArgs) {
  const form = await request.formData();
  const again = form.get('again');
  const changed =
    again === null
      ? await forgetRender(params.projectId, form.get('delete'))
      : await renderAgain(params.projectId, again);
  return changed.ok ? succeeded() : failed(changed);
}

export default function Outputs({ loaderData, params }: Route.ComponentProps) {
  const tasks = useTasks(params.projectId) ?? [];
  const cancel = useFetcher();
  const [shown, setShown] = useState<string | null>(null);
  const { renders } = loaderData;
  const preview =
    renders.find((render) => render.id === shown && render.ready) ?? renders.find((render) => render.ready);
  if (renders.length === 0)
    return (
      <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
        <HardDriveDownload size={28} className="text-muted" aria-hidden />
        <h1 className="text-base font-semibold">Nothing rendered yet</h1>
        <p className="max-w-sm text-muted">
          Open a reel and press “Render”. The finished file appears here, to look at and to take away.
        </p>
        <Link to="../reels" relative="path" className="mt-2 text-lamp underline">
          To the reels
        </Link>
        <div className="mt-6">
          <ProjectArchive address={`/projects/${params.projectId}/archive`} />
        </div>
      </main>
    );
  return (
    <div className="flex min-h-0 flex-1">
      <main className="min-w-0 flex-1 overflow-y-auto px-4">
        <div className="flex h-12 items-center justify-between">
          <span className="flex items-center gap-4">
            <h1 className="text-sm font-semibold">Outputs</h1>
            {renders.some((render) => render.ready) && (
              <a
                href={`/projects/${params.projectId}/outputs/archive`}
                download
                className="text-muted underline hover:text-text"
              >
                All finished files as one archive
              </a>
            )}
          </span>
          <ProjectArchive address={`/projects/${params.projectId}/archive`} />
        </div>
        <table className="w-full border-collapse">
          <thead className="text-left text-xs text-muted">
            <tr className="border-b border-line [&>th]:py-2 [&>th]:font-normal">
              <th>Name</th>
              <th>Length</th>
              <th>Picture</th>
              <th>Size</th>
              <th>Loudness</th>
              <th>State</th>
              <th className="w-32">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {renders.map((render) => {
              const live = tasks.find((task) => task.id === render.task?.id);
              const state = render.ready ? 'done' : (live?.state ?? render.task?.state ?? 'failed');
              const progress = live?.progress ?? render.task?.progress ?? 0;
              const left = live?.secondsLeft ?? null;
              return (
                <tr
                  key={render.id}
                  className={`border-b border-line/60 hover:bg-raised ${preview?.id === render.id ? 'bg-raised' : ''}`}
                  data-render={render.id}
                  data-state={state}
                >
                  <td className="py-2">
                    <button
                      type="button"
                      className="text-left font-medium hover:underline disabled:no-underline"
                      disabled={!render.ready}
                      onClick={() => setShown(render.id)}
                    >
                      {render.name}
                    </button>
                  </td>
                  <td className="tabular">{formatClock(render.seconds)}</td>
                  <td className="tabular text-muted">
                    {render.format === 'wav' ? 'sound' : `${render.width}×${render.height}`}{' '}
                    <span className="text-xs uppercase">{render.format}</span>
                  </td>
                  <td className="tabular text-muted">{render.size ? formatSize(render.size) : ''}</td>
                  <td className="tabular text-muted" title="Measured in the file: integrated loudness, true peak">
                    {render.lufs === null
                      ? ''
                      : `${render.lufs.toFixed(1)} LUFS${render.peakDb === null ? '' : `, ${render.peakDb.toFixed(1)} dBTP`}`}
                  </td>
                  <td className="text-muted">
                    <div role="status">
                      {state === 'running' ? (
                        <span className="flex items-center gap-2">
                          <span className="h-1 w-24 overflow-hidden rounded bg-line">
                            <span className="block h-full bg-text/70" style={{ width: `${progress * 100}%` }} />
                          </span>
                          {left === null ? `${Math.round(progress * 100)} %` : formatTimeLeft(left)}
                        </span>
                      ) : state === 'queued' ? (
                        (live?.waits ?? 'waits for its turn')
                      ) : state === 'done' ? (
                        'ready'
                      ) : state === 'cancelled' ? (
                        'cancelled'
                      ) : (
                        <span className="text-shake">{live?.sentence ?? render.task?.sentence ?? 'failed'}</span>
                      )}
                    </div>
                  </td>
                  <td>
                    <span className="flex justify-end gap-1">
                      {render.ready && (
                        <a
                          href={`/outputs/${render.id}?download`}
                          download
                          className="inline-flex h-7 items-center gap-1.5 rounded-md bg-lamp px-2.5 font-semibold text-ground"
                        >
                          <Download size={15} aria-hidden /> Download
                        </a>
                      )}
                      {(state === 'running' || state === 'queued') && (
                        <Button
                          onClick={() =>
                            void cancel.submit(
                              { cancel: render.task!.id },
                              { method: 'post', action: `/projects/${params.projectId}/tasks` },
                            )
                          }
                        >
                          <X size={15} aria-hidden /> Cancel
                        </Button>
                      )}
                      {(state === 'failed' || state === 'cancelled') && (
                        <Form method="post">
                          <input type="hidden" name="again" value={render.id} />
                          <Button type="submit">
                            <RotateCcw size={15} aria-hidden /> Try again
                          </Button>
                        </Form>
                      )}
                      {state !== 'running' && state !== 'queued' && (
                        <Form
                          method="post"
                          onSubmit={(event) => {
                            if (!confirm('Delete this output? The reel stays.')) event.preventDefault();
                          }}
                        >
                          <input type="hidden" name="delete" value={render.id} />
                          <IconButton label="Delete this output" type="submit">
                            <Trash2 size={15} />
                          </IconButton>
                        </Form>
                      )}
                    </span>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        <PostList posts={loaderData.posts} tasks={tasks} address={`/projects/${params.projectId}/posts`} />
      </main>
      <aside className="w-[400px] shrink-0 overflow-y-auto border-l border-line bg-[#12191f]">
        <div className={`bg-black ${preview && preview.height > preview.width ? 'h-[400px]' : 'aspect-video'}`}>
          {preview &&
            (preview.format === 'gif' || preview.format === 'png' ? (
              <img
                key={preview.id}
                src={`/outputs/${preview.id}`}
                alt={`Preview of ${preview.name}`}
                className="h-full w-full object-contain"
              />
            ) : (
              <video
                key={preview.id}
                src={`/outputs/${preview.id}`}
                controls
                preload="metadata"
                className="h-full w-full"
                aria-label={`Preview of ${preview.name}`}
              />
            ))}
        </div>
        {preview ? (
          <div className="p-4">
            <h2 className="text-base font-semibold">{preview.name}</h2>
            <p className="text-muted">
              {formatNames[preview.format]} · {formatClock(preview.seconds)} ·{' '}
              {preview.size ? formatSize(preview.size) : ''}
            </p>
            <Link
              to={`../reels/${preview.reelId}`}
              relative="path"
              className="mt-3 inline-block text-muted underline hover:text-text"
            >
              Open the reel it came from
            </Link>
            {(preview.format === 'mp4' || preview.format === 'webm') && (
              <div>
                <PostForm key={preview.id} file={preview} address={`/projects/${params.projectId}/posts`} />
              </div>
            )}
          </div>
        ) : (
          <p className="p-4 text-muted">The preview shows here as soon as a render is ready.</p>
        )}
      </aside>
    </div>
  );
}

/** The whole project as one file that another installation opens. */
const ProjectArchive = ({ address }: { address: string }) => (
  <span className="text-muted">
    The whole project as one file:{' '}
    <a className="underline hover:text-text" href={`${address}?media`} download>
      with the footage
    </a>
    ,{' '}
    <a className="underline hover:text-text" href={address} download>
      without it
    </a>
  </span>
);
