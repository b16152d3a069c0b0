import { HardDriveDownload } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { forgetRender, renderAgain, showOutputs } from '#usecases/renders';
import { OutputPreview } from '../outputs/OutputPreview';
import { OutputRow } from '../outputs/OutputRow';
import { PostList } from '../outputs/PostList';
import { ArchiveNote, ProjectArchive } from '../outputs/ProjectArchive';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import { useTasks } from '../ui/useTasks';
import type { Route } from './+types/outputs';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showOutputs(params.projectId));

/** Tries a render again (`again`), or forgets one (`delete`). */
export async function action({ params, request }: Route.ActionArgs) {
  const form = await formOf(request);
  const again = form.get('again');
  const changed =
    again === null
      ? await forgetRender(params.projectId, form.get('delete'))
      : await renderAgain(params.projectId, again);
  return changed.ok ? succeeded() : failed(changed);
}

export default function Outputs({ loaderData, params }: Route.ComponentProps) {
  const tasks = useTasks(params.projectId) ?? [];
  const [shown, setShown] = useState<string | null>(null);
  const { renders, posts } = loaderData;
  const project = `/projects/${params.projectId}`;
  const ready = renders.filter((render) => render.ready);
  const preview = ready.find((render) => render.id === shown) ?? ready[0] ?? null;
  if (renders.length === 0) return <NoOutputs project={project} />;
  return (
    <div className="flex min-h-0 flex-1">
      <main className="min-w-0 flex-1 overflow-y-auto px-4">
        <div className="flex h-12 items-center justify-between">
          <span className="flex items-center gap-4">
            <h1 className="text-sm font-semibold">Outputs</h1>
            {ready.length > 0 && (
              <a href={`${project}/outputs/archive`} download className="text-muted underline hover:text-text">
                All finished files as one archive
              </a>
            )}
          </span>
          <ProjectArchive address={`${project}/archive`} />
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
            {renders.map((render) => (
              <OutputRow
                key={render.id}
                render={render}
                live={tasks.find((task) => task.id === render.task?.id)}
                isShown={preview?.id === render.id}
                onShow={() => setShown(render.id)}
                tasksAddress={`${project}/tasks`}
              />
            ))}
          </tbody>
        </table>
        <ArchiveNote />
        <PostList posts={posts} tasks={tasks} address={`${project}/posts`} />
      </main>
      <OutputPreview preview={preview} postsAddress={`${project}/posts`} />
    </div>
  );
}

const NoOutputs = ({ project }: { project: string }) => (
  <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
    <HardDriveDownload size={28} className="text-muted" aria-hidden />
    <h1 className="text-base font-semibold">Nothing rendered yet</h1>
    <p className="max-w-sm text-muted">
      Open a reel and press “Render”. The finished file appears here, to watch and to download.
    </p>
    <Link to="../reels" relative="path" className="mt-2 text-lampline underline">
      To the reels
    </Link>
    <div className="mt-6">
      <ProjectArchive address={`${project}/archive`} />
      <ArchiveNote />
    </div>
  </main>
);
