import { useCallback, useMemo, useRef, useState } from 'react';
import { changesBetween, fillNote, frameAt, usablePieces, type Heard, type Montage, type Slot } from '#core/montage';
import { sameCountIn, type MusicHearing } from '#core/sound';
import { framesToSeconds } from '#core/time';
import type { StoredMontage } from '#usecases/montages';
import type { Item } from '#usecases/projects';
import { useLog } from '../history/useLog';
import { filled, montageActions, type Swapping } from './montageActions';
import { useGathering, type Gather } from './useGathering';
import { useMontageFootage } from './useMontageFootage';
import { useMontagePlayer } from './useMontagePlayer';

const montageChanges = (before: unknown, after: unknown) => changesBetween(before as Montage, after as Montage);

/** A montage under one's hands: its document with undo, what its pieces show, every change of it, and its player. */
export function useMontage(
  projectId: string,
  music: Item,
  hearing: MusicHearing,
  stored: StoredMontage,
  gather: Gather,
  items: readonly Item[],
) {
  const initial = useMemo(
    () => ({ entries: [['montage', stored.document]] as [string, unknown][], versions: { montage: stored.version } }),
    [stored],
  );
  const log = useLog(
    {
      projectId,
      address: `/projects/${projectId}/music/${music.id}/montage`,
      title: `the montage to “${music.name}”`,
      changesBetween: montageChanges,
    },
    initial,
  );
  const montage = log.entries.get('montage') as Montage;
  const [problem, setProblem] = useState<string | null>(null);
  const { usable, footage, features, featuresOf } = useMontageFootage(items, montage.pieces, gather.photoSeconds);
  const heard = useMemo((): Heard => ({ ...hearing, grid: montage.grid }), [hearing, montage.grid]);

  // What somebody put right, or heard and found right, is no longer in doubt.
  const doubts = useMemo(
    () =>
      hearing.doubts.filter(
        (doubt) =>
          sameCountIn(montage.grid, hearing.grid, doubt) &&
          !montage.settled?.some(({ start, end }) => start <= doubt.start && end >= doubt.end),
      ),
    [montage.grid, montage.settled, hearing],
  );

  const change = useCallback(
    (next: Montage, join: string | null = null): boolean => {
      setProblem(null);
      return log.commit([['montage', next]], join);
    },
    [log],
  );
  const swapping = useRef<Swapping | null>(null);
  const { gathering, gatherNow } = useGathering({
    montage,
    footage,
    usable,
    gather,
    onProblem: setProblem,
    onPieces: (pieces) => {
      const locked = montage.slots.flatMap((slot) => (slot.locked && slot.piece ? [slot.piece.piece] : []));
      const kept = montage.pieces.filter((piece) => locked.includes(piece.id));
      change(filled({ ...montage, pieces: [...kept, ...pieces] }, { featuresOf, hearing }));
    },
  });
  const about = { montage, hearing, heard, features, featuresOf, footage, swapping, change, onProblem: setProblem };
  const actions = { ...montageActions(about), gather: gatherNow };
  const { reel, player } = useMontagePlayer(montage, music, hearing.durationSeconds, items);
  const note = useMemo(() => fillNote(montage.slots, montage.pieces, features, montage.filling), [montage, features]);
  const { pieces: fit, shaky } = useMemo(
    () => usablePieces(montage.pieces, features, montage.filling),
    [montage.pieces, features, montage.filling],
  );

  return {
    montage,
    hearing,
    heard,
    doubts,
    features,
    footage,
    reel,
    player,
    actions,
    problem,
    setProblem,
    note,
    gathering,
    items,
    music,
    state: log.state,
    participant: log.participant,
    fit,
    shaky,
    /** Seconds of the music at the playhead. */
    time: montage.span.start + player.time,
    /** To the first frame that a slot shows. */
    toSlot: (slot: Slot) => player.seek(framesToSeconds(frameAt(slot.start, montage, reel.rate), reel.rate) + 1e-3),
    seek: (seconds: number) => player.seek(Math.max(0, seconds - montage.span.start)),
  };
}

export type MontageDesk = ReturnType<typeof useMontage>;
