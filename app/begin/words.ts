import { counted } from '#core/sentences';
import type { Aim } from '#usecases/beginnings';

const makes = { reel: 'a highlight reel', shorts: 'shorts', montage: 'a montage' } satisfies Record<Aim, string>;

/** What the screen says on which a project is begun with files. */
export const beginWords = {
  question: 'What do you want to make of it?',
  makes,
  making: (aim: Aim) => `Making ${makes[aim]}`,
  change: 'Make something else',
  steps: {
    files: 'Files',
    look: 'First look',
    beats: 'Beats',
    make: { reel: 'Reel', shorts: 'Shorts', montage: 'Pictures on the beats' } satisfies Record<Aim, string>,
  },
  noFiles:
    'No file is here yet. Drop the files here, or choose them again; an interrupted upload goes on where it stopped.',
  arrived: (count: number) => `${counted(count, 'file')} here`,
  arriving: (arrived: number, all: number, left: string | null) =>
    `${arrived} of ${all} here${left === null ? '' : `, ${left}`}`,
  stopped: (count: number) => `${counted(count, 'file')} did not arrive; the Footage place says why.`,
  seen: (seen: number, all: number) => `${seen} of ${all} looked at`,
  unreadable: (count: number) => `${count} cannot be read`,
  refining: (left: string) => `The rest is read, ${left}`,
  beatsOf: (song: string) => `Listening to “${song}”`,
  beatsFound: (song: string) => `Found in “${song}”`,
  needsSong: 'A montage is cut to a song, and none of these files is one. Add a song here; it begins by itself then.',
  needsPictures: {
    reel: 'None of these files is a film or a photo. Add some here; it begins by itself then.',
    shorts: 'Shorts are found in a film, and none of these files is one. Add one here; it begins by itself then.',
    montage: 'A montage needs films or photos besides the song. Add some here; it begins by itself then.',
  } satisfies Record<Aim, string>,
  made: {
    reel: 'The best moments are put in an order',
    shorts: 'Looking for pieces that stand on their own',
    montage: 'Choosing a picture for every cut',
  } satisfies Record<Aim, string>,
  waits: 'Waits for the steps before',
  now: 'Begin with what is here',
  add: 'Add files',
  again: 'Try again',
  toFootage: 'To the footage',
  more: (count: number) => `and ${count} more`,
  isRead: 'Everything is read now; what was made came from a first look.',
  makeAgain: { reel: 'Choose the pieces again', shorts: 'Find the shorts again', montage: '' } satisfies Record<
    Aim,
    string
  >,
  keep: 'Keep it as it is',
} as const;
