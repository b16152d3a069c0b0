/** Sizes and times as people read them. */
export function formatSize(bytes: number): string {
  const units = ['B', 'KB', 'MB', 'GB', 'TB'];
  const power = Math.min(units.length - 1, Math.floor(Math.log10(Math.max(1, bytes)) / 3));
  const value = bytes / 1000 ** power;
  return `${power === 0 || value >= 100 ? Math.round(value) : value.toFixed(1)} ${units[power]}`;
}

export function formatTimeLeft(seconds: number): string {
  if (seconds < 60) return `${Math.max(1, Math.round(seconds))} s left`;
  const minutes = Math.floor(seconds / 60);
  return minutes < 60
    ? `${minutes} min ${Math.round(seconds % 60)} s left`
    : `${Math.floor(minutes / 60)} h ${minutes % 60} min left`;
}

const dateAndTime = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });
/** A day and a time of it, in the reader's own way. */
export const formatMoment = (at: Date | string | number): string => dateAndTime.format(new Date(at));
