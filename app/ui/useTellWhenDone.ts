import { useEffect, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import { counted } from '#core/sentences';
import type { TaskLine } from '#usecases/tasks';
import { BatchWatch, type EndedBatch } from './batchWatch';

/** Work that goes on for less is not told of, in seconds. */
const longFrom = 30;
/** Nobody is asked whether to be told of less than this, in seconds. */
const askFrom = 60;

const told: Partial<Record<TaskLine['kind'], string>> = {
  read: 'is read',
  render: 'is rendered',
  words: 'is transcribed',
  fetch: 'is brought in',
  join: 'is put together',
  music: 'is made',
  post: 'is posted',
};

/** What has come to its end, in a sentence. */
export function endedWords({ kind, done, failed, title }: EndedBatch): string {
  const what = title === null ? counted(done || failed, 'file') : `“${title}”`;
  if (done === 0) return `${what} failed`;
  const verb = told[kind] ?? 'is done';
  const said = `${what} ${title === null && done !== 1 ? verb.replace(/^is /, 'are ') : verb}`;
  return failed > 0 ? `${said}; ${failed} failed` : said;
}

const permission = () => (typeof Notification === 'undefined' ? 'denied' : Notification.permission);

/**
 * The browser tells when long work is over while nobody looks at the page, once it was allowed to; the tab's title says how
 * far it is.
 * @param left seconds until all is over; null where that cannot be told
 * @returns asks for the permission; null when there is nothing to ask
 */
export function useTellWhenDone(
  name: string,
  tasks: readonly TaskLine[],
  share: number | null,
  left: number | null,
): (() => void) | null {
  const watch = useRef(new BatchWatch());
  const [allowed, setAllowed] = useState<NotificationPermission | null>(null);
  const { pathname } = useLocation();
  useEffect(() => {
    for (const ended of watch.current.look(tasks, Date.now()))
      if (ended.seconds >= longFrom && document.hidden && permission() === 'granted')
        new Notification(name, { body: endedWords(ended), tag: `${name} ${ended.kind}` });
  }, [name, tasks]);
  const percent = share === null ? null : Math.floor(share * 100);
  useEffect(() => {
    // Every place writes its own title; this goes before it.
    const own = document.title.replace(/^\d+ % · /, '');
    document.title = percent === null ? own : `${percent} % · ${own}`;
  }, [percent, pathname]);
  const isLong = left !== null && left > askFrom;
  useEffect(() => {
    if (isLong) setAllowed(permission());
  }, [isLong]);
  if (!isLong || allowed !== 'default') return null;
  return () => void Notification.requestPermission().then(setAllowed);
}
