import { reasonAfter, titleAfter } from '#core/shorts';
import { sentences, type Word } from '#core/words';
import type { MediaRow } from '#data/media';
import { renameThroughout } from '#data/reels';
import type { StoredShort } from '#data/schema';
import { changeShortSet, listShortSets } from '#data/shorts';
import { loadTranscript } from '#data/words';

/**
 * Does something after which other words of items may be shown (they were heard again, or another text took their place), and
 * has titles and reasons of their shorts follow.
 */
export async function followingWords<T>(rows: readonly MediaRow[], change: () => Promise<T>): Promise<T> {
  const before = await Promise.all(
    rows.map(async (row) => {
      const sets = await listShortSets(row.projectId);
      return sets.some(({ mediaId }) => mediaId === row.id) ? (await loadTranscript(row)).words : null;
    }),
  );
  const result = await change();
  for (const [at, row] of rows.entries()) {
    const [was, now] = [before[at], (await loadTranscript(row)).words];
    if (was && JSON.stringify(was) !== JSON.stringify(now)) await followWords(row, was, now);
  }
  return result;
}

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
