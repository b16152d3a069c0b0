import type { Aim } from '#usecases/beginnings';

/** What the first screen says. */
export const homeWords = {
  question: 'What do you want to make?',
  doors: {
    reel: {
      title: 'Highlight reel',
      line: 'The best moments of everything, to a length, in an order that tells what happened.',
    },
    shorts: {
      title: 'Shorts',
      line: 'Upright clips out of one long recording, each with a beginning and an end of its own.',
    },
    montage: { title: 'Montage', line: 'Pictures cut to a song, on its beats, denser where it is fuller.' },
  } satisfies Record<Aim, { title: string; line: string }>,
  choose: 'Choose files',
  bring: {
    reel: 'films and photos',
    shorts: 'one recording',
    montage: 'a song, films and photos',
  } satisfies Record<Aim, string>,
  drop: 'Or drop footage, photos, music and whole folders anywhere on this screen, and decide later.',
  dropHere: (aim: Aim | null) =>
    aim === null
      ? 'Drop to begin a project'
      : `Drop to make ${aim === 'shorts' ? 'shorts' : `a ${homeWords.doors[aim].title.toLowerCase()}`}`,
  chooseFolder: 'Choose a folder',
  empty: 'Empty project',
  work: 'Work',
  storage: 'Storage',
  speechModels: 'Words',
  emptyName: 'Name of the project',
  create: 'Create',
  nothingTaken: 'None of these files is a film, a photo or a sound that can be read. Nothing was begun.',
  away: 'The server cannot be reached. Nothing was begun; try again in a moment.',
  projects: 'Projects',
  search: 'Find a project',
  noneFound: (text: string) => `No project is called “${text}”.`,
  sort: 'Sort by',
  sorts: { changed: 'last change', name: 'name', length: 'length' },
  shelves: { active: 'Current', away: 'Put away', removed: 'Deleted' },
  emptyShelf: {
    active: 'No projects yet. Choose what you want to make, or drop files here.',
    away: 'Nothing is put away.',
    removed: 'Nothing was deleted.',
  },
  demo: 'Demo',
  demoHint: 'Made-up footage to try everything on',
  menu: (name: string) => `What can be done with ${name}`,
  rename: 'Rename',
  copy: 'Duplicate',
  putAway: 'Put away',
  takeOut: 'Take out again',
  remove: 'Delete',
  bringBack: 'Bring back',
  removed: (name: string) => `“${name}” is deleted. It can be brought back from “Deleted”.`,
  wasPutAway: (name: string) => `“${name}” is put away.`,
  undo: 'Undo',
  nothingIn: 'Nothing in it yet',
  allRead: 'All read',
  someRead: (read: number, all: number) => `${read} of ${all} read`,
  unreadable: (count: number) => `${count} cannot be read`,
} as const;
