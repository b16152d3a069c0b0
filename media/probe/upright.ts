import exifr from 'exifr';

/** How a photo lies: the values of EXIF's tag 0x0112 (CIPA DC-008, 4.6.4), 1 for upright. */
export type Orientation = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8;

/** What brings a picture upright, by its EXIF orientation. */
const byOrientation: Record<Orientation, string> = {
  1: '',
  2: 'hflip,',
  3: 'hflip,vflip,',
  4: 'vflip,',
  5: 'transpose=cclock_flip,',
  6: 'transpose=clock,',
  7: 'transpose=clock_flip,',
  8: 'transpose=cclock,',
};
/** What ffmpeg does by itself where it knows a film's display matrix; degrees anticlockwise. */
const byRotation = new Map([
  [90, 'transpose=cclock,'],
  [180, 'hflip,vflip,'],
  [270, 'transpose=clock,'],
]);

const isOrientation = (value: unknown): value is Orientation =>
  Number.isInteger(value) && Number(value) >= 1 && Number(value) <= 8;

/** Options before the input of a photo: whether ffmpeg turns it by itself differs between its versions. */
export const asItLies = (orientation: number | undefined): string[] =>
  turnsAtAll(orientation) ? ['-noautorotate'] : [];
const turnsAtAll = (orientation: number | undefined): boolean => isOrientation(orientation) && orientation !== 1;

/** Filters, each with a comma behind it, that bring the pictures of a photo upright; with `asItLies` before the input. */
export const uprightPhoto = (orientation: number | undefined): string =>
  isOrientation(orientation) ? byOrientation[orientation] : '';
/** The same for a film whose packets were copied without their display matrix. */
export const uprightFilm = (rotation: number): string => byRotation.get(rotation) ?? '';
/** Whether width and height change places. */
export const turnsSides = (orientation: number | undefined): boolean => (orientation ?? 1) >= 5;

/** How a photo lies, by its EXIF; 1 where it does not say. */
export async function readOrientation(file: string): Promise<Orientation> {
  const value: unknown = await exifr.orientation(file).catch(() => undefined);
  return isOrientation(value) ? value : 1;
}
