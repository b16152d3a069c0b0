import type { Source } from '#core/reel';
import type { Item } from '../routes/project';

/** What edits must know of the footage on this screen. */
export const sourcesFor = (items: readonly Item[]): Map<string, Source> =>
  new Map(
    items
      .filter((item) => item.probe)
      .map((item) => [
        item.id,
        {
          id: item.id,
          name: item.name,
          durationSeconds: item.probe!.durationSeconds,
          photo: item.probe!.kind === 'photo',
          soundOnly: item.probe!.kind === 'sound',
        },
      ]),
  );
