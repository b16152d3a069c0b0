/** Parts of addresses by what tells of them, the more exact ones first. */
const pages: readonly [RegExp, string][] = [
  [/\/footage\/people/, 'footage'],
  [/\/footage\/./, 'readings'],
  [/\/footage/, 'footage'],
  [/\/moments/, 'moments'],
  [/\/variants/, 'reels#variants'],
  [/\/reels/, 'reels'],
  [/\/shorts/, 'shorts'],
  [/\/music/, 'montage'],
  [/\/outputs/, 'outputs'],
];

/** The page of the handbook that tells of a place. */
export const helpFor = (pathname: string): string =>
  `/handbook/${pages.find(([place]) => place.test(pathname))?.[1] ?? 'home'}`;
