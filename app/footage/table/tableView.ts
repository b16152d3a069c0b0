export const columnIds = [
  'picture',
  'name',
  'length',
  'format',
  'bin',
  'recorded',
  'added',
  'size',
  'faces',
  'talk',
  'shaky',
  'read',
] as const;
export type ColumnId = (typeof columnIds)[number];

const usuallyHidden: readonly ColumnId[] = ['bin', 'recorded', 'added', 'size', 'faces', 'talk', 'shaky'];

/** Pixels that a column takes; those that are not here share what is left, with this at least. */
export const columnWidths: Partial<Record<ColumnId, number>> = {
  length: 80,
  format: 140,
  bin: 130,
  recorded: 150,
  added: 150,
  size: 84,
  faces: 68,
  talk: 68,
  shaky: 76,
};
export const leastWidths = { name: 200, read: 236 } as const;

/** Width and height of the pictures, in pixels. */
export const posterSizes = { small: [64, 36], medium: [96, 54], large: [192, 108] } as const;
export type PosterSize = keyof typeof posterSizes;

/** How somebody looks at the table: which columns are hidden, how large the pictures are. */
export interface TableView {
  hidden: readonly ColumnId[];
  poster: PosterSize;
}

export const usualView: TableView = { hidden: usuallyHidden, poster: 'medium' };

/** @param text as the browser keeps it; what is not understood is as usual */
export function readView(text: string): TableView {
  try {
    const { hidden, poster } = JSON.parse(text) as Partial<Record<keyof TableView, unknown>>;
    return {
      hidden: Array.isArray(hidden) ? columnIds.filter((id) => id !== 'name' && hidden.includes(id)) : usualView.hidden,
      poster: typeof poster === 'string' && Object.hasOwn(posterSizes, poster) ? (poster as PosterSize) : 'medium',
    };
  } catch {
    return usualView;
  }
}

/** Shown or hidden. */
export const withColumn = (view: TableView, column: ColumnId, shown: boolean): TableView => ({
  ...view,
  hidden: shown ? view.hidden.filter((id) => id !== column) : [...view.hidden, column],
});
