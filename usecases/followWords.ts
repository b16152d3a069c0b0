import { reasonAfter, titleAfter } from '#core/shorts';
import { sentences, type Word } from '#core/words';
import type { MediaRow } from '#data/media';
import { renameThroughout } from '#data/reels';
import type { StoredShort } from '#data/schema';
import { changeShortSet, listShortSets } from '#data/shorts';

/**
 * Titles and reasons of shorts follow words that were corrected, where they rest on them; a title that was typed by hand
 * stays.
 */
export async function followWords(row: MediaRow, before: readonly Word[], after: readonly Word[]): Promise<void> {
  const sets = (await listShortSets(row.projectId)).filter(({ mediaId }) => mediaId === row.id);
  if (sets.length === 0) return;
  const [said, says] = [sentences(before), sentences(after)];
  const followed = (short: StoredShort, taken: ReadonlySet<string>): StoredShort => ({
    ...short,
    title: titleAfter(short.title, short.pieces, said, says, taken) ?? short.title,
    reason: reasonAfter(short.reason, short.pieces, said, says) ?? short.reason,
  });
  for (const { id } of sets) {
    const renamed: { reelId: string; from: string; to: string }[] = [];
    await changeShortSet(id, (document) => {
      const taken = new Set(document.shorts.map(({ title }) => title));
      return {
        ...document,
        shorts: document.shorts.map((short) => {
          const now = followed(short, taken);
          if (now.title !== short.title && short.reelId)
            renamed.push({ reelId: short.reelId, from: short.title, to: now.title });
          return now;
        }),
      };
    });
    for (const { reelId, from, to } of renamed) await renameThroughout(reelId, from, to);
  }
}
