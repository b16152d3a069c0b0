import { setTimeout as sleep } from 'node:timers/promises';
import { formatSize } from '#core/sentences';
import { freeBytes, isFull, reserveBytes, roomLeft } from '#data/room';
import { Cancelled } from '#media/process';

const lookMilliseconds = 2000;

/** Waits while the disk is full, and says so; work goes on by itself when there is room. */
async function waitForRoom(signal: AbortSignal, say: (sentence: string | null) => Promise<void>): Promise<void> {
  if ((await roomLeft()) > 0) return;
  while ((await roomLeft()) === 0) {
    const free = await freeBytes();
    await say(
      `Waits for room: ${formatSize(free)} of the disk are free, and ${formatSize(reserveBytes())} are kept for the database. It goes on by itself.`,
    ).catch(() => undefined);
    await sleep(lookMilliseconds, undefined, { signal }).catch(() => {
      throw new Cancelled();
    });
  }
  await say(null).catch(() => undefined);
}

/**
 * Does work that writes to the disk: begun when there is room, broken off before the last of it is gone, and begun again
 * when there is some. What was whole of it stays.
 */
export async function withRoom<T>(
  signal: AbortSignal,
  say: (sentence: string | null) => Promise<void>,
  work: (signal: AbortSignal) => Promise<T>,
): Promise<T> {
  for (;;) {
    await waitForRoom(signal, say);
    const full = new AbortController();
    const timer = setInterval(
      () =>
        void isFull().then(
          (is) => is && full.abort(),
          () => undefined,
        ),
      lookMilliseconds,
    );
    try {
      return await work(AbortSignal.any([signal, full.signal]));
    } catch (error) {
      const noRoom = full.signal.aborted || (await roomLeft().catch(() => 1)) === 0;
      if (signal.aborted || !noRoom) throw error;
    } finally {
      clearInterval(timer);
    }
  }
}
