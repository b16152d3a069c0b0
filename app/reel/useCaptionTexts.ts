import { useEffect, useMemo, useState } from 'react';
import type { CaptionStyle } from '#core/captions';
import type { ReelTexts } from '#core/formats';
import { voiceNow } from '#core/voices';
import type { CaptionTexts } from '#usecases/reelTexts';
import { ask } from '../ui/ask';
import { whenChangedElsewhere } from '../ui/changesElsewhere';

/** What captions of a reel are made of besides the words that are shown. */
export interface BesideTexts {
  /** What is said in the second language, and who speaks, as far as the captions ask for that. */
  beside: Pick<ReelTexts, 'secondOf' | 'speakerOf'>;
  /** Speakers of the project in their order; null for one without a name. */
  speakers: readonly (string | null)[];
  /** Languages of the project's texts, and how many files have one in each. */
  languages: CaptionTexts['languages'];
  /** Files of the reel that have words, but none in the second language. */
  lacking: number;
}

const nothing: BesideTexts['beside'] = {};
/** Files in one request: an address has room for so many. */
const mostInOne = 200;

/**
 * Loads who speaks and what is said in a second language, for captions that show it.
 * @param media the footage of the reel
 * @param isSpoken whether a file has words
 */
export function useCaptionTexts(
  projectId: string,
  style: CaptionStyle | null,
  media: readonly string[],
  isSpoken: (media: string) => boolean,
): BesideTexts {
  const [known, setKnown] = useState<CaptionTexts | null>(null);
  const [turn, setTurn] = useState(0);
  const isShown = style !== null;
  const second = style?.second ?? '';
  const of = media.filter(isSpoken).join();
  useEffect(() => whenChangedElsewhere(() => setTurn((now) => now + 1)), []);
  useEffect(() => {
    if (!isShown) return;
    const stop = new AbortController();
    const parts: CaptionTexts[] = [];
    const wanted = of ? of.split(',') : [];
    const askFrom = (first: number): void => {
      const some = wanted.slice(first, first + mostInOne).join();
      const query = new URLSearchParams({ ...(second ? { second } : {}), ...(some ? { of: some } : {}) });
      ask(`/projects/${projectId}/caption-texts?${query.toString()}`, stop.signal, async (answer) => {
        if (!answer.ok) return;
        parts.push((await answer.json()) as CaptionTexts);
        if (first + mostInOne < wanted.length) return askFrom(first + mostInOne);
        const all = <Key extends 'second' | 'turns'>(key: Key) =>
          Object.assign({}, ...parts.map((part) => part[key])) as CaptionTexts[Key];
        setKnown({ ...parts[0]!, second: all('second'), turns: all('turns') });
      });
    };
    askFrom(0);
    return () => stop.abort();
  }, [projectId, isShown, second, of, turn]);
  const isBySpeaker = Boolean(style?.speakers);
  return useMemo(() => {
    const beside: BesideTexts['beside'] = {
      ...(second ? { secondOf: (id) => known?.second[id] ?? [] } : {}),
      ...(isBySpeaker
        ? {
            speakerOf: (id, seconds) => {
              const voice = voiceNow(known?.turns[id] ?? [], seconds);
              return voice === null ? {} : { voice };
            },
          }
        : {}),
    };
    return {
      beside: second || isBySpeaker ? beside : nothing,
      speakers: known?.speakers ?? [],
      languages: known?.languages ?? [],
      lacking: second && known ? media.filter((id) => isSpoken(id) && (known.second[id] ?? []).length === 0).length : 0,
    };
  }, [known, second, isBySpeaker, media, isSpoken]);
}
