/** The language and the manner of everything that people read: English, with days before months. */
const locale = 'en-GB';

const formats = new Map<string, Intl.NumberFormat>();
function format(least: number, most: number): Intl.NumberFormat {
  const key = `${least} ${most}`;
  let own = formats.get(key);
  if (!own) {
    own = new Intl.NumberFormat(locale, { minimumFractionDigits: least, maximumFractionDigits: most });
    formats.set(key, own);
  }
  return own;
}

/** With so many digits after the point: “1,234.50”. */
export const decimal = (value: number, digits: number): string => format(digits, digits).format(value);

/** With no more digits than it needs, and so many at the most: “25”, “29.97”. */
export const upTo = (value: number, digits: number): string => format(0, digits).format(value);

const units = ['B', 'KB', 'MB', 'GB', 'TB'];

/** An amount of data, in powers of a thousand as storage is sold: “4.2 GB”. */
export function formatSize(bytes: number): string {
  const power = Math.min(units.length - 1, Math.floor(Math.log10(Math.max(1, bytes)) / 3));
  const value = bytes / 1000 ** power;
  return `${decimal(value, power === 0 || value >= 100 ? 0 : 1)} ${units[power]}`;
}

/** How long something will take still, as exactly as one wants to know: “40 s left”, “12 min 5 s left”. */
export function formatTimeLeft(seconds: number): string {
  if (seconds < 60) return `${Math.max(1, Math.round(seconds))} s left`;
  const minutes = Math.floor(seconds / 60);
  return minutes < 60
    ? `${minutes} min ${Math.round(seconds % 60)} s left`
    : `${Math.floor(minutes / 60)} h ${minutes % 60} min left`;
}

const moment = new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeStyle: 'short' });
const day = new Intl.DateTimeFormat(locale, { dateStyle: 'medium' });
const longDay = new Intl.DateTimeFormat(locale, { dateStyle: 'long' });
const clock = new Intl.DateTimeFormat(locale, { timeStyle: 'short' });
type When = Date | string | number;

/** A day and a time of it: “29 Nov 2026, 14:05”. */
export const formatMoment = (at: When): string => moment.format(new Date(at));
/** “29 Nov 2026”. */
export const formatDay = (at: When): string => day.format(new Date(at));
/** “29 November 2026”. */
export const formatLongDay = (at: When): string => longDay.format(new Date(at));
/** “14:05”. */
export const formatTimeOfDay = (at: When): string => clock.format(new Date(at));
