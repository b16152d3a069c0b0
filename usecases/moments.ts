import { defaultVariety, sceneTags, type SceneBoard, type SeparationChoice } from '#core/moments';
import type { VariantSet } from '#core/variants';
import { listDecisions, removeDecision, saveDecision } from '#data/decisions';
import {
  listMarkers,
  listRecipes,
  loadBoard,
  loadPick,
  removeMarker,
  removeRecipe,
  saveBoard,
  saveDefaults,
  saveMarker,
  savePick,
  saveRecipe,
  type BoardKind,
  type Boards,
  type Marker,
  type OwnRecipe,
  type Pick,
  type Versioned,
} from '#data/log';
import { findMedia } from '#data/media';
import { isId, listBins } from '#data/projects';
import { openReel, reelNames } from '#data/reels';
import type { MarkerKind, SilenceChoice } from '#data/schema';
import {
  DecisionDto,
  DefaultsDto,
  MarkerDto,
  PickDto,
  RecipeDto,
  SceneBoardDto,
  SeparationDto,
  SilenceChoiceDto,
} from './forms/dto';
import { VariantSetDto } from './forms/variantsDto';
import { openProject } from './openProject';
import { conflict, done, refused, type Conflict, type Result, type ValueOf } from './result';
import { check, plain } from './validate';

export type { Boards, Marker, MarkerKind, OwnRecipe, Pick, SilenceChoice, Versioned };

/** The Moments place. @param reelId of the reel that is open below the page */
export async function showMoments(projectId: string, reelId: string | null) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const [decisions, markers, recipes, pick, scenes, silence, separation, bins, reels, reel] = await Promise.all([
    listDecisions(projectId),
    listMarkers(projectId),
    listRecipes(projectId),
    loadPick(projectId),
    loadBoard(projectId, 'scenes'),
    loadBoard(projectId, 'silence'),
    loadBoard(projectId, 'separation'),
    listBins(projectId),
    reelNames(projectId),
    reelId ? openReel(reelId) : null,
  ]);
  return done({
    notes: { decisions, markers, recipes, pick, scenes, silence, separation },
    bins,
    reels,
    reel: reel?.projectId === projectId ? reel : null,
  });
}
export type MomentsData = ValueOf<typeof showMoments>;

/** A change of the decision log; a null value takes it away. */
export interface NoteChange {
  kind?: string | undefined;
  id?: string | undefined;
  value?: unknown;
  /** That the sender knows, of what has one. */
  version?: unknown;
}
/** The version after it, of what has one. */
export type NoteAnswer = Result<{ version?: number }> | Conflict<{ value: unknown; version: number }>;

/**
 * Saves what an editor decides and notes, as it is made. Each change may arrive twice without harm. The mix and the
 * arrangements of views have a version: when another window was quicker, that is a conflict with what stands there.
 */
export async function saveNote(projectId: string, change: NoteChange | null): Promise<NoteAnswer> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const { kind, id, value, version } = change ?? {};
  switch (kind) {
    case 'decision':
      return value === null ? take(id, () => removeDecision(projectId, id!)) : saveOne(projectId, DecisionDto, value);
    case 'marker':
      return value === null ? take(id, () => removeMarker(projectId, id!)) : saveOne(projectId, MarkerDto, value);
    case 'recipe':
      return value === null ? take(id, () => removeRecipe(projectId, id!)) : saveOwnRecipe(projectId, value);
    case 'defaults':
      return saveDefaultRange(projectId, id, value);
    case 'pick':
      return saveMix(projectId, value, versionOf(version));
    case 'scenes':
    case 'silence':
    case 'separation':
    case 'variants':
      return saveArrangement(projectId, kind, value, versionOf(version));
    default:
      return refused('Nothing to save.', 'kind');
  }
}

const versionOf = (given: unknown): number => (Number.isInteger(given) ? (given as number) : 0);
const changedElsewhere = 'This was changed in another window.';

