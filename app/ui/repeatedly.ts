/**
 * Does something again and again: the next time so long after the last has ended, so that a
 * slow answer is not asked for twice.
 * @returns ends it
 */
export function repeatedly(act: () => unknown, every: number | (() => number)): () => void {
  let timer: ReturnType<typeof setTimeout>;
  let isOver = false;
  const later = () => void (timer = setTimeout(() => void once(), typeof every === 'number' ? every : every()));
  const once = async () => {
    await Promise.resolve(act()).catch(() => undefined);
    if (!isOver) later();
  };
  later();
  return () => {
    isOver = true;
    clearTimeout(timer);
  };
}

/** Does something at once, and at most so often: what is asked for in between is done once, at the end of the pause. */
export function throttled(act: () => void, everyMilliseconds: number): (() => void) & { end(): void } {
  let timer: ReturnType<typeof setTimeout> | null = null;
  let isWanted = false;
  const pause = () => {
    timer = setTimeout(() => {
      timer = null;
      if (!isWanted) return;
      isWanted = false;
      act();
      pause();
    }, everyMilliseconds);
  };
  const ask = () => {
    if (timer) return void (isWanted = true);
    act();
    pause();
  };
  return Object.assign(ask, { end: () => void (timer && clearTimeout(timer)) });
}
