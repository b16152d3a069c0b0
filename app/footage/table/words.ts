import type { ColumnId, PosterSize } from './tableView';
import type { Showing } from './showing';

/** What is written at the table of footage. */
export const tableWords = {
  columns: {
    picture: 'Picture',
    name: 'Name',
    length: 'Length',
    format: 'Format',
    bin: 'Bin',
    recorded: 'Recorded',
    added: 'Brought in',
    size: 'Size',
    faces: 'Faces',
    talk: 'Talk',
    shaky: 'Shaky',
    read: 'What was read',
  } satisfies Record<ColumnId, string>,
  view: 'View',
  viewHint: 'Columns, and size of the pictures',
  pictures: 'Pictures',
  posters: { small: 'Small pictures', medium: 'Medium pictures', large: 'Large pictures' } satisfies Record<
    PosterSize,
    string
  >,
  filter: 'Filter by name',
  show: 'Show',
  showing: {
    all: 'Show everything',
    videos: 'Only videos',
    photos: 'Only photos',
    sound: 'Only sound and music',
    unread: 'Only what is not read',
    problems: 'Only what has a problem',
  } satisfies Record<Showing, string>,
  noneShown: 'Nothing here fits the filter.',
  showAll: 'Show everything',
  chooseAll: 'Choose all',
  sortBy: (column: string) => `Sort by ${column.toLowerCase()}`,
  rename: 'Rename',
  newName: 'New name, without its ending',
  renamed: (name: string) => `Renamed to “${name}”.`,
  undo: 'Undo',
  menu: {
    report: 'Reading report',
    moments: 'Show in Moments',
    move: 'Move to bin',
    noBin: 'No bin',
    read: 'Try reading again',
    range: 'Reading range…',
    look: 'Input look…',
    takeOut: 'Take out…',
  },
} as const;
