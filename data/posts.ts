import { and, desc, eq } from 'drizzle-orm';
import { database, type Transaction } from './db';
import { posts, renders, tasks } from './schema';

export type Post = typeof posts.$inferSelect;

export type NewPost = Pick<Post, 'projectId' | 'renderId' | 'outlet' | 'account' | 'title' | 'text' | 'scheduledAt'>;

export const findPost = async (id: string): Promise<Post | null> =>
  (await database().select().from(posts).where(eq(posts.id, id)))[0] ?? null;
export const setPost = (id: string, values: Partial<Pick<Post, 'link'>>) =>
  database().update(posts).set(values).where(eq(posts.id, id));

/** Posts of a project, newest first, with what is being posted and how far it is. */
export const listPosts = (projectId: string) =>
  database()
    .select({
      post: posts,
      name: renders.name,
      task: { id: tasks.id, state: tasks.state, progress: tasks.progress, sentence: tasks.sentence },
    })
    .from(posts)
    .innerJoin(renders, eq(renders.id, posts.renderId))
    .leftJoin(tasks, eq(tasks.id, posts.taskId))
    .where(eq(posts.projectId, projectId))
    .orderBy(desc(posts.createdAt));

/** The same file to the same account under the same title, if it was handed over before and did not end without a post. */
export async function samePost(
  renderId: string,
  outlet: string,
  account: string,
  tx: Transaction | ReturnType<typeof database> = database(),
): Promise<Post | null> {
  const rows = await tx
    .select({ post: posts, state: tasks.state })
    .from(posts)
    .leftJoin(tasks, eq(tasks.id, posts.taskId))
    .where(and(eq(posts.renderId, renderId), eq(posts.outlet, outlet), eq(posts.account, account)));
  return rows.find(({ post, state }) => post.link !== null || state === 'queued' || state === 'running')?.post ?? null;
}