async function take(id: string | undefined, remove: () => Promise<unknown>): Promise<NoteAnswer> {
  if (!isId(id)) return refused('There is no such thing.', 'id');
  await remove();
  return done({});
}

async function saveOne(
  projectId: string,
  dto: typeof DecisionDto | typeof MarkerDto,
  value: unknown,
): Promise<NoteAnswer> {
  const checked = check<DecisionDto | MarkerDto>(dto, value);
  if (!checked.ok) return checked;
  const note = checked.value;
  if ((await findMedia(note.media))?.projectId !== projectId)
    return refused('This footage is not in the project any more.', 'media');
  if (note instanceof DecisionDto) await saveDecision(projectId, note);
  else await saveMarker(projectId, note);
  return done({});
}

async function saveOwnRecipe(projectId: string, value: unknown): Promise<NoteAnswer> {
  const checked = check(RecipeDto, value);
  if (!checked.ok) return checked;
  await saveRecipe(projectId, checked.value);
  return done({});
}

async function saveDefaultRange(projectId: string, id: string | undefined, value: unknown): Promise<NoteAnswer> {
  const checked = check(DefaultsDto, { in: null, out: null, ...(value as object), id });
  if (!checked.ok) return checked;
  const { id: media, in: from = null, out: to = null } = checked.value;
  if (from !== null && to !== null && to <= from) return refused('The out point must lie after the in point.', 'out');
  await saveDefaults(projectId, media, from, to);
  return done({});
}

async function saveMix(projectId: string, value: unknown, version: number): Promise<NoteAnswer> {
  const checked = check(PickDto, value);
  if (!checked.ok) return checked;
  const {
    targetSeconds = null,
    water = null,
    variety = defaultVariety,
    arrangement = 'story',
    ...rest
  } = checked.value;
  const saved = await savePick(projectId, { ...rest, targetSeconds, water, variety, arrangement }, version);
  return saved === null ? conflict(changedElsewhere, await loadPick(projectId)) : done({ version: saved });
}

async function saveArrangement(
  projectId: string,
  kind: BoardKind,
  value: unknown,
  version: number,
): Promise<NoteAnswer> {
  const checked = arrangements[kind](value);
  if (!checked.ok) return checked;
  const saved = await saveBoard(projectId, kind, checked.value, version);
  return saved === null ? conflict(changedElsewhere, await loadBoard(projectId, kind)) : done({ version: saved });
}

const arrangements: { [Kind in BoardKind]: (value: unknown) => Result<Boards[Kind]> } = {
  scenes: checkScenes,
  silence: checkSilence,
  separation: checkSeparation,
  variants: checkVariants,
};

function checkScenes(value: unknown): Result<SceneBoard> {
  const checked = check(SceneBoardDto, value);
  if (!checked.ok) return checked;
  const known = Object.values(checked.value.tags).every((tag) => (sceneTags as readonly string[]).includes(tag));
  return known ? done(checked.value as SceneBoard) : refused('There is no such tag.', 'tags');
}
function checkSilence(value: unknown): Result<SilenceChoice> {
  const checked = check(SilenceChoiceDto, value);
  return checked.ok ? done({ ...checked.value, thresholdDb: checked.value.thresholdDb ?? null }) : checked;
}
function checkSeparation(value: unknown): Result<SeparationChoice> {
  const checked = check(SeparationDto, value);
  if (!checked.ok) return checked;
  const { inPlace = null, last = null, ...rule } = checked.value;
  return done({ ...rule, inPlace, last: last && { steady: last.steady ?? null, shaky: last.shaky ?? null } });
}
function checkVariants(value: unknown): Result<VariantSet> {
  const checked = check(VariantSetDto, value);
  if (!checked.ok) return checked;
  const { size = null, rate = null, ...rest } = plain(checked.value);
  const set = { ...rest, size, rate } as VariantSet;
  const known = new Set(set.groups.map(({ id }) => id));
  return set.order.every((id) => known.has(id)) ? done(set) : refused('There is no such group.', 'order');
}
