import { findPost, setPost } from '#data/posts';
import { storage } from '#data/storage';
import { findRender } from '#data/tasks';
import { OutletError, outlets } from '#media/outlets/index';
import { MediaError } from '#media/process';
import type { Work } from './runTask';

const tries = 4;

/** Hands a finished file to an outlet; the subject is the post, whose id is its key there, so that it is posted once. */
export async function postFile({ task, signal, progress, say }: Work): Promise<string | null> {
  const post = await findPost(task.subject);
  if (!post) throw new MediaError('This post was withdrawn before it went out.');
  if (post.link !== null) return null;
  const render = await findRender(post.renderId);
  const outlet = outlets().find((each) => each.id === post.outlet);
  if (!outlet) throw new MediaError('This outlet is not set up here any more.');
  if (!render?.storageKey || (await storage().size(render.storageKey)) === null)
    throw new MediaError('The file is not there any more. Render it again, then post it.');
  for (let attempt = 1; ; attempt++) {
    try {
      const { link, state } = await outlet.post(
        {
          key: post.id,
          account: post.account,
          title: post.title,
          text: post.text,
          scheduledAt: post.scheduledAt,
          file: await storage().localPath(render.storageKey),
          size: render.size ?? 0,
          seconds: render.seconds,
          width: render.width,
          height: render.height,
        },
        { signal, onProgress: progress },
      );
      await setPost(post.id, { link });
      return state === 'waiting' ? 'The outlet has it and shows it at its time.' : null;
    } catch (error) {
      if (!(error instanceof OutletError)) throw error;
      if (error.final || attempt >= tries)
        throw new MediaError(
          error.final
            ? error.message
            : `${error.message.replace(/ It (goes on|is tried)[^.]*\.$/, '')} It was tried ${tries} times. Nothing was posted twice; try again later.`,
          { cause: error },
        );
      await say(error.message);
      await new Promise((wake) => setTimeout(wake, 400 * 2 ** attempt));
    }
  }
}
