import { runsOf } from '#core/readings';
import { firstTrack, speechRuns, type SoundChoice } from '#core/sound';
import { overlap, type Range } from '#core/time';
import { MediaError } from '#media/process';
import { voiceOf } from '#media/nets/voiceDetector';
import { probe } from '#media/probe/probe';
import { findBestReading, loadDerived, parseParameters, type ReadingKey } from '#data/readings';
import { storage } from '#data/storage';

/** Where somebody speaks in what an item shows of a file. */
export interface SpeechOfFile {
  speech: Range[];
  /** Where music plays, as far as that is known. */
  music: Range[];
  durationSeconds: number;
  /** What of its sound is heard. */
  sound: SoundChoice;
  /** Of the task's time, what was spent on listening for it. */
  spent: number;
}

/** Of the time that hearing, aligning and telling apart take, what it takes to find the speech first. */
const listeningShare = 0.15;

/**
 * Where somebody speaks: as the reading says, or found now where nothing has been read yet, or only points of the file were
 * looked at. Nobody who waits for words waits for pictures.
 * @throws MediaError when it has no sound
 */
export async function speechOf(
  key: ReadingKey,
  file: { storageKey: string },
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<SpeechOfFile> {
  const [derived, reading] = await Promise.all([loadDerived(key), findBestReading(key)]);
  const { range, sound: wanted } = parseParameters(key.parameters);
  const sound = wanted ?? reading?.probe.heard ?? firstTrack;
  if (derived && reading?.probe.glancedEvery === undefined)
    return {
      speech: runsOf(derived.runs, 'speech'),
      music: runsOf(derived.runs, 'music'),
      durationSeconds: derived.durationSeconds,
      sound,
      spent: 0,
    };
  const local = await storage().localPath(file.storageKey);
  const { durationSeconds, hasSound } = await probe(local);
  if (!hasSound) throw new MediaError('This file has no sound, so nothing can be heard in it.');
  const voice = await voiceOf(local, sound, signal, (seconds) =>
    onProgress(listeningShare * Math.min(1, seconds / Math.max(1, durationSeconds))),
  );
  const found = speechRuns(voice.values, voice.hz, durationSeconds);
  return {
    speech: range ? within(found, range) : found,
    music: [],
    durationSeconds,
    sound,
    spent: listeningShare,
  };
}

const within = (runs: readonly Range[], range: Range): Range[] =>
  runs
    .filter((run) => overlap(run, range) > 0)
    .map(({ start, end }) => ({ start: Math.max(start, range.start), end: Math.min(end, range.end) }));
