import { useCallback, useEffect, useMemo } from 'react';
import type { CaptionLine } from '#core/captions';
import { captionTracks } from '#core/formats';
import {
  beatFrames,
  clipsAbove,
  clipsBeside,
  clipsOf,
  musicCurve,
  planHeard,
  planPictures,
  planSound,
  speechInReel,
  type Reel,
  type Source,
} from '#core/reel';
import type { Item } from '#usecases/projects';
import type { MusicBeatsOf } from '#usecases/reels';
import { emptyPlan, type PlayPlan } from '../player/reelPlayer';
import { useReadings } from '../readings/useReadings';
import { useCaptionTexts } from './useCaptionTexts';
import { useSpoken } from '../words/useSpoken';
import { playedAddress } from '../player/playedAddress';

const none: readonly string[] = [];
const noLines: readonly CaptionLine[] = [];
/** The footage that the pieces of a reel show or are heard of. */
const footageOf = (reel: Reel): string[] => [...new Set(clipsOf(reel).map((clip) => clip.media))].sort();

/** What follows from a reel's document: what is shown, heard and read, and when. */
export function useReelPlan(
  projectId: string,
  document: Reel | null,
  sources: ReadonlyMap<string, Source>,
  heardBeats: MusicBeatsOf | null,
  sourceOf: (media: string) => { address: string } | null,
) {
  const spoken = useSpoken(projectId);
  const heard = useMemo(() => (document?.music ? footageOf(document) : none), [document]);
  // Only music must know who speaks; without it nothing is planned anew when readings come.
  const known = useReadings(heard);
  const readings = document?.music ? known : null;
  const captioned = useMemo(() => (document?.captions ? footageOf(document) : none), [document]);
  const { need, words } = spoken;
  useEffect(() => need(captioned), [need, captioned]);
  const wordsOf = useCallback((media: string) => words.get(media)?.words ?? [], [words]);
  const isSpoken = useCallback((media: string) => wordsOf(media).length > 0, [wordsOf]);
  const texts = useCaptionTexts(projectId, document?.captions ?? null, captioned, isSpoken);
  const tracks = useMemo(
    () => (document ? captionTracks(document, { wordsOf, ...texts.beside }) : []),
    [document, wordsOf, texts.beside],
  );
  const captions = tracks.find(({ follows }) => follows)?.lines ?? noLines;
  const plan = useMemo((): PlayPlan => {
    if (!document) return emptyPlan;
    const { music } = document;
    const song = music && sources.get(music.media);
    const speech = music
      ? speechInReel(document, (media) => readings?.find((each) => each.id === media)?.runs ?? [])
      : [];
    return {
      captions: tracks,
      logo: document.logo ? `/media/${document.logo.media}` : null,
      rate: document.rate,
      reel: document,
      pictures: planPictures(document),
      sounds: planHeard(document),
      music: song
        ? {
            address: sourceOf(music.media)?.address ?? `/media/${music.media}`,
            startSeconds: music.startSeconds,
            durationSeconds: song.durationSeconds,
            curve: musicCurve(document, speech),
          }
        : null,
    };
  }, [document, readings, sources, tracks, sourceOf]);
  const above = useMemo(() => (document ? clipsAbove(document) : []), [document]);
  const beside = useMemo(() => (document ? clipsBeside(document) : []), [document]);
  const segments = useMemo(
    () => (document ? planSound(document).filter((segment) => segment.id !== 'silence') : []),
    [document],
  );
  const musicBeats = document?.music && heardBeats?.media === document.music.media ? heardBeats : null;
  const beats = useMemo(
    () => (document && musicBeats ? beatFrames(document, musicBeats.beats) : []),
    [document, musicBeats],
  );
  return { spoken, readings, captions, texts, plan, above, beside, segments, musicBeats, beats };
}

/** How the items of a project are played: their addresses and shapes. */
export function usePlayable(items: readonly Item[]) {
  const itemOf = useCallback((media: string) => items.find((item) => item.id === media) ?? null, [items]);
  const sourceOf = useCallback(
    (media: string | null) => {
      const item = media === null ? null : itemOf(media);
      return item?.probe ? { address: playedAddress(item), photo: item.probe.kind === 'photo' } : null;
    },
    [itemOf],
  );
  const shapeOf = useCallback(
    (media: string) => {
      const probe = itemOf(media)?.probe;
      return probe?.width ? probe.height / probe.width : 9 / 16;
    },
    [itemOf],
  );
  return { itemOf, sourceOf, shapeOf };
}
