import { isOrientation, plainCoding, turnsSides, type PictureCoding } from '#core/picture';
import type { StoredProbe } from '#data/schema';
import type { Probe } from '#media/probe/probe';
import { asFilmed } from '#media/probe/shown';

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
    coding: coding && asFilmed(coding),
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
export function codingOfStored(probe: StoredProbe): PictureCoding | null {
  const { coding, kind, orientation, width, height, videoCodec } = probe;
  if (coding !== undefined) return coding;
  if (kind !== 'photo') return null;
  const isJpeg = videoCodec === 'mjpeg';
  const lies = isOrientation(orientation) ? orientation : 1;
  return {
    ...plainCoding,
    still: true,
    ...(turnsSides(lies) ? { width: height, height: width } : { width, height }),
    orientation: lies,
    matrix: isJpeg ? 'bt601' : 'rgb',
    fullRange: isJpeg,
  };
}
