import { guessReading, readingPace } from '#core/readings';
import { estimateOutput, paceOf } from '#core/reel';
import { lastReadings } from '#data/readings';
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

/** How long this machine takes to read, against the table of guesses; see `readingPace`. */
export async function paceOfReading(): Promise<number> {
  const read = await lastReadings(12);
  return readingPace(
    read.map(({ probe, range, tookSeconds }) => ({
      guess: guessReading(probe, range ? range.end - range.start : probe.durationSeconds),
      took: tookSeconds,
    })),
  );
}
