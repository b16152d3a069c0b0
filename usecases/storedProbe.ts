import { isOrientation, plainCoding, type PictureCoding } from '#core/picture';
import type { StoredProbe } from '#data/schema';
import type { Probe } from '#media/probe/probe';

/** What the database keeps of what a file is. */
export function storedProbe(info: Probe): StoredProbe {
  const { kind, durationSeconds, rate, width, height, coding, hasSound, soundTracks, videoCodec, audioCodec } = info;
  const { format, startTimecode, startSeconds, reelName, recordedAt } = info;
  return {
    kind,
    durationSeconds,
    rate,
    width,
    height,
    coding,
    ...(info.copied ? { copied: true } : {}),
    hasSound,
    soundTracks,
    videoCodec,
    audioCodec,
    format,
    startTimecode,
    startSeconds,
    reelName,
    recordedAt,
  };
}

/** How the pictures are coded by what was noted of them; of what an earlier version read, which noted of photos how they lie. */
export function codingOfStored({ coding, orientation, width, height }: StoredProbe): PictureCoding | null {
  if (coding !== undefined) return coding;
  return isOrientation(orientation) ? { ...plainCoding, still: true, width, height, orientation } : null;
}
