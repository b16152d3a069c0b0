/**
 * Does something again and again: the next time so long after the last has ended, so that a
 * slow answer is not asked for twice.
 * @returns ends it
 */
export function repeatedly(act: () => unknown, everyMilliseconds: number): () => void {
  let timer: ReturnType<typeof setTimeout>;
  let isOver = false;
  const later = () => void (timer = setTimeout(() => void once(), everyMilliseconds));
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
