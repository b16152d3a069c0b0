import type { CaptionWay } from '#core/reel';
import { counted } from '#core/sentences';

/** What an editor reads where a reel is made into files. */
export const renderWords = {
  render: 'Render',
  files: 'Files to make',
  asSet: 'As set below',
  asSetSays: 'format, quality and resolution of your own',
  keep: 'Keep as a preset…',
  keepNow: 'Keep',
  presetName: 'Name of the preset',
  removePreset: (name: string) => `Delete the preset “${name}”`,
  removed: (name: string) => `“${name}” is deleted`,
  undo: 'Undo',
  format: 'Format',
  resolution: 'Resolution',
  captions: 'Captions',
  captionWays: { burnt: 'burnt in', beside: 'beside, as SRT', none: 'none' } satisfies Record<CaptionWay, string>,
  range: 'Range',
  whole: 'the whole reel',
  fromPlayhead: 'from the playhead on',
  onlyPiece: (name: string) => `only “${name}”`,
  eachPiece: 'every piece as a file',
  named: 'Named',
  mayHold: (places: readonly string[]) =>
    `It may hold ${places.join(', ')}: the reel's name, what the file is for, the piece's name, its number, the day`,
  doubtful: (count: number) =>
    `${counted(count, 'doubtful word')} would be burnt in. Captions shows ${count === 1 ? 'it' : 'them'}, dotted.`,
  burnDoubtful: 'Burn them in as they are',
  onePicture: 'One picture',
  start: 'Start',
  noneChosen: 'Choose at least one file to make.',
  plainCuts: 'Plain cuts.',
} as const;
