import { framesPerSecond } from '#core/time';
import type { ReelCommand } from './commands';
import { reelFrames, type Reel, type Title } from './types';

/** How long opening and end stand, in seconds; a reel that is shorter than three times that gets none. Common practice, no source. */
const titleSeconds = 3;

/** What titles of a theme say at first. */
export interface TitleWords {
  /** Name of what the reel is about. */
  project: string;
  /** When it was filmed, as people write it. */
  day: string;
}

/**
 * The opening and the end that a theme brings along, with words to begin with; a kind of which the reel has one already
 * stays as it is.
 */
export function themeTitles(reel: Reel, { project, day }: TitleWords, newId: () => string): ReelCommand[] {
  const total = reelFrames(reel);
  const frames = Math.round(titleSeconds * framesPerSecond(reel.rate));
  if (total < 3 * frames) return [];
  const wanted: Omit<Title, 'id'>[] = [
    { kind: 'opening', frame: 0, frames, text: project, sub: day },
    { kind: 'end', frame: total - frames, frames, text: 'The end', sub: `${project}, ${day}` },
  ];
  const has = new Set(reel.titles?.map(({ kind }) => kind));
  return wanted
    .filter(({ kind }) => !has.has(kind))
    .map((title) => ({ type: 'title', title: { ...title, id: newId() } }));
}
