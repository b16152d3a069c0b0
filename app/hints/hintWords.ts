import type { ShortcutName } from '../keys';

/** A hint; what stands in braces is a command, of which the key is shown. */
type Hint = string;

/** What is said of a place at the first visit: what one would not find by looking, at most three. */
export const hints: Readonly<Record<string, readonly Hint[]>> = {
  footage: [
    'Drop files or whole folders anywhere here. Reading begins by itself; work on meanwhile.',
    'Press a file’s name to see what was read in it, and to set how closely it is looked at.',
    'Below the bins are the people: name a face once, and it is found in all files.',
  ],
  moments: [
    'Bright is picked, dim is not. Drag the waterline below, or type a length, and more or less comes up.',
    '{keep} keeps the moment under the playhead, {drop} drops it, {next} goes to the next. By hand beats the machine.',
    'Ask in your own words with {ask}: “the red boat, then applause”.',
  ],
  reels: [
    'A reel is made on Moments with {makeReel}; a cut of other programs is brought in here.',
    'Press a card to open its reel; every change is saved as you make it.',
  ],
  reel: [
    '{trimIn} and {trimOut} trim the piece to the playhead, {split} splits it; drag its edges for the same.',
    'Versions keeps every state, back to the first; nothing you do here is lost.',
    'Viewing makes a link under which others look and comment, without an account.',
  ],
  shorts: [
    'Make shorts from a long recording; each says why it was chosen.',
    '{thumbUp} for more like this one, {thumbDown} for another one in its place.',
  ],
  music: [
    'Choose a piece of music: its beats are heard by themselves, and the slots between them are filled.',
    '{swapSlot} puts the next best piece into a slot, {lockSlot} holds it, {fillAgain} fills the others again.',
    'Beats that may be wrong say so; four taps on {tapBeat} set them right.',
  ],
  outputs: [
    'Files that are made go on being made when you leave, and go on where they stopped after a break.',
    'Download a file, post it to the outlet, or take the whole project along as one file.',
  ],
};

const parts: readonly [RegExp, string][] = [
  [/\/reels\/./, 'reel'],
  [/\/footage$/, 'footage'],
  [/\/(moments|reels|shorts|music|outputs)/, ''],
];

/** The place that an address is of; null where nothing is to be hinted at. */
export function hintPlace(pathname: string): string | null {
  for (const [pattern, place] of parts) {
    const found = pattern.exec(pathname);
    if (found) return place || found[1]!;
  }
  return null;
}

/** Pieces of a hint: what is written, and commands of which the key is shown. */
export const hintParts = (hint: Hint): (string | { command: ShortcutName })[] =>
  hint
    .split(/(\{\w+\})/)
    .filter(Boolean)
    .map((part) => (part.startsWith('{') ? { command: part.slice(1, -1) as ShortcutName } : part));

export const hintWords = {
  here: 'Hints for this place',
  gotIt: 'Got it',
  noMore: 'No more hints',
} as const;

/** Under this name the browser keeps the places of which the hints were read, with commas; `*` is all. */
export const hintsKept = 'bright-reel hints read';
