import { useEffect, useMemo, useState } from 'react';
import { useOutletContext, useSearchParams } from 'react-router';
import {
  applyCommand,
  compareReels,
  findClip,
  takeUp,
  transferPieces,
  type Carried,
  type ReelCommand,
} from '#core/reel';
import type { ProjectData } from '#usecases/projects';
import type { ReelData } from '#usecases/reels';
import { newId } from '../../newId';
import { historyOf } from '../../history/history';
import { useHistory } from '../../history/useHistory';
import { useAsked } from '../../ui/useAsked';
import { useFraming } from '../../shorts/useFraming';
import type { Moving } from '../CutFrames';
import { useReelDesk } from '../useReelDesk';
import { useViewing } from '../useViewing';
import type { Step } from '../VersionsPanel';
import { useEditModes } from './useEditModes';

export type Which = 'upper' | 'lower';

/** All that a reel's place shows and does: the reel, the one above it if there is one, and which of them has the keys. */
export function useReelPlace(projectId: string, data: ReelData) {
  const { items, project } = useOutletContext<ProjectData>();
  const lower = useReelDesk(projectId, data.reel, items, data.beats);
  const upper = useReelDesk(projectId, data.other, items);
  const [search, setSearch] = useSearchParams();
  const [focus, setFocus] = useState<Which>('lower');
  const two = upper.reel !== null;
  const which: Which = two ? focus : 'lower';
  const desk = which === 'upper' ? upper : lower;
  const reel = lower.reel ?? data.reel;
  const [tab, setTab] = useState('piece');
  const [moving, setMoving] = useState<Moving | null>(null);
  const [title, setTitle] = useState<string | null>(null);
  const [comment, setComment] = useState<string | null>(null);
  const versionAbove = upper.reel?.readOnly ? upper.document : null;
  const differences = useMemo(
    () => (versionAbove && lower.document ? compareReels(versionAbove, lower.document) : null),
    [versionAbove, lower.document],
  );
  useEffect(() => {
    if (versionAbove) setTab('versions');
  }, [versionAbove]);
  const history = useHistory(projectId, desk.live.participant);
  const versionName = () => data.versions.find((each) => each.number === upper.reel!.head)?.name;
  return {
    projectId,
    projectName: project.name,
    data,
    items,
    lower,
    upper,
    two,
    which,
    desk,
    reel,
    tab,
    setTab,
    moving,
    setMoving,
    title,
    setFocus,
    history,
    modes: useEditModes(),
    framing: useFraming(desk),
    steps: useSteps(projectId, reel, tab === 'versions' && lower.live.state === 'saved'),
    sendOver: sendOverFrom({ upper, lower, which }),
    dropOver: dropOverFrom({ upper, lower }),
    viewing: useViewing(projectId, reel.id, reel.head),
    comment,
    chooseComment: setComment,
    openComment: (id: string) => {
      setComment(id);
      setTab('viewing');
    },
    differences: search.has('with') ? differences : null,
    allDifferences: differences,
    nameAbove: versionAbove
      ? `${versionAbove.name}, ${versionName() ?? 'an earlier version'}`
      : (upper.document?.name ?? ''),
    /** Shows a title in its panel; null for none. */
    chooseTitle: setTitle,
    openTitle: (id: string) => {
      setTitle(id);
      setTab('titles');
    },
    /** Puts a reel above this one, by its id, or takes it away. */
    putAbove: (id: string | null) =>
      setSearch((now) => {
        if (id === null) now.delete('with');
        else now.set('with', id);
        return now;
      }),
  };
}
export type ReelPlace = ReturnType<typeof useReelPlace>;

interface TwoReels {
  upper: ReturnType<typeof useReelDesk>;
  lower: ReturnType<typeof useReelDesk>;
  which: Which;
}

/** Copies the chosen pieces to the other reel, or moves them there; null while there is no other to be changed. */
function sendOverFrom({ upper, lower, which }: TwoReels) {
  if (!upper.reel) return null;
  const [from, to] = which === 'upper' ? [upper, lower] : [lower, upper];
  return (move: boolean) => {
    const carried = from.clip && from.takeUpChosen();
    if (carried) carryOver(from, carried, move, () => to.putCarried('append', carried));
  };
}

/** Lets a piece that is dragged from one reel go in the other, with all that are chosen beside it; null while there is one only. */
function dropOverFrom({ upper, lower }: Omit<TwoReels, 'which'>) {
  if (!upper.reel) return null;
  return (onto: Which, clip: string, frame: number, copy: boolean) => {
    const [from, to] = onto === 'lower' ? [upper, lower] : [lower, upper];
    if (!from.document || !to.document || !findClip(from.document, clip)) return;
    const isChosen = from.chosen.some(({ id }) => id === clip);
    const carried = isChosen ? from.takeUpChosen() : takeUp(from.document, new Set([clip]));
    const command = carried && transferPieces(carried, to.document, 'insert', frame, newId);
    // Of an earlier version nothing can be taken away.
    if (carried && command) carryOver(from, carried, !copy && !from.reel?.readOnly, () => to.live.edit(command));
  };
}

/** Puts pieces into another reel, and takes them out of theirs when they move: one step of both. */
function carryOver(from: TwoReels['upper'], carried: Carried, move: boolean, put: () => boolean): void {
  if (!from.document || !from.reel) return;
  const gone = carried.pieces.map((piece): ReelCommand => ({ type: 'handOver', clip: piece.clip.id }));
  const leave: ReelCommand =
    gone.length === 1
      ? gone[0]!
      : { type: 'several', name: `moved ${gone.length} pieces to another reel`, commands: gone };
  // What cannot leave is not put into the other reel either; the edit says why.
  if (move && !applyCommand(from.document, leave, from.sources).ok) return void from.live.edit(leave);
  historyOf(from.reel.projectId).together(() => {
    if (put() && move) from.live.edit(leave);
  });
}

/** What was done to the reel; asked for while it is looked at. */
function useSteps(projectId: string, { id, head }: { id: string; head: number }, isShown: boolean): Step[] {
  return useAsked<Step[]>(`/projects/${projectId}/reels/${id}/steps`, head, isShown).data ?? [];
}
