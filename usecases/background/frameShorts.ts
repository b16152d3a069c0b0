import { frameStretch, framedRange, isFramed, shotsToWatch, type Framing } from '#core/framing';
import { applyCommand, type Clip } from '#core/reel';
import { shownPieces } from '#core/shorts';
import { findFile, findMedia, keyOf } from '#data/media';
import { findBestReading, openablePath } from '#data/readings';
import { openReel, replaceFirst, saveRevision } from '#data/reels';
import { findShortSet } from '#data/shorts';
import { loadWatched, saveMouths } from '#data/watched';
import { watchMouths } from '#media/read/watchMouths';
import { sourcesOf } from '../sources';
import type { Work } from './runTask';

/** Frames the pictures of all shorts of a set that are not framed yet: watches who speaks, then follows. The subject is the set. */
export async function frameShorts({ task, signal, progress }: Work): Promise<string | null> {
  const set = task.projectId === null ? null : await findShortSet(task.projectId, task.subject);
  const row = set && (await findMedia(set.mediaId));
  const file = row && (await findFile(row.fileHash));
  const reading = row && (await findBestReading(keyOf(row)));
  let watched = row && (await loadWatched(row));
  if (!set || !row || !file || !reading || !watched)
    return 'The recording of these shorts is not there, so that nothing was framed.';
  const shorts = set.document.shorts.filter((short) => short.reelId !== null);
  const path = await openablePath(keyOf(row), file.storageKey);
  const shots = shotsToWatch(
    watched,
    shorts.flatMap((short) => short.pieces),
    reading.probe.durationSeconds,
  );
  const { width, height } = reading.probe;
  for (const [index, shot] of shots.entries()) {
    await saveMouths(reading, await watchMouths(path, watched.tracks, [shot], height / width, signal));
    progress(((index + 1) / (shots.length + 1)) * 0.7);
  }
  if (shots.length) watched = (await loadWatched(row)) ?? watched;
  const sources = await sourcesOf(set.projectId);
  for (const [index, short] of shorts.entries()) {
    const reel = await openReel(short.reelId!);
    if (!reel) continue;
    const framings = framesFor(
      reel.document.tracks.flatMap((track) => track.items.filter((item) => item.kind === 'clip')),
      shownPieces(reel.document),
      reel.document.size,
    );
    const command = { type: 'framing' as const, framings };
    const result = framings.length ? applyCommand(reel.document, command, sources) : null;
    // Nothing was done to it by hand: then this belongs to how it was made.
    if (result?.ok && !(await replaceFirst(reel.id, result.reel)))
      await saveRevision(reel.id, reel.head, result.reel, command);
    progress(0.7 + (0.3 * (index + 1)) / shorts.length);
    if (signal.aborted) break;
  }
  return null;

  function framesFor(
    clips: readonly Clip[],
    pieces: ReturnType<typeof shownPieces>,
    frame: { width: number; height: number },
  ): { clip: string; framing: Framing }[] {
    return clips
      .filter((clip) => clip.media === row!.id && !clip.framing)
      .flatMap((clip) => {
        const piece = pieces.find((each) => each.clip === clip.id)!;
        const range = framedRange(piece, reading!.probe.durationSeconds);
        const framing = frameStretch(watched!, range, frame, { subject: 'auto', zoom: 1, keys: [] });
        return isFramed(framing, 'fill', watched!.size, frame) ? [{ clip: clip.id, framing }] : [];
      });
  }
}
