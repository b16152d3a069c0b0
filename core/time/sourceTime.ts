import type { RecordingLabels } from './labels';
import { framesPerSecond, framesToSeconds, secondsToFrames, type Rate } from './rate';
import { formatTimecode, hasDropFrame, parseTimecode } from './timecode';

/** Where a recording begins by the count of the camera or recorder. */
export interface SourceStart {
  /** Null for sound that counts in samples. */
  timecode: string | null;
  /** The same in seconds after midnight. */
  seconds: number;
  /** Of the camera; null for sound. */
  rate: Rate | null;
}

/** Where a recording begins by its labels; null where they do not say. */
export const sourceStartOf = (
  probe: Partial<Pick<RecordingLabels, 'startTimecode' | 'startSeconds'>> & { rate?: Rate | null },
): SourceStart | null =>
  probe.startSeconds === null || probe.startSeconds === undefined
    ? null
    : { timecode: probe.startTimecode ?? null, seconds: probe.startSeconds, rate: probe.rate ?? null };

const isSame = (a: Rate, b: Rate): boolean => a.num * b.den === b.num * a.den;
const daySeconds = 86_400;

/** The count with which a recording begins, in frames of a rate. */
export const startFrames = (start: SourceStart | null | undefined, rate: Rate): number =>
  !start
    ? 0
    : start.timecode && start.rate && isSame(start.rate, rate)
      ? parseTimecode(start.timecode, rate)
      : secondsToFrames(start.seconds, rate);

/** The label of a frame after midnight, which comes round after a day. */
function label(frame: number, rate: Rate, drop: boolean): string {
  const nominal = Math.round(framesPerSecond(rate));
  const day = daySeconds * nominal - (drop ? (nominal / 15) * 9 * 144 : 0);
  return formatTimecode(((frame % day) + day) % day, rate, drop);
}

/**
 * The labels that the first frame of a stretch of a recording bears, and the frame behind its last. A list of another rate
 * gets the camera's own label, with its last part in the list's count: the second is then the camera's, which is what
 * finds the frame.
 * @param frames from the first of the recording, in frames of the list
 * @param length of the stretch, in frames of the list
 * @param rate of the list
 * @param drop whether the list counts drop-frame; for recordings without a count of their own
 */
export function sourceTimecodes(
  start: SourceStart | null | undefined,
  frames: number,
  length: number,
  rate: Rate,
  drop = false,
): [from: string, until: string] {
  const both = (count: number, isDrop: boolean): [string, string] => [
    label(count, rate, isDrop),
    label(count + length, rate, isDrop),
  ];
  if (!start?.timecode || !start.rate) return both(startFrames(start, rate) + frames, drop);
  const isDrop = start.timecode.includes(';');
  if (isSame(start.rate, rate)) return both(startFrames(start, rate) + frames, isDrop);
  const own = label(
    parseTimecode(start.timecode, start.rate) + secondsToFrames(framesToSeconds(frames, rate), start.rate),
    start.rate,
    isDrop,
  );
  const [hours, minutes, seconds, part] = own.split(/[:;]/).map(Number) as [number, number, number, number];
  const nominal = Math.round(framesPerSecond(rate));
  const scaled = Math.floor((part * nominal) / Math.round(framesPerSecond(start.rate)) + 1e-9);
  return both(((hours * 60 + minutes) * 60 + seconds) * nominal + scaled, false);
}

/**
 * The frame of a recording that bears a label, from its first, in frames of the list: the inverse of `sourceTimecodes`. Null
 * when the text is no timecode of the list.
 */
export function framesAtTimecode(start: SourceStart, code: string, rate: Rate): number | null {
  const nominal = Math.round(framesPerSecond(rate));
  try {
    if (!start.timecode || !start.rate || isSame(start.rate, rate)) {
      const drop = code.includes(';');
      const day = daySeconds * nominal - (drop ? (nominal / 15) * 9 * 144 : 0);
      const frames = parseTimecode(code, rate) - startFrames(start, rate);
      return frames < 0 && frames + day < day / 2 ? frames + day : frames;
    }
    const own = Math.round(framesPerSecond(start.rate));
    // Rounded up, as the label was rounded down.
    const part = Math.min(own - 1, Math.ceil((Number(code.split(/[:;]/).at(-1)) * own) / nominal - 1e-9));
    const drop = start.timecode.includes(';') && hasDropFrame(start.rate);
    const text = `${code.slice(0, 8)}${drop ? ';' : ':'}${String(part).padStart(2, '0')}`;
    const frames = parseTimecode(text, start.rate) - parseTimecode(start.timecode, start.rate);
    return secondsToFrames(framesToSeconds(frames, start.rate), rate);
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** Seconds from the first frame of a recording to where it bears a label, with or without frames; null when the text is none. */
export function secondsAtTimecode(start: SourceStart, code: string): number | null {
  const [hours, minutes, seconds, part] = code.split(/[:;.]/).map(Number);
  if ([hours, minutes, seconds].some((value) => value === undefined || Number.isNaN(value))) return null;
  const two = (value: number) => String(value).padStart(2, '0');
  const rate = start.rate;
  if (!start.timecode || !rate) return hours! * 3600 + minutes! * 60 + seconds! + (part ?? 0) / 25 - start.seconds;
  const isDrop = start.timecode.includes(';');
  // Labels that drop-frame counting leaves out stand for the next one.
  const least = isDrop && minutes! % 10 && seconds === 0 ? Math.round(framesPerSecond(rate)) / 15 : 0;
  const clock = `${two(hours!)}:${two(minutes!)}:${two(seconds!)}`;
  const frames = framesAtTimecode(start, `${clock}${isDrop ? ';' : ':'}${two(Math.max(least, part ?? 0))}`, rate);
  return frames === null ? null : framesToSeconds(frames, rate);
}
