import {
  coarse,
  findBestReading,
  findEarlierReading,
  loadRaw,
  readingFolder,
  saveReading,
  type ReadingKey,
} from '#data/readings';
import { storage } from '#data/storage';
import { readerVersion } from '#core/readings';

/**
 * Until a file is read anew by this reader, what an earlier one measured stands in its place, decided by today's rules:
 * moments, pictures and choices are there at once after an upgrade. It is kept as a rough reading and goes when the whole
 * one is there.
 * @returns whether it stands in now
 */
export async function lendEarlierReading(key: ReadingKey): Promise<boolean> {
  if (await findBestReading(key)) return false;
  const row = await findEarlierReading(key);
  const raw = row && (await loadRaw(key, row.version));
  if (!row || !raw) return false;
  const { version, probe, sheets, proxyKey, loudness, warnings, tookSeconds } = row;
  const names = Array.from({ length: sheets?.count ?? 0 }, (_, at) => `sheet-${String(at + 1).padStart(4, '0')}.jpg`);
  const sizes = await Promise.all(names.map((name) => storage().size(`${readingFolder(key, version)}/${name}`)));
  // Where its pictures have vanished, the numbers stand in without them.
  const isWhole = !sizes.includes(null);
  for (const name of isWhole ? names : []) {
    const from = await storage().localPath(`${readingFolder(key, version)}/${name}`);
    await storage().adopt(`${readingFolder(coarse(key))}/${name}`, from, { copy: true });
  }
  await saveReading({
    ...coarse(key),
    version: readerVersion,
    probe,
    raw,
    sheets: isWhole ? sheets : null,
    proxyKey,
    loudness,
    warnings,
    tookSeconds,
  });
  return true;
}
