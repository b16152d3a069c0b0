import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import { useFetcher, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { clipsOf, type Placing, type WantedPiece } from '#core/reel';
import { framesToSeconds, secondsToFrames, type Range } from '#core/time';
import { useReelDesk } from '../reel/useReelDesk';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import type { LiveReel } from '#usecases/reels';
import type { Item } from '#usecases/projects';

export interface NewReel {
  name: string;
  pieces: WantedPiece[];
  /** Every piece stays where it was filmed, a track a camera. */
  inPlace?: boolean;
  /** Photos move slowly, by the faces in them. */
  movePhotos?: boolean;
  role?: 'selects';
  /** The reel whose pieces these take the place of. */
  replaces?: string;
}

/** The reel below the page: which is open, pieces that go to it, new reels, and which of the two receives the keys. */
export function useReelBelow(
  projectId: string,
  opened: LiveReel | null,
  known: readonly { id: string; role: string | null }[],
  items: readonly Item[],
) {
  const navigate = useNavigate();
  const desk = useReelDesk(projectId, opened, items);
  const [focus, setFocus] = useState<'page' | 'reel'>('page');
  const hasKeys = focus === 'reel' && desk.reel !== null;
  const open = (reel: string | null) => {
    const address = new URL(window.location.href);
    if (reel) address.searchParams.set('reel', reel);
    else address.searchParams.delete('reel');
    if (!reel) setFocus('page');
    void navigate(`${address.pathname}${address.search}`, { replace: true, preventScrollReset: true });
  };
  const maker = useFetcher<{ problems: Record<string, string>; reels: { id: string; name: string }[] } & GoingAnswer>();
  useGoTo(maker);
  const making = maker.state !== 'idle';
  const whenMade = useRef<((reels: { id: string; name: string }[]) => void) | null>(null);
  /** @param then hears what was made */
  const make = (reels: NewReel[], goThere: boolean, then: typeof whenMade.current = null) => {
    whenMade.current = then;
    void maker.submit(JSON.stringify({ reels: reels.map((reel) => ({ ...reel })), open: goThere }), {
      method: 'post',
      action: `/projects/${projectId}/reels`,
      encType: 'application/json',
    });
  };

  /** Pieces that wait for the selects reel to be made. */
  const pending = useRef<{ how: Placing; pieces: WantedPiece[] } | null>(null);
  const send = (how: Placing, pieces: WantedPiece[]) => {
    if (pieces.length === 0) return void toast('Nothing is marked, and no moment is under the playhead.');
    if (desk.reel) {
      desk.put(how, pieces);
      return;
    }
    pending.current = { how, pieces };
    if (!making) make([{ name: 'Selects', pieces: [], role: 'selects' }], false);
  };
  // Once what changed is loaded: the router may end a navigation that begins meanwhile with the data of before, and the
  // reel would not open (its fetcher completes whatever navigation it finds that has not asked for data yet).
  const answer = making ? undefined : maker.data;
  const made = useEffectEvent(({ problems, reels, goTo }: NonNullable<typeof answer>) => {
    const refusal = Object.values(problems)[0];
    if (refusal) return void toast.error(refusal);
    const [first] = reels;
    if (!first) return;
    whenMade.current?.(reels);
    whenMade.current = null;
    if (goTo) return;
    if (pending.current) return open(first.id);
    toast(`Made ${reels.map((reel) => `“${reel.name}”`).join(' and ')}.`, {
      action: { label: 'Open', onClick: () => void navigate(`/projects/${projectId}/reels/${first.id}`) },
    });
  });
  useEffect(() => {
    if (answer) made(answer);
  }, [answer]);
  const reelId = desk.reel?.id ?? null;
  const putPending = useEffectEvent(() => {
    const waiting = pending.current;
    if (!waiting) return;
    pending.current = null;
    desk.put(waiting.how, waiting.pieces);
  });
  useEffect(() => {
    if (reelId) putPending();
  }, [reelId]);

  /** What of the footage stands in the open reel, by file. */
  const used = useMemo(() => {
    const byMedia = new Map<string, Range[]>();
    for (const clip of desk.document ? clipsOf(desk.document) : []) {
      const range = {
        start: framesToSeconds(clip.sourceIn, desk.rate),
        end: framesToSeconds(clip.sourceIn + clip.frames, desk.rate),
      };
      byMedia.set(clip.media, [...(byMedia.get(clip.media) ?? []), range]);
    }
    return byMedia;
  }, [desk.document, desk.rate]);

  /** The keys go to the other of page and reel; without a reel the selects, or the newest one, is opened. */
  const swap = () => {
    desk.player.pause();
    if (desk.reel) return setFocus(hasKeys ? 'page' : 'reel');
    const wanted = known.find((reel) => reel.role === 'selects') ?? known[0];
    if (wanted) open(wanted.id);
    setFocus(wanted ? 'reel' : 'page');
  };
  /** Puts what is marked in the place of the chosen piece, as long as that is. */
  const replaceWith = (pieces: WantedPiece[]) => {
    const [first] = pieces;
    if (!desk.clip || !first)
      return void toast(
        desk.reel
          ? 'Choose a piece of the reel, and mark what is to stand in its place.'
          : 'Open a reel first; then a piece of it can be replaced.',
      );
    const { clip } = desk;
    desk.live.edit({
      type: 'replace',
      clip: clip.id,
      with: { media: first.media, name: first.name, sourceIn: secondsToFrames(first.start, desk.rate) },
    });
  };
  return { desk, replaceWith, hasKeys, setFocus, swap, open, make, making, send, used };
}
