import { and, asc, eq, isNull } from 'drizzle-orm';
import {
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  defaultVariety,
  emptyBoard,
  photoSeconds,
  separationChoice,
  type Recipe,
  type SceneBoard,
  type SeparationChoice,
} from '#core/moments';
import { emptyVariants, type VariantSet } from '#core/variants';
import { database } from './db';
import { present } from './media';
import { boards, markers, media, picks, recipes, type MarkerKind, type SilenceChoice } from './schema';

/** What an editor notes while looking through the footage. Ids come from the browser, so that saving twice after a lost answer does no harm. */

export interface Marker {
  id: string;
  media: string;
  seconds: number;
  note: string;
  kind: MarkerKind;
}

export async function listMarkers(projectId: string): Promise<Marker[]> {
  const rows = await database()
    .select()
    .from(markers)
    .where(and(eq(markers.projectId, projectId), isNull(markers.removedAt), present(markers.mediaId)))
    .orderBy(asc(markers.createdAt));
  return rows.map(({ id, mediaId, seconds, note, kind }) => ({ id, media: mediaId, seconds, note, kind }));
}

export async function saveMarker(
  projectId: string,
  { id, media: mediaId, seconds, note, kind }: Marker,
): Promise<void> {
  const row = { mediaId, seconds, note, kind, removedAt: null };
  await database()
    .insert(markers)
    .values({ id, projectId, ...row })
    .onConflictDoUpdate({ target: markers.id, set: row, setWhere: eq(markers.projectId, projectId) });
}

export const removeMarker = (projectId: string, id: string) =>
  database()
    .update(markers)
    .set({ removedAt: new Date() })
    .where(and(eq(markers.projectId, projectId), eq(markers.id, id)));

export type OwnRecipe = Recipe & { id: string };

export async function listRecipes(projectId: string): Promise<OwnRecipe[]> {
  const rows = await database()
    .select()
    .from(recipes)
    .where(and(eq(recipes.projectId, projectId), isNull(recipes.removedAt)))
    .orderBy(asc(recipes.createdAt));
  return rows.map(({ id, name, mix, limits, piece, variety }) => ({ id, name, mix, limits, piece, variety }));
}

export async function saveRecipe(projectId: string, { id, ...recipe }: OwnRecipe): Promise<void> {
  const row = { ...recipe, removedAt: null };
  await database()
    .insert(recipes)
    .values({ id, projectId, ...row })
    .onConflictDoUpdate({ target: recipes.id, set: row, setWhere: eq(recipes.projectId, projectId) });
}

export const removeRecipe = (projectId: string, id: string) =>
  database()
    .update(recipes)
    .set({ removedAt: new Date() })
    .where(and(eq(recipes.projectId, projectId), eq(recipes.id, id)));

/** What of an item is wanted at all; null for its own ends. */
export const saveDefaults = (projectId: string, id: string, from: number | null, to: number | null) =>
  database()
    .update(media)
    .set({ defaultIn: from, defaultOut: to })
    .where(and(eq(media.projectId, projectId), eq(media.id, id)));

export type Pick = Omit<typeof picks.$inferSelect, 'projectId' | 'updatedAt' | 'moments' | 'version'>;

/** A document with its version; somebody who saves says which version he changed. */
export interface Versioned<T> {
  value: T;
  version: number;
}

export async function loadPick(projectId: string): Promise<Versioned<Pick>> {
  const [row] = await database().select().from(picks).where(eq(picks.projectId, projectId));
  if (!row)
    return {
      version: 0,
      value: {
        mix: defaultMix,
        limits: defaultLimits,
        piece: defaultPieceLength,
        variety: defaultVariety,
        arrangement: 'story',
        targetSeconds: null,
        water: null,
        learning: { on: true, forgotten: [] },
        photoSeconds,
      },
    };
  const {
    mix,
    limits,
    piece,
    variety,
    arrangement,
    targetSeconds,
    water,
    learning,
    photoSeconds: photos,
    version,
  } = row;
  return {
    version,
    value: { mix, limits, piece, variety, arrangement, targetSeconds, water, learning, photoSeconds: photos },
  };
}

/** @returns the new version, or null when somebody else saved since `version` */
export async function savePick(projectId: string, pick: Pick, version: number): Promise<number | null> {
  const row = { ...pick, updatedAt: new Date(), version: version + 1 };
  return upsert(
    version === 0
      ? database()
          .insert(picks)
          .values({ projectId, ...row })
          .onConflictDoUpdate({ target: picks.projectId, set: row, setWhere: eq(picks.version, 0) })
          .returning({ version: picks.version })
      : database()
          .update(picks)
          .set(row)
          .where(and(eq(picks.projectId, projectId), eq(picks.version, version)))
          .returning({ version: picks.version }),
  );
}

const upsert = async (saving: PromiseLike<{ version: number }[]>): Promise<number | null> =>
  (await saving)[0]?.version ?? null;

export interface Boards {
  scenes: SceneBoard;
  silence: SilenceChoice;
  separation: SeparationChoice;
  variants: VariantSet;
}
export type BoardKind = keyof Boards;

/** Half a second of quiet is a pause of speech; a fifth is left at both ends for a breath. Common practice, no source. */
const silenceDefaults: SilenceChoice = { thresholdDb: null, minSeconds: 0.8, padSeconds: 0.2, kept: [] };
const emptyBoards: Boards = {
  scenes: emptyBoard,
  silence: silenceDefaults,
  separation: separationChoice,
  variants: emptyVariants,
};

export async function loadBoard<Kind extends BoardKind>(
  projectId: string,
  kind: Kind,
): Promise<Versioned<Boards[Kind]>> {
  const [row] = await database()
    .select()
    .from(boards)
    .where(and(eq(boards.projectId, projectId), eq(boards.kind, kind)));
  return {
    value: (row?.document ?? emptyBoards[kind]) as Boards[Kind],
    version: row?.version ?? 0,
  };
}

/** @returns the new version, or null when somebody else saved since `version` */
export async function saveBoard(
  projectId: string,
  kind: BoardKind,
  document: Boards[BoardKind],
  version: number,
): Promise<number | null> {
  const own = and(eq(boards.projectId, projectId), eq(boards.kind, kind));
  return upsert(
    version === 0
      ? database()
          .insert(boards)
          .values({ projectId, kind, document, version: 1 })
          .onConflictDoNothing()
          .returning({ version: boards.version })
      : database()
          .update(boards)
          .set({ document, version: version + 1 })
          .where(and(own, eq(boards.version, version)))
          .returning({ version: boards.version }),
  );
}
