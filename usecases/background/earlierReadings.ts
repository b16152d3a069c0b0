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
  for (let sheet = 1; sheet <= (sheets?.count ?? 0); sheet++) {
    const name = `sheet-${String(sheet).padStart(4, '0')}.jpg`;
    const from = await storage().localPath(`${readingFolder(key, version)}/${name}`);
    await storage().adopt(`${readingFolder(coarse(key))}/${name}`, from, { copy: true });
  }
  await saveReading({
    ...coarse(key),
    version: readerVersion,
    probe,
    raw,
    sheets,
    proxyKey,
    loudness,
    warnings,
    tookSeconds,
  });
  return true;
}
