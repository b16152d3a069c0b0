import { listPosts, findPost } from '#data/posts';
import { isId } from '#data/projects';
import { findRender, queuePost, queuePostAgain } from '#data/tasks';
import { outlets, type OutletAccount } from '#media/outlets/index';
import { PostDto } from './forms/deliveryDto';
import { openProject } from './openProject';
import { done, nothingMore, refused, type Result } from './result';
import { check } from './validate';

/** Posts of a project as a table shows them. */
export async function listPostLines(projectId: string) {
  return (await listPosts(projectId)).map(({ post, task }) => ({
    id: post.id,
    title: post.title,
    account: post.account,
    link: post.link,
    scheduledAt: post.scheduledAt?.toISOString() ?? null,
    taskId: post.taskId,
    state: task?.state ?? null,
    progress: task?.progress ?? 0,
    sentence: task?.sentence ?? null,
  }));
}

/** Accounts of all outlets of this installation, with what each takes; of an outlet that is away nothing, and why. */
async function outletAccounts(): Promise<{
  accounts: (OutletAccount & { outlet: string })[];
  problem: string | null;
}> {
  const known = outlets();
  const found = await Promise.allSettled(
    known.map(async (outlet) => (await outlet.accounts()).map((account) => ({ ...account, outlet: outlet.id }))),
  );
  return {
    accounts: found.flatMap((each) => (each.status === 'fulfilled' ? each.value : [])),
    problem:
      known.length === 0
        ? 'No outlet is set up here.'
        : found.some((each) => each.status === 'rejected')
          ? 'The outlet does not answer. Posts that wait are tried again.'
          : null,
  };
}

/** The accounts that a file can be handed to. */
export async function showOutlets(projectId: string) {
  const project = await openProject(projectId);
  return project.ok ? done(await outletAccounts()) : project;
}

/** Hands a finished file to an outlet. The same file goes to an account once. */
export async function postRender(projectId: string, given: unknown): Promise<Result<null>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(PostDto, given);
  if (!checked.ok) return checked;
  const { render: renderId, outlet, account, title, text, at } = checked.value;
  const render = await findRender(renderId);
  if (!render?.storageKey || render.projectId !== projectId)
    return refused('This file is not finished, or not there any more.', 'render');
  const before = await queuePost({
    projectId,
    renderId: render.id,
    outlet,
    account,
    title,
    text: text ?? '',
    scheduledAt: at ?? null,
  });
  if (before?.link) return refused('This file stands there already; nothing is posted twice.');
  return before ? refused('This file is on its way there already.') : nothingMore;
}

/** Tries again what did not get there. */
export async function postAgain(projectId: string, postId: unknown): Promise<Result<null>> {
  const post = isId(postId) ? await findPost(postId) : null;
  if (post?.projectId !== projectId) return refused('This post is not there any more.');
  await queuePostAgain(post.id);
  return nothingMore;
}
