import { listMedia } from '#data/media';
import { queueTask } from '#data/tasks';
import { formatClock } from '#core/time';
import { MakeMusicDto } from './forms/montageDto';
import { openProject } from './openProject';
import { done, missing, refused, type Result } from './result';
import { check } from './validate';

/** What a piece of music is made of: stretches of others, one after the other, and how long it should be. */
export interface MusicWish {
  /** Seconds of each; null for its own beginning and end. */
  parts: { media: string; from: number | null; to: number | null }[];
  /** Null for as long as the parts are. */
  seconds: number | null;
}

/** The wish of a task. */
export const wishOf = (subject: string): MusicWish => JSON.parse(subject) as MusicWish;

const stem = (name: string): string => name.replace(/\.[^.]*$/, '');

/**
 * Asks for a piece of music out of others: several one after the other, or one shortened or lengthened at its bars. It
 * comes into the project as a file of its own.
 * @param given `{ parts: [{ media, from?, to? }], seconds? }`
 */
export async function makeMusicOf(projectId: string, given: unknown): Promise<Result<{ title: string }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(MakeMusicDto, given);
  if (!checked.ok) return checked;
  const { parts, seconds = null } = checked.value;
  const items = await listMedia(projectId);
  const names: string[] = [];
  let total = 0;
  for (const { media, from = 0, to } of parts) {
    const item = items.find(({ id }) => id === media);
    const known = item?.probe ?? item?.arrived;
    if (!item || !known) return missing('One of these songs is not in the project any more.', 'parts');
    if (!known.hasSound) return refused(`“${item.name}” has no sound.`, 'parts');
    const end = Math.min(to ?? Infinity, known.durationSeconds);
    if (end - from < shortestPart)
      return refused(`Of “${item.name}” nothing is left from ${formatClock(from)} to ${formatClock(end)}.`, 'parts');
    total += end - from;
    names.push(stem(item.name));
  }
  const isWhole = parts.length === 1 && parts[0]!.from === undefined && parts[0]!.to === undefined;
  if (isWhole && seconds === null)
    return refused('This would be the song as it is. Add another one, or say how long it should be.', 'seconds');
  const length = seconds ?? total;
  const title = `${[...new Set(names)].join(' + ').slice(0, 100)}, ${formatClock(length)}.flac`;
  const wish: MusicWish = {
    parts: parts.map(({ media, from = null, to = null }) => ({ media, from, to })),
    seconds,
  };
  await queueTask({ projectId, kind: 'music', subject: JSON.stringify(wish), title, workSeconds: total * workShare });
  return done({ title });
}

/** Of a song at least so much is used, in seconds. */
const shortestPart = 2;
/** Hearing the bars and writing the file take so much of the length of the songs, about. */
const workShare = 0.06;
