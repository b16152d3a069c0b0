import type { Aim } from '#usecases/beginnings';
import type { Item } from '#usecases/projects';

type ItemState = Pick<Item, 'problem'> & {
  probe: { kind: 'video' | 'sound' | 'photo'; glancedEvery?: number } | null;
  arrived: { kind: 'video' | 'sound' | 'photo' } | null;
  isRough: boolean;
};

/** What stands between the files and what is made of them. */
export interface BeginState {
  /** Films and photos that count for what is made, and how many of them are known well enough. */
  pictures: number;
  seen: number;
  unreadable: number;
  /** Whether more is still to be read of them. */
  isRough: boolean;
  waitsFor: 'files' | 'pictures' | 'song' | 'look' | 'beats' | 'unreadable' | null;
}

interface About {
  aim: Aim;
  items: readonly ItemState[];
  /** Whether files are on their way. */
  isArriving: boolean;
  /** The song of a montage; null while there is none. */
  music: { isHeard: boolean; problem: string | null } | null;
}

/** Shorts need whole sentences; for a reel and a montage a look at some points is a beginning. */
const isSeen = (aim: Aim, { probe }: ItemState) =>
  probe !== null && (aim !== 'shorts' || probe.glancedEvery === undefined);

/** How far a project is that was begun with files, and what it waits for. */
export function beginState({ aim, items, isArriving, music }: About): BeginState {
  const counts = (item: ItemState) => {
    const kind = (item.probe ?? item.arrived)?.kind;
    return kind === 'video' || (kind === 'photo' && aim !== 'shorts');
  };
  const own = items.filter(counts);
  const readable = own.filter(({ problem }) => problem === null);
  const seen = readable.filter((item) => isSeen(aim, item)).length;
  const isUnknown = items.some(({ probe, arrived, problem }) => !probe && !arrived && problem === null);
  const waitsFor = ((): BeginState['waitsFor'] => {
    if (isArriving || items.length === 0) return 'files';
    if (isUnknown) return 'look';
    if (own.length === 0) return 'pictures';
    if (readable.length === 0) return 'unreadable';
    if (aim === 'montage' && !music) return items.some(isSoundUnread) ? 'look' : 'song';
    if (seen < readable.length) return 'look';
    return aim === 'montage' && !music!.isHeard ? 'beats' : null;
  })();
  return {
    pictures: readable.length,
    seen,
    unreadable: items.filter(({ problem }) => problem !== null).length,
    isRough: readable.some(({ isRough }) => isRough),
    waitsFor,
  };
}

/** Whether it is music is known once it is read. */
const isSoundUnread = ({ probe, arrived, problem }: ItemState) =>
  !probe && arrived?.kind === 'sound' && problem === null;
