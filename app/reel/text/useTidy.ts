import { useMemo, useState } from 'react';
import { spanOfWords, strikeOut, type Reel, type ReelCommand } from '#core/reel';
import { counted } from '#core/sentences';
import { framesToSeconds } from '#core/time';
import { guessLanguage, disfluenciesIn, type Disfluency } from '#core/words';
import { newId } from '../../newId';
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

/** What can be tidied out of the speech of a reel, and which of it stays. */
export function useTidy(reel: Reel | null, said: Said, sources: ReelDesk['sources']) {
  const [isOn, setOn] = useState(false);
  const [stay, setStay] = useState<ReadonlySet<string>>(new Set());
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
  return {
    isOn,
    setOn,
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
    /** Takes out what does not stay. @returns the edit, or why there is none */
    command: (): { ok: true; command: ReelCommand } | { ok: false; reason: string } =>
      reel
        ? strikeOut(reel, spans, `tidied speech in ${counted(going.length, 'place')}`, sources, newId)
        : { ok: false, reason: 'There is no reel.' },
  };
}
