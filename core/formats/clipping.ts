import { applyCommand, takeUp, transferPieces, type Carried, type Reel, type Source } from '#core/reel';
import { readOtio, writeOtio } from './otio';
import { relink, type SourceInfo } from './source';

/** A reel with nothing in it, for pieces on their way. */
const emptyReel = (rate: Carried['rate']): Reel => ({
  schema: 'BrightReel.Reel.1',
  name: 'Copied pieces',
  rate,
  size: { width: 1920, height: 1080 },
  tracks: [{ kind: 'picture', name: 'Main', items: [] }],
});

/**
 * Pieces that were taken up as an OpenTimelineIO timeline: one after the other, with their linked sounds. Everything that
 * belongs to a piece goes along, as in the document of a reel.
 * @returns null when nothing is carried
 */
export function writeCarried(
  carried: Carried,
  sources: ReadonlyMap<string, Source & SourceInfo>,
  makeId: () => string,
): string | null {
  const empty = emptyReel(carried.rate);
  const command = transferPieces(carried, empty, 'append', 0, makeId);
  const put = command && applyCommand(empty, command, sources);
  return put?.ok ? writeOtio(put.reel, [...sources.values()]) : null;
}

/**
 * Pieces out of an OpenTimelineIO timeline, ours or another's.
 * @returns the pieces whose sources are known, and the names of those that are not
 * @throws FormatError for what is no timeline
 */
export function readCarried(
  text: string,
  sources: ReadonlyMap<string, SourceInfo>,
  makeId: () => string,
): { carried: Carried; missing: string[] } {
  const { reel, missing } = relink(readOtio(text, makeId), [...sources.values()]);
  const ids = reel.tracks.flatMap(({ items }) => items.flatMap((item) => (item.kind === 'clip' ? [item.id] : [])));
  return { carried: takeUp(reel, new Set(ids)), missing };
}
