import { settings } from '#settings';
import { moveStore } from '#data/moveStore';
import { storeAt } from '#data/storage';
import { MediaError } from '#media/process';

/**
 * `storage move FROM TO`: brings what one store holds into another while an installation uses both.
 * @returns what is to be said at the end
 */
export async function moveStorage(from: string, to: string, tell?: (share: number) => void): Promise<string> {
  if (from === to) throw new MediaError('This is one place, not two.');
  const stop = new AbortController();
  const end = () => stop.abort();
  process.once('SIGINT', end);
  process.once('SIGTERM', end);
  try {
    const { done, all, bytes } = await moveStore(storeAt(from), storeAt(to), {
      signal: stop.signal,
      tell: (moved) => tell?.(moved.done / Math.max(1, moved.all)),
    });
    const copied = `${Math.round(bytes / 1e5) / 10} MB were brought over`;
    if (all === 0) return `There is nothing in “${from}”. The place where the files lie now is given first.`;
    return stop.signal.aborted
      ? `Stopped: ${done} of ${all} files are there; ${copied}. The same command goes on.`
      : `All ${all} files are there; ${copied}.${settings().BRIGHT_REEL_STORAGE_BEFORE ? ' BRIGHT_REEL_STORAGE_BEFORE is not needed any more.' : ''}`;
  } catch (error) {
    const { name, message } = error as Error;
    throw new MediaError(`The files could not be brought over: ${message || name}. The same command goes on.`, {
      cause: error,
    });
  } finally {
    process.off('SIGINT', end);
    process.off('SIGTERM', end);
  }
}
