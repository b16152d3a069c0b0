import { mergeRanges, totalLength } from '#core/time';
import { counted, decimal } from '#core/sentences';
import { loudnessFloor } from '#core/sound';
import { runsOf, type Derived } from './types';

/** What a table says of a file. */
export interface ReadingSummary {
  /** Largest number of faces seen at once for at least a second. */
  faces: number;
  speechShare: number;
  /** Share of the length that has music; missing in older readings. */
  musicShare?: number;
  shakySeconds: number;
  movingSeconds: number;
  flawedSeconds: number;
  scenes: number;
}

/** The summary of a reading; seconds are whole seconds that something is true of. */
export function summarize({ traces, runs, hz, durationSeconds }: Omit<Derived, 'tint'>): ReadingSummary {
  const seconds = new Map<number, number>();
  for (const count of traces.faces)
    for (let faces = 1; faces <= count; faces++) seconds.set(faces, (seconds.get(faces) ?? 0) + 1 / hz);
  return {
    faces: Math.max(
      0,
      ...[...seconds].filter(([, length]) => length >= Math.min(1, durationSeconds)).map(([faces]) => faces),
    ),
    speechShare: durationSeconds ? totalLength(runsOf(runs, 'speech')) / durationSeconds : 0,
    musicShare: durationSeconds ? totalLength(runsOf(runs, 'music')) / durationSeconds : 0,
    shakySeconds: totalLength(runsOf(runs, 'shaky')),
    movingSeconds: totalLength(runsOf(runs, 'smooth', 'whip')),
    flawedSeconds: totalLength(mergeRanges(runsOf(runs, 'black', 'frozen', 'blurred'))),
    scenes: runsOf(runs, 'scene').length,
  };
}

/** "-18.2 LUFS"; a recording in which nothing reaches the gate of the measurement (−70 LUFS, ITU-R BS.1770-4) is silent. */
export const loudnessWords = (lufs: number): string => (lufs <= loudnessFloor ? 'silent' : `${decimal(lufs, 1)} LUFS`);

/** A recording with at least so much speech and less music is somebody talking, no song that is sung. */
const spoken = 0.3,
  hardlyMusic = 0.3;

/** Whether a sound recording is speech, which nobody cuts to or lays under a reel as music; what has not been read yet is not called so. */
export const isSpeech = (summary: Pick<ReadingSummary, 'speechShare' | 'musicShare'> | null): boolean =>
  summary !== null && summary.speechShare >= spoken && (summary.musicShare ?? 1) < hardlyMusic;

/** "2 faces · 61 % talk · 12 s shaky"; of what a kind of footage can have: a sound has no picture, a photo no time. */
export function summarySentence(summary: ReadingSummary, kind: 'video' | 'photo' | 'sound' = 'video'): string {
  if (kind === 'photo') return summary.faces ? counted(summary.faces, 'face') : 'no faces';
  if (kind === 'sound') {
    if (!isSpeech(summary) && (summary.musicShare ?? 0) >= hardlyMusic) return 'music';
    return summary.speechShare > 0.1 ? `${Math.round(summary.speechShare * 100)} % talk` : 'music or sound';
  }
  const parts = [
    summary.faces ? counted(summary.faces, 'face') : '',
    summary.speechShare > 0.02 ? `${Math.round(summary.speechShare * 100)} % talk` : '',
    summary.movingSeconds >= 0.4 ? `${Math.max(1, Math.round(summary.movingSeconds))} s camera moves` : '',
    summary.shakySeconds >= 0.5 ? `${Math.round(summary.shakySeconds)} s shaky` : '',
    summary.flawedSeconds >= 0.5 ? `${Math.round(summary.flawedSeconds)} s flawed` : '',
    summary.scenes > 1 ? `${summary.scenes} scenes` : '',
  ].filter(Boolean);
  return parts.join(' · ') || 'still camera, nobody in frame';
}
