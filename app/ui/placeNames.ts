/** The places of a project by their addresses, in the order of the work. */
export const placeNames = [
  ['footage', 'Footage'],
  ['moments', 'Moments'],
  ['reels', 'Reels'],
  ['shorts', 'Shorts'],
  ['music', 'Montage'],
  ['outputs', 'Outputs'],
] as const;
