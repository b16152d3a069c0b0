import exifr from 'exifr';
import { isOrientation, type Orientation } from '#core/picture';

/** Filters, each with a comma behind it, that bring a picture upright. */
export const turns: Readonly<Record<Orientation, string>> = {
  1: '',
  2: 'hflip,',
  3: 'hflip,vflip,',
  4: 'vflip,',
  5: 'transpose=cclock_flip,',
  6: 'transpose=clock,',
  7: 'transpose=clock_flip,',
  8: 'transpose=cclock,',
};
/** How a photo lies, by its EXIF; 1 where it does not say. */
export async function readOrientation(file: string): Promise<Orientation> {
  const value: unknown = await exifr.orientation(file).catch(() => undefined);
  return isOrientation(value) ? value : 1;
}

/** When a photo was taken, by its EXIF (a file, or EXIF alone), as ISO 8601; null where it does not say. */
export async function takenAt(source: string | Buffer): Promise<string | null> {
  const tags = (await exifr
    .parse(source, { pick: ['DateTimeOriginal', 'OffsetTimeOriginal', 'CreateDate'], reviveValues: false })
    .catch(() => undefined)) as
    Partial<Record<'DateTimeOriginal' | 'OffsetTimeOriginal' | 'CreateDate', string>> | undefined;
  const text = tags?.DateTimeOriginal ?? tags?.CreateDate ?? '';
  const match = /^(\d{4}):(\d{2}):(\d{2}) (\d{2}):(\d{2}):(\d{2})/.exec(text);
  if (!match) return null;
  const [, year, month, day, hour, minute, second] = match;
  const iso = `${year}-${month}-${day}T${hour}:${minute}:${second}`;
  const offset = /^([+-]\d{2}:\d{2})/.exec(tags?.OffsetTimeOriginal ?? '')?.[1] ?? '';
  return Number.isNaN(Date.parse(`${iso}Z`)) ? null : `${iso}${offset}`;
}
