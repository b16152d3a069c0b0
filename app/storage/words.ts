import { counted, formatSize } from '#core/sentences';
import type { FreeableKind, StorageData } from '#usecases/room';

/** What the place says that shows what takes how much room. */
export const storageWords = {
  title: 'Storage',
  back: 'All projects',
  free: (bytes: number) => `${formatSize(bytes)} free`,
  reserve: (bytes: number) => `${formatSize(bytes)} of it are kept for the database and the logs.`,
  full: 'The disk is full. Uploads are refused and work waits until there is room; nothing that was saved is lost.',
  used: {
    footage: 'Footage',
    readings: 'Thumbnails and proxies',
    finished: 'Finished files',
    uploads: 'Uploads on their way or broken off',
    making: 'Files in the making',
  } satisfies Record<keyof StorageData['used'], string>,
  canBeFreed: 'What can be freed',
  freeable: {
    projects: (count: number) => `${counted(count, 'deleted project')}`,
    takenOut: (count: number) => `${counted(count, 'file')} taken out of projects`,
    uploads: (count: number) => `${counted(count, 'upload')} broken off`,
    unreferred: (count: number) => `${counted(count, 'file')} that nothing refers to`,
  } satisfies Record<FreeableKind, (count: number) => string>,
  hint: {
    projects: (days: number) => `They can be brought back, and go for good after ${days} days.`,
    takenOut: (days: number) =>
      `They can be brought back, and go for good after ${days} days. Those that a reel needs stay.`,
    uploads: (_: number, days: number) => `They can go on where they stopped, and are deleted after ${days} days.`,
    unreferred: () => 'Left over from what was deleted; they are deleted within the hour.',
  } satisfies Record<FreeableKind, (deleted: number, uploads: number) => string>,
  freeNow: 'Free now',
  question: {
    projects: 'Delete these projects for good?',
    takenOut: 'Delete these files for good?',
    uploads: 'Delete these uploads?',
    unreferred: 'Delete these files?',
  } satisfies Record<FreeableKind, string>,
  says: 'They cannot be brought back afterwards.',
  nothing: 'There is nothing to free.',
  freed: (bytes: number) => `${formatSize(bytes)} freed.`,
  byProject: 'By project',
  project: 'Project',
  room: 'Footage and finished files',
  deleted: 'deleted',
};
