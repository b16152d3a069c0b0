import { randomUUID } from 'node:crypto';
import { mainTrack, reelFrames, type Reel } from '#core/reel';
import { framesToSeconds } from '#core/time';
import {
  framedParts,
  listVariants,
  mostMade,
  namesTwice,
  partFootage,
  toFrame,
  variantNames,
  variantReel,
  workOutParts,
  type PartFootage,
  type VariantSet,
} from '#core/variants';
import { listDecisions } from '#data/decisions';
import { listMarkers, loadBoard, loadPick } from '#data/log';
import { listMedia } from '#data/media';
import { isId, listBins } from '#data/projects';
import { createReels, listReels, openReel } from '#data/reels';
import { listRenders } from '#data/tasks';
import { MakeVariantsDto } from './forms/variantsDto';
import { frameStretches } from './framing';
import { openProject } from './openProject';
import { paceFrom } from './pace';
import { renderReels } from './renders';
import { conflict, done, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

/** The place of variants: the groups as they were saved, and everything that can be put into them. */
export async function showVariants(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const [set, reels, bins, markers, decisions, pick, renders] = await Promise.all([
    loadBoard(projectId, 'variants'),
    listReels(projectId),
    listBins(projectId),
    listMarkers(projectId),
    listDecisions(projectId),
    loadPick(projectId),
    listRenders(projectId),
  ]);
  const used = reelsIn(set.value);
  const filled = reels.filter(({ document }) => mainTrack(document).items.length > 0);
  return done({
    set,
    reels: filled.map(({ id, document: { name, rate, size }, document }) => ({
      id,
      name,
      size,
      seconds: framesToSeconds(reelFrames(document), rate),
    })),
    /** Those that stand in the groups; others are asked for when they come to. */
    documents: filled.filter(({ id }) => used.has(id)).map(({ id, document }) => ({ id, document })),
    bins: bins.map(({ id, name }) => ({ id, name })),
    markers,
    kept: decisions.filter(({ verdict }) => verdict === 'keep'),
    photoSeconds: pick.value.photoSeconds,
    pieceSeconds: pick.value.piece.preferredSeconds,
    pace: await paceFrom(renders),
  });
}
export type VariantsData = ValueOf<typeof showVariants>;

type Parts = ReturnType<typeof workOutParts>;

const reelsIn = ({ groups }: VariantSet): Set<string> =>
  new Set(groups.flatMap(({ parts }) => parts.flatMap((part) => (part.kind === 'reel' ? [part.reel] : []))));

/** Documents of reels of a project, as many of them as are there. */
export async function openReels(projectId: string, ids: readonly string[]): Promise<{ id: string; document: Reel }[]> {
  const opened = await Promise.all([...new Set(ids)].filter(isId).map((id) => openReel(id)));
  return opened.flatMap((reel) => (reel?.projectId === projectId ? [{ id: reel.id, document: reel.document }] : []));
}

async function footageOf(projectId: string, set: VariantSet): Promise<PartFootage> {
  const [items, bins, reels, pick] = await Promise.all([
    listMedia(projectId),
    listBins(projectId),
    openReels(projectId, [...reelsIn(set)]),
    loadPick(projectId),
  ]);
  const documents = new Map(reels.map(({ id, document }) => [id, document]));
  return partFootage(items, bins, documents, pick.value.photoSeconds);
}

/** What fills a frame of another shape follows what matters in it. */
async function frameParts(projectId: string, parts: Parts, footage: PartFootage): Promise<Parts> {
  const wanted = [...toFrame(parts, footage)];
  if (wanted.length === 0) return parts;
  const framings = await frameStretches(
    projectId,
    wanted.map(([, stretch]) => stretch),
    parts.format.size,
  );
  return framedParts(parts, footage, new Map(wanted.map(([key], index) => [key, framings[index]!])));
}

/**
 * Makes a reel of every combination that is ticked in the set as it was saved, and renders them if that is wished.
 * @returns how many were made, and whether they are rendered
 */
export async function makeVariants(
  projectId: string,
  given: unknown,
): Promise<Result<{ made: number; rendered: boolean }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(MakeVariantsDto, given);
  if (!checked.ok) return checked;
  const { version, render, quality } = checked.value;
  const { value: set, version: saved } = await loadBoard(projectId, 'variants');
  if (saved !== version)
    return conflict('The groups were changed in another window. Look at them again before you make variants.', null);
  const footage = await footageOf(projectId, set);
  const worked = listVariants(set, await frameParts(projectId, workOutParts(set, footage, randomUUID), footage));
  const wanted = worked.list.filter(({ ticked }) => ticked);
  if (wanted.length === 0) return refused('Nothing is ticked. Tick the combinations that are to be made.', 'ticks');
  if (wanted.length > mostMade)
    return refused(`${wanted.length} are ticked. At most ${mostMade} are made at once.`, 'ticks');
  const names = variantNames(worked, set.pattern, footage);
  const [twice] = namesTwice(names);
  if (twice) return refused(`Two variants would be called “${twice}”. Put {n} into the pattern.`, 'pattern');
  const made = await createReels(
    projectId,
    wanted.map((variant) => variantReel(names.get(variant.key)!, variant, worked, set.music, footage, randomUUID)),
  );
  if (!render) return done({ made: made.length, rendered: false });
  const rendered = await renderReels(projectId, made, { shape: null, lines: null, quality, pattern: '{title}' });
  return rendered.ok ? done({ made: made.length, rendered: true }) : rendered;
}
