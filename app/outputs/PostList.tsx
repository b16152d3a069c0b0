import { RotateCcw } from 'lucide-react';
import { Form } from 'react-router';
import { formatMoment } from '#core/sentences';
import type { TaskLine } from '#usecases/tasks';
import { Button } from '../ui/controls';

export interface PostLine {
  id: string;
  title: string;
  account: string;
  link: string | null;
  scheduledAt: string | null;
  taskId: string | null;
  state: string | null;
  progress: number;
  sentence: string | null;
}

/** What was handed to outlets: how far it is, what came of it, where it is to be seen. */
export function PostList({
  posts,
  tasks,
  address,
}: {
  posts: readonly PostLine[];
  tasks: readonly TaskLine[];
  address: string;
}) {
  if (posts.length === 0) return null;
  return (
    <section className="mt-6" aria-label="Posts">
      <h2 className="mb-1 text-sm font-semibold">Posts</h2>
      <table className="w-full border-collapse">
        <thead className="text-left text-xs text-muted">
          <tr className="border-b border-line [&>th]:py-2 [&>th]:font-normal">
            <th>Title</th>
            <th>Account</th>
            <th>Publish at</th>
            <th>State</th>
            <th className="w-32">
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {posts.map((post) => {
            const live = tasks.find((task) => task.id === post.taskId);
            const state = post.link ? 'done' : (live?.state ?? post.state ?? 'failed');
            const progress = live?.progress ?? post.progress;
            return (
              <tr key={post.id} className="border-b border-line/60" data-post={post.id} data-state={state}>
                <td className="py-2 font-medium">{post.title}</td>
                <td className="capitalize text-muted">{post.account.replaceAll('-', ' ')}</td>
                <td className="tabular text-muted">
                  <span suppressHydrationWarning>{post.scheduledAt ? formatMoment(post.scheduledAt) : 'at once'}</span>
                </td>
                <td className="text-muted">
                  <div role="status">
                    {post.link ? (
                      <a
                        href={post.link}
                        target="_blank"
                        rel="noreferrer"
                        className="underline hover:text-text"
                        suppressHydrationWarning
                      >
                        {post.scheduledAt && new Date(post.scheduledAt) > new Date()
                          ? 'lies there until then'
                          : 'it is there'}
                      </a>
                    ) : state === 'running' ? (
                      <span className="flex items-center gap-2">
                        <span className="h-1 w-24 overflow-hidden rounded bg-line">
                          <span className="block h-full bg-text/70" style={{ width: `${progress * 100}%` }} />
                        </span>
                        {live?.sentence ?? `${Math.round(progress * 100)} %`}
                      </span>
                    ) : state === 'queued' ? (
                      'waits for its turn'
                    ) : state === 'done' ? (
                      'done'
                    ) : (
                      <span className="text-shake">{live?.sentence ?? post.sentence ?? 'failed'}</span>
                    )}
                  </div>
                </td>
                <td>
                  {(state === 'failed' || state === 'cancelled') && (
                    <Form method="post" action={address} navigate={false}>
                      <input type="hidden" name="again" value={post.id} />
                      <Button type="submit">
                        <RotateCcw size={15} aria-hidden /> Try again
                      </Button>
                    </Form>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
