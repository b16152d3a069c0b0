import { estimateOutput, paceOf } from '#core/reel';
import { loadRevision } from '#data/reels';
import type { listRenders } from '#data/tasks';

/** What renders were guessed to take, by their ids: a version that was rendered does not change any more. */
const guesses = new Map<string, number>();

/** How this machine compares with the table of estimates, from the last renders that ended at their first try. */
export async function paceFrom(renders: Awaited<ReturnType<typeof listRenders>>): Promise<number> {
  const finished = renders
    .flatMap(({ render, task }) =>
      task?.state === 'done' && task.startedAt && task.endedAt && task.attempts === 1
        ? [{ render, tookSeconds: (task.endedAt.getTime() - task.startedAt.getTime()) / 1000 }]
        : [],
    )
    .slice(0, 5);
  return paceOf(
    await Promise.all(
      finished.map(async ({ render, tookSeconds }) => {
        let guess = guesses.get(render.id);
        if (guess === undefined) {
          const { format, quality, width, height, range } = render;
          const version = await loadRevision(render.reelId, render.revision);
          guess = version
            ? estimateOutput(version.document, {
                format,
                quality,
                size: { width, height },
                ...(range ? { range } : {}),
              }).seconds
            : 0;
          guesses.set(render.id, guess);
        }
        return { guess, tookSeconds };
      }),
    ),
  );
}
