import { useCallback, useEffect, useMemo } from 'react';
import { useFetcher } from 'react-router';
import { voiceAt, voicesTogether } from '#core/voices';
import type { Range } from '#core/time';
import type { ShownSpeakers } from '#usecases/speakers';
import { repeatedly } from '../ui/repeatedly';

/** Colours of voices, the one that speaks first first; on dark and light ground they are told apart. */
const voiceColours = ['#d9962b', '#3fa796', '#c2608f', '#6f86d6', '#7fa03c', '#c9703f', '#8a6bc0', '#4b9bbf'];
export const voiceColour = (voice: number): string => voiceColours[voice % voiceColours.length]!;

/** What a voice is called on screen: its name, else its number. */
export const voiceName = ({ voice, name }: { voice: number; name: string | null }): string =>
  name ?? `Speaker ${voice + 1}`;

/** Whoever speaks, by number and name, and the names of those who speak at the same time. */
export interface Speaker {
  voice: number;
  name: string;
  together: string[];
}

export interface Speakers {
  /** Null until they are loaded. */
  known: ShownSpeakers | null;
  problem: string | null;
  send(values: Record<string, string | number>): void;
  /** Who speaks for most of a stretch, and who else does at the same time; null where that is not known. */
  speakerAt(range: Range): Speaker | null;
}

/** Who speaks when in a file; looked at again while its speakers are being told apart. */
export function useSpeakers(media: string): Speakers {
  const address = `/media/${media}/voices`;
  const shown = useFetcher<ShownSpeakers>({ key: `voices ${media}` });
  const sender = useFetcher<{ problem: string | null }>();
  const { load } = shown;
  // What is asked for again before its answer has come is given up; that is no fault.
  const look = useCallback(() => load(address).catch(() => undefined), [load, address]);
  useEffect(() => void look(), [look]);
  const known = shown.data ?? null;
  const isLooking = Boolean(known?.looking);
  useEffect(() => (isLooking ? repeatedly(look, 2000) : undefined), [isLooking, look]);
  const { submit } = sender;
  const version = known?.version ?? 0;
  // What a fetcher has loaded is loaded again after an action, so that all that show it follow.
  const send = useCallback(
    (values: Record<string, string | number>) =>
      void submit(
        Object.fromEntries(Object.entries({ ...values, version }).map(([name, value]) => [name, String(value)])),
        { method: 'post', action: address },
      ).catch(() => undefined),
    [submit, address, version],
  );
  return useMemo(() => {
    const names = new Map(known?.voices.map((line) => [line.voice, voiceName(line)]));
    return {
      known,
      problem: sender.state === 'idle' ? (sender.data?.problem ?? null) : null,
      send,
      speakerAt: (range) => {
        const voice = known ? voiceAt(known.turns, range) : null;
        if (!known || voice === null) return null;
        const together = voicesTogether(known.turns, range).map((each) => names.get(each) ?? '');
        return { voice, name: names.get(voice) ?? '', together };
      },
    };
  }, [known, send, sender.state, sender.data]);
}
