import { counted } from '#core/sentences';
import type { ProjectData } from '#usecases/projects';

/** A number beside the name of a place, and what it counts. */
export interface PlaceCount {
  number: number;
  says: string;
  isTrouble: boolean;
}

type ItemState = Pick<ProjectData['items'][number], 'problem' | 'state'> & { here: { isMissing: boolean } | null };
type TaskState = Pick<ProjectData['tasks'][number], 'id' | 'kind' | 'state'>;

/**
 * What waits in each place, or is new there; nothing where there is neither. What needs a hand goes before what goes on by
 * itself.
 * @param seen ids of renders whose outcome was looked at
 * @param comments open comments of others, by reel
 */
export function countsOfPlaces(
  items: readonly ItemState[],
  tasks: readonly TaskState[],
  seen: ReadonlySet<string>,
  comments: Readonly<Record<string, number>> = {},
): Partial<Record<string, PlaceCount>> {
  const broken = items.filter(({ problem, here }) => problem !== null || here?.isMissing).length;
  const reading = items.filter(({ state }) => state !== null).length;
  const renders = tasks.filter(({ kind }) => kind === 'render' || kind === 'post');
  const going = renders.filter(({ state }) => state === 'queued' || state === 'running').length;
  const fresh = renders.filter(({ id, state }) => state === 'done' && !seen.has(id)).length;
  const failed = renders.filter(({ id, state }) => state === 'failed' && !seen.has(id)).length;
  const said = Object.values(comments).reduce((sum, count) => sum + count, 0);
  return {
    ...(said ? { reels: { number: said, says: counted(said, 'open comment'), isTrouble: false } } : {}),
    ...(broken
      ? { footage: { number: broken, says: `${counted(broken, 'file')} with a problem`, isTrouble: true } }
      : reading
        ? { footage: { number: reading, says: `${counted(reading, 'file')} to be read`, isTrouble: false } }
        : {}),
    ...(failed
      ? { outputs: { number: failed, says: `${failed} failed`, isTrouble: true } }
      : fresh
        ? { outputs: { number: fresh, says: `${fresh} new`, isTrouble: false } }
        : going
          ? { outputs: { number: going, says: `${going} under way`, isTrouble: false } }
          : {}),
  };
}
