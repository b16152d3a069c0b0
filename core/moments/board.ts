import { runsOf } from '#core/readings';
import type { Range } from '#core/time';
import type { Footage } from './types';

/** Tags for scenes, each a colour and a shape. */
export const sceneTags = ['sun', 'leaf', 'brick', 'wave', 'plum'] as const;
/** A colour and a shape, for whatever an editor wants them to mean. */
export type SceneTag = (typeof sceneTags)[number];

/** Scenes as an editor arranged them. Only what differs from the reading is kept, so a new reading does not undo it. */
export interface SceneBoard {
  /** Boundaries put in, and boundaries of the reading taken away, in seconds of their file. */
  cuts: { media: string; at: number }[];
  joined: { media: string; at: number }[];
  /** By scene key. */
  tags: Record<string, SceneTag>;
  /** Scene keys in the wanted order; scenes not named follow the one they follow in the footage. */
  order: string[];
}

/** A board on which nothing was changed by hand. */
export const emptyBoard: SceneBoard = { cuts: [], joined: [], tags: {}, order: [] };

/** A scene as the board shows it, in seconds of its file. */
export interface SceneCell extends Range {
  /** File and start; the same as long as the scene begins at the same place. */
  key: string;
  media: string;
  tag: SceneTag | null;
}

/** Boundaries this close are the same one, in seconds. */
const same = 0.06;
const near = (list: SceneBoard['cuts'], media: string, at: number) =>
  list.some((each) => each.media === media && Math.abs(each.at - at) < same);
const keyOf = (media: string, start: number) => `${media}@${start.toFixed(2)}`;

/** One cell per scene, in the board's order. */
export function sceneCells(footage: readonly Footage[], board: SceneBoard): SceneCell[] {
  const natural = footage.flatMap((file): SceneCell[] => {
    const read = runsOf(file.runs, 'scene')
      .map((scene) => scene.start)
      .filter((at) => at > same && at < file.durationSeconds - same && !near(board.joined, file.id, at));
    const added = board.cuts
      .filter(
        (cut) =>
          cut.media === file.id &&
          cut.at > same &&
          cut.at < file.durationSeconds - same &&
          !read.some((at) => Math.abs(at - cut.at) < same),
      )
      .map((cut) => cut.at);
    const edges = [0, ...[...read, ...added].sort((a, b) => a - b), file.durationSeconds];
    return edges.slice(1).map((end, index) => {
      const start = edges[index]!;
      const key = keyOf(file.id, start);
      return { key, media: file.id, start, end, tag: board.tags[key] ?? null };
    });
  });
  const place = new Map(board.order.map((key, index) => [key, index]));
  let last = -1;
  return natural
    .map((cell, index) => ({ cell, index, at: (last = place.get(cell.key) ?? last) }))
    .sort((a, b) => a.at - b.at || a.index - b.index)
    .map(({ cell }) => cell);
}

const without = (list: SceneBoard['cuts'], media: string, at: number) =>
  list.filter((each) => each.media !== media || Math.abs(each.at - at) >= same);

/** Joins a scene with the one after it in its file. The same board when it is the file's last. */
export function joinScene(board: SceneBoard, cell: SceneCell, durationSeconds: number): SceneBoard {
  const { media, end: at } = cell;
  if (at >= durationSeconds - same) return board;
  if (near(board.cuts, media, at)) return { ...board, cuts: without(board.cuts, media, at) };
  return { ...board, joined: [...board.joined, { media, at }] };
}

/** Parts a scene in two. The same board when `at` is at its edge. */
export function partScene(board: SceneBoard, cell: SceneCell, at: number): SceneBoard {
  if (at <= cell.start + same || at >= cell.end - same) return board;
  if (near(board.joined, cell.media, at)) return { ...board, joined: without(board.joined, cell.media, at) };
  const here = board.order.indexOf(cell.key);
  const order = here < 0 ? board.order : board.order.toSpliced(here + 1, 0, keyOf(cell.media, at));
  return { ...board, cuts: [...board.cuts, { media: cell.media, at }], order };
}

/** Tags a scene; the tag it has already comes off. */
export function tagScene(board: SceneBoard, key: string, tag: SceneTag): SceneBoard {
  const { [key]: now, ...others } = board.tags;
  return { ...board, tags: now === tag ? others : { ...others, [key]: tag } };
}

/** Puts a scene before another, or at the end when `before` is null. */
export function moveScene(
  board: SceneBoard,
  cells: readonly SceneCell[],
  key: string,
  before: string | null,
): SceneBoard {
  if (key === before) return board;
  const rest = cells.map((cell) => cell.key).filter((each) => each !== key);
  const at = before === null ? rest.length : rest.indexOf(before);
  return at < 0 ? board : { ...board, order: rest.toSpliced(at, 0, key) };
}
