import { randomUUID } from 'node:crypto';
import { FormatError, readEdl, readOtio, relink } from '#core/formats';
import { clipsOf, settleTransitions } from '#core/reel';
import { rates } from '#core/time';
import { createReel } from '#data/reels';
import { ImportReelDto } from './forms/dto';
import { openProject } from './openProject';
import { done, refused, type Result } from './result';
import { sourcesOf } from './sources';
import { check } from './validate';

type Foreign = ReturnType<typeof readOtio>;
export interface ImportedReel {
  /** Sources that were not found; while there are any nothing is made, unless it was asked for anyway. */
  missing: ReturnType<typeof relink>['missing'];
  /** What the document has and a reel has not, in sentences. */
  left: string[];
  reel: string | null;
}

/**
 * Makes a reel of an OpenTimelineIO file or a CMX 3600 list. Sources are found by content, then by name; those that are
 * not found are named, and each is chosen or left out.
 */
export async function importReel(projectId: string, given: unknown): Promise<Result<ImportedReel>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(ImportReelDto, given);
  if (!checked.ok) return checked;
  const { chosen, anyway } = checked.value;
  const read = readForeign(checked.value);
  if (!read.ok) return read;
  const foreign = read.value;
  const sources = await sourcesOf(projectId);
  const { reel, missing } = relink(withFreshIds(foreign), [...sources.values()], chosen ?? {});
  if (missing.length > 0 && !anyway) return done({ missing, left: foreign.left, reel: null });
  if (clipsOf(reel).length === 0) return refused('None of its footage is in this project. Bring in the footage first.');
  const settled = settleTransitions(reel, sources);
  const left = settled.note ? [...foreign.left, settled.note] : foreign.left;
  return done({ missing: [], left, reel: await createReel(projectId, settled.reel) });
}

function readForeign({ text, name, rate }: ImportReelDto): Result<Foreign> {
  const isEdl = /\.edl$/i.test(name) || !text.trimStart().startsWith('{');
  try {
    return done(isEdl ? readEdl(text, rates[rate], randomUUID) : readOtio(text, randomUUID));
  } catch (error) {
    if (error instanceof FormatError) return refused(error.message, 'text');
    throw error;
  }
}

/** Ids of another reel must not be taken for those of this one. */
function withFreshIds(foreign: Foreign): Foreign {
  const fresh = <T extends { id: string }>(list: readonly T[]): T[] =>
    list.map((each) => ({ ...each, id: randomUUID() }));
  return {
    ...foreign,
    name: foreign.name.slice(0, 120),
    tracks: foreign.tracks.map((track) => ({ ...track, items: fresh(track.items) })),
    ...(foreign.markers ? { markers: fresh(foreign.markers) } : {}),
    ...(foreign.titles ? { titles: fresh(foreign.titles) } : {}),
  };
}
