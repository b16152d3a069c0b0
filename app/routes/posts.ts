import { data } from 'react-router';
import { createPost, findPost, samePost, setPost } from '#data/posts';
import { findRender } from '#data/tasks';
import { enqueuePost, outletAccounts } from '#jobs/queue';
import { isId } from '#data/projects';
import { PostDto } from '../forms/deliveryDto';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/posts';

export async function loader({ params }: Route.LoaderArgs) {
  await requireProject(params.projectId);
  return outletAccounts();
}

/** Hands a finished file to an outlet, or tries again what failed (`again`). The same file goes to an account once. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const form = await request.formData();
  const refuse = (problem: string) => data({ problem }, { status: 422 });
  const again = form.get('again');
  if (typeof again === 'string') {
    const post = isId(again) ? await findPost(again) : null;
    if (!post || post.projectId !== project.id) return refuse('This post is not there any more.');
    if (post.link === null) await setPost(post.id, { taskId: (await enqueuePost(project.id, post.id, post.title)).id });
    return { problem: null };
  }
  const checked = check(PostDto, form);
  if (!checked.ok) return refuse(Object.values(checked.problems)[0]!);
  const { render: renderId, outlet, account, title, text, at } = checked.value;
  const render = await findRender(renderId);
  if (!render?.storageKey || render.projectId !== project.id)
    return refuse('This file is not finished, or not there any more.');
  const before = await samePost(render.id, outlet, account);
  if (before)
    return refuse(
      before.link
        ? 'This file stands there already; nothing is posted twice.'
        : 'This file is on its way there already.',
    );
  const post = await createPost({
    projectId: project.id,
    renderId: render.id,
    outlet,
    account,
    title,
    text: text ?? '',
    scheduledAt: at ?? null,
  });
  await setPost(post.id, { taskId: (await enqueuePost(project.id, post.id, title)).id });
  return { problem: null };
}
