import { hasDropFrame, parseTimecode, type Rate, type RecordingLabels } from '#core/time';
import { boxContents } from './boxes';

export type Tags = Readonly<Record<string, string>>;

/** Several letter cases and names are in use. */
const find = (all: readonly Tags[], names: readonly string[]): string | null => {
  for (const name of names)
    for (const tags of all) {
      const key = Object.keys(tags).find((each) => each.toLowerCase() === name);
      const value = key === undefined ? '' : tags[key]!.trim();
      if (value) return value;
    }
  return null;
};

/**
 * What the tags of a file tell of when and on what it was recorded: QuickTime's timecode track, MXF's packages, DV and
 * MPEG headers, `time_reference` of broadcast wave files (EBU Tech 3285), and XMP.
 * @param all tags of the streams and of the file, the more telling first
 */
export async function recordingLabels(
  file: string,
  all: readonly Tags[],
  rate: Rate | null,
  sampleRate: number | null,
  isBoxed: boolean,
): Promise<RecordingLabels> {
  const xmp = isBoxed ? await xmpOf(file) : null;
  const coded = usable(find(all, ['timecode']), rate) ?? usable(xmp?.timecode ?? null, rate);
  const reference = Number(find(all, ['time_reference']) ?? NaN);
  const startSeconds =
    coded && rate
      ? (parseTimecode(coded, rate) * rate.den) / rate.num
      : Number.isFinite(reference) && reference > 0 && sampleRate
        ? reference / sampleRate
        : null;
  return {
    startTimecode: coded,
    startSeconds,
    reelName: clean(find(all, ['reel_name', 'com.apple.quicktime.reel', 'tape', 'reel'])) ?? clean(xmp?.reel ?? null),
    recordedAt: recordedAt(all),
  };
}

/** A timecode that exists at the rate, as we write it; null for anything else. */
function usable(text: string | null, rate: Rate | null): string | null {
  const match = /^(\d{1,2})[:;.](\d{2})[:;.](\d{2})([:;.,])(\d{2,3})$/.exec(text?.trim() ?? '');
  if (!match || !rate) return null;
  const [, hours, minutes, seconds, before, frames] = match as unknown as [
    string,
    string,
    string,
    string,
    string,
    string,
  ];
  const drop = before !== ':' && hasDropFrame(rate);
  const code = `${hours.padStart(2, '0')}:${minutes}:${seconds}${drop ? ';' : ':'}${frames.slice(-2)}`;
  try {
    parseTimecode(code, rate);
    return code;
  } catch {
    return null;
  }
}

const clean = (name: string | null): string | null =>
  // eslint-disable-next-line no-control-regex
  name
    ?.replace(/[\u0000-\u001f\u007f]/g, '')
    .trim()
    .slice(0, 64) || null;

/** Dates before digital cameras are what a clock says that was never set. */
const firstYear = 1990;
function recordedAt(all: readonly Tags[]): string | null {
  const day = find(all, ['date', 'origination_date']);
  const clock = find(all, ['creation_time', 'origination_time']);
  for (const text of [
    find(all, ['com.apple.quicktime.creationdate']),
    clock,
    day && clock && `${day}T${clock}`,
    find(all, ['modification_date']),
    day,
  ]) {
    const iso = text && isoTime(text);
    if (iso) return iso;
  }
  return null;
}

/** A date as files write it, with or without a time and an offset; null for anything else. */
function isoTime(text: string): string | null {
  const match =
    /^(\d{4})[-:](\d{2})[-:](\d{2})(?:[T ](\d{2})[:-](\d{2})[:-](\d{2}))?(?:\.\d+)?\s*(Z|[+-]\d{2}:?\d{2})?$/.exec(
      text,
    );
  if (!match || Number(match[1]) < firstYear) return null;
  const [, year, month, date, hour = '00', minute = '00', second = '00', zone = ''] = match;
  const iso = `${year}-${month}-${date}T${hour}:${minute}:${second}`;
  const offset = zone.replace(/^([+-]\d{2})(\d{2})$/, '$1:$2');
  return Number.isNaN(Date.parse(`${iso}Z`)) ? null : `${iso}${offset}`;
}

const xmpId = Buffer.from('be7acfcb97a942e89c71999491e3afac', 'hex');
/** XMP of a movie (ISO 16684-3: a box of the type `uuid`, or QuickTime's in `moov/udta`). */
async function xmpOf(file: string): Promise<{ timecode: string | null; reel: string | null } | null> {
  const packets = [
    ...(await boxContents(file, 'uuid'))
      .filter((each) => each.subarray(0, 16).equals(xmpId))
      .map((each) => each.subarray(16)),
    ...(await boxContents(file, 'moov/udta/XMP_')),
  ];
  const text = packets[0]?.toString('utf8');
  if (!text) return null;
  const value = (name: RegExp) => {
    const found = name.exec(text);
    return found?.[1] ?? found?.[2] ?? null;
  };
  const start = /startTimecode[\s\S]*?(?:timeValue="([^"]+)"|timeValue>([^<]+)<)/i;
  return { timecode: value(start), reel: value(/tapeName(?:="([^"]+)"|>([^<]+)<)/i) };
}
