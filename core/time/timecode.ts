import { framesPerSecond, type Rate } from './rate';

/** Whether drop-frame timecode exists at a rate. */
export const hasDropFrame = (rate: Rate): boolean => rate.den === 1001 && (rate.num === 30000 || rate.num === 60000);

/**
 * SMPTE ST 12-1 timecode of a frame count. At 30000/1001 (60000/1001) drop-frame counting leaves out labels
 * 00 and 01 (00 to 03) of each minute that is not a multiple of ten; the last separator is then ";".
 * @throws RangeError for negative or fractional frames, or drop counting at a rate that has none.
 */
export function formatTimecode(frame: number, rate: Rate, drop = false): string {
  if (!Number.isInteger(frame) || frame < 0) throw new RangeError(`${frame} is not a frame count`);
  if (drop && !hasDropFrame(rate)) throw new RangeError('drop-frame timecode exists at 29.97 and 59.94 only');
  const nominal = Math.round(framesPerSecond(rate));
  let label = frame;
  if (drop) {
    const dropped = nominal / 15;
    const perTenMinutes = nominal * 600 - dropped * 9;
    const perMinute = nominal * 60 - dropped;
    const tens = Math.floor(frame / perTenMinutes);
    const rest = frame % perTenMinutes;
    label +=
      dropped * 9 * tens + (rest >= nominal * 60 ? dropped * (Math.floor((rest - nominal * 60) / perMinute) + 1) : 0);
  }
  const two = (value: number) => String(value).padStart(2, '0');
  const seconds = Math.floor(label / nominal);
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${drop ? ';' : ':'}${two(label % nominal)}`;
}

/**
 * Frame count of a SMPTE timecode; ";" before the frames means drop-frame.
 * @throws RangeError naming the text when it is no timecode of this rate or a label that drop-frame leaves out.
 */
export function parseTimecode(text: string, rate: Rate): number {
  const match = /^(\d{1,2}):(\d{2}):(\d{2})([:;])(\d{2})$/.exec(text.trim());
  if (!match) throw new RangeError(`"${text}" is not a timecode like 00:01:30:12`);
  const [hours, minutes, seconds, frames] = [match[1], match[2], match[3], match[5]].map(Number) as [
    number,
    number,
    number,
    number,
  ];
  const nominal = Math.round(framesPerSecond(rate));
  const drop = match[4] === ';';
  if (minutes > 59 || seconds > 59 || frames >= nominal)
    throw new RangeError(`"${text}" has a part out of range at ${nominal} frames a second`);
  if (drop && !hasDropFrame(rate))
    throw new RangeError(`"${text}" is drop-frame, which exists at 29.97 and 59.94 only`);
  const label = ((hours * 60 + minutes) * 60 + seconds) * nominal + frames;
  if (!drop) return label;
  const dropped = nominal / 15;
  if (minutes % 10 && seconds === 0 && frames < dropped)
    throw new RangeError(`"${text}" is a label that drop-frame counting leaves out`);
  const totalMinutes = hours * 60 + minutes;
  return label - dropped * (totalMinutes - Math.floor(totalMinutes / 10));
}

/** "4:07" or "1:02:33", with tenths on request. */
export function formatClock(seconds: number, tenths = false): string {
  const unit = tenths ? 10 : 1;
  const total = Math.round(Math.max(0, seconds) * unit);
  const whole = Math.floor(total / unit);
  const two = (value: number) => String(value).padStart(2, '0');
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor(whole / 60) % 60;
  const clock = hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`;
  return tenths ? `${clock}.${total % 10}` : clock;
}

/**
 * Seconds of a time as people write it: "2:30", "90" or "1:00:00".
 * @returns null for anything else, and for more than a day
 */
export function parseClock(text: string): number | null {
  const parts = text.trim().split(':').map(Number);
  if (!text.trim() || parts.length > 3 || parts.some((part) => !Number.isFinite(part) || part < 0)) return null;
  const seconds = parts.reduce((sum, part) => sum * 60 + part, 0);
  return seconds <= 86_400 ? seconds : null;
}
