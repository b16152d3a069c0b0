import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { coverJumps, spanOfWords, strikeOut } from '#core/reel';
import { counted } from '#core/sentences';
import { framesToSeconds } from '#core/time';
import { guessLanguage, disfluenciesIn, type Disfluency } from '#core/words';
import { newId } from '../../newId';
import { useLatest } from '../../ui/useLatest';
import { morePieces } from '../morePieces';
import type { ReelDesk } from '../useReelDesk';

/** A disfluency in a reel, with whether it stays. */
export interface MarkedDisfluency extends Disfluency {
  key: string;
  stays: boolean;
}

type Said = readonly { media: string; index: number; text: string; start: number; end: number; confidence: number }[];

/** So many words tell the language of a text. */
const tellingWords = 300;

/** An edit is made of three for each place, and an edit of thousands is refused. */
const mostAtOnce = 600;

/** Footage that is looked for to cover a jump, in seconds each: more than it takes, since not all fits. */
const coverSeconds = 8;

/** What was covered of the jumps that an edit made, in words. */
function coveredWords({ jumps, covered }: { jumps: number; covered: number }): string {
  if (jumps === 0) return 'There is no jump cut.';
  const all = counted(jumps, 'jump cut');
  if (covered === jumps) return `${all} ${jumps === 1 ? 'is' : 'are'} covered by other footage.`;
  return covered === 0
    ? `Nothing fits over ${all}.`
    : `${covered} of ${all} are covered by other footage; nothing fits over the others.`;
}

/**
 * What can be tidied out of the speech of a reel, and which of it stays.
 * @param onRefused hears why nothing was taken out; null once it was
 */
export function useTidy(
  { document: reel, live, sources }: ReelDesk,
  said: Said,
  onRefused: (why: string | null) => void,
) {
  const [isOn, setOn] = useState(false);
  const [stay, setStay] = useState<ReadonlySet<string>>(new Set());
  const [covers, setCovers] = useState(true);
  const [isLooking, setLooking] = useState(false);
  const marked = useMemo((): MarkedDisfluency[] => {
    if (!isOn || said.length === 0) return [];
    const text = said.slice(0, tellingWords).map((word) => word.text);
    return disfluenciesIn(said, guessLanguage(text.join(' ')) ?? 'en').map((one) => {
      const first = said[one.from]!;
      const key = `${first.media} ${first.index} ${one.kind}`;
      return { ...one, key, stays: stay.has(key) };
    });
  }, [isOn, said, stay]);
  const going = useMemo(() => marked.filter(({ stays }) => !stays).slice(0, mostAtOnce), [marked]);
  const spans = useMemo(
    () => (reel ? going.map(({ from, to }) => spanOfWords(reel, said, from, to)) : []),
    [reel, said, going],
  );
  const now = useLatest(reel);
  const takeOut = async (): Promise<void> => {
    if (!reel || isLooking) return;
    const name = `tidied speech in ${counted(going.length, 'place')}`;
    const struck = strikeOut(reel, spans, name, sources, newId);
    onRefused(struck.ok ? null : struck.reason);
    if (!struck.ok) return;
    if (!covers) {
      if (live.edit(struck.command)) setOn(false);
      return;
    }
    setLooking(true);
    const pictures = await morePieces(live.reel!.projectId, reel, going.length * coverSeconds, true);
    setLooking(false);
    if (now.current !== reel) return onRefused('The reel was changed meanwhile. Please do that again.');
    const edit = coverJumps(reel, struck.command, pictures, sources, newId);
    if (!edit.ok) return onRefused(edit.reason);
    if (!live.edit(edit.command)) return;
    setOn(false);
    toast(coveredWords(edit));
  };
  return {
    isOn,
    setOn,
    /** Whether other pictures are to lie over the jumps. */
    covers,
    setCovers,
    marked,
    going: going.length,
    /** Those that wait for another press. */
    later: marked.filter(({ stays }) => !stays).length - going.length,
    seconds: reel
      ? framesToSeconds(
          spans.reduce((sum, { from, to }) => sum + to - from, 0),
          reel.rate,
        )
      : 0,
    toggle: (key: string) =>
      setStay((before) => {
        const next = new Set(before);
        if (!next.delete(key)) next.add(key);
        return next;
      }),
    /** Whether pictures are being looked for. */
    isLooking,
    /** Takes out what does not stay, and covers the jumps where that is wished and something fits. */
    takeOut,
  };
}
