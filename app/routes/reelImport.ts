import { randomUUID } from 'node:crypto';
import { data } from 'react-router';
import { FormatError, readEdl, readOtio, relink } from '#core/formats';
import { clipsOf, settleTransitions } from '#core/reel';
import { rates } from '#core/time';
import { createReel } from '#data/reels';
import { ImportReelDto } from '../forms/dto';
import { requireProject } from '../server/project.server';
import { documentSources, sourcesOf } from '../server/reel.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/reelImport';

/**
 * Makes a reel of an OpenTimelineIO file or a CMX 3600 list. Sources are found by content, then by name; while some are
 * not found the answer names them, and nothing is made until each was chosen or left out.
 */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const checked = check(ImportReelDto, await request.json().catch(() => null));
  if (!checked.ok)
    return data({ problem: Object.values(checked.problems)[0]!, missing: [], left: [], reel: null }, { status: 422 });
  const { text, name, rate, chosen, anyway } = checked.value;
  try {
    const foreign =
      /\.edl$/i.test(name) || !text.trimStart().startsWith('{')
        ? readEdl(text, rates[rate], randomUUID)
        : readOtio(text, randomUUID);
    // Ids of another reel must not be taken for those of this one.
    const fresh = {
      ...foreign,
      name: foreign.name.slice(0, 120),
      tracks: foreign.tracks.map((track) => ({
        ...track,
        items: track.items.map((item) => ({ ...item, id: randomUUID() })),
      })),
      ...(foreign.markers ? { markers: foreign.markers.map((marker) => ({ ...marker, id: randomUUID() })) } : {}),
      ...(foreign.titles ? { titles: foreign.titles.map((title) => ({ ...title, id: randomUUID() })) } : {}),
    };
    const { reel, missing } = relink(fresh, await documentSources(project.id), chosen ?? {});
    if (missing.length > 0 && !anyway) return { problem: null, missing, left: foreign.left, reel: null };
    if (clipsOf(reel).length === 0)
      return data(
        {
          problem: 'None of its footage is in this project. Bring in the footage first.',
          missing,
          left: foreign.left,
          reel: null,
        },
        { status: 422 },
      );
    const settled = settleTransitions(reel, await sourcesOf(project.id));
    return {
      problem: null,
      missing: [],
      left: [...foreign.left, ...(settled.note ? [settled.note] : [])],
      reel: await createReel(project.id, settled.reel),
    };
  } catch (error) {
    if (error instanceof FormatError)
      return data({ problem: error.message, missing: [], left: [], reel: null }, { status: 422 });
    throw error;
  }
}
