import type { Range } from '#core/time';

/** What “this” is to every key and button of the page. */
export interface Acting {
  range: Range;
  as: 'marked' | 'scene' | 'chosen' | 'moment';
}

/** Said on screen beside what is acted on. */
export const actingWords: Record<Acting['as'], string> = {
  marked: 'Marked range',
  scene: 'Scene under the playhead',
  chosen: 'Chosen stretch',
  moment: 'Moment under the playhead',
};

/** Seconds by which the playhead may lie beside a stretch and still be in it: places are counted in frames. */
const slack = 0.05;

interface Candidates {
  marked: Range | null;
  scene: Range | null;
  chosen: Range | null;
  moment: Range | null;
}

/**
 * What is marked, wherever the playhead is; else what the viewer shows: the scene, the chosen stretch or the moment that
 * the playhead lies in. A stretch that was chosen and left behind is nothing any more.
 */
export function whatActs({ marked, scene, chosen, moment }: Candidates, playhead: number): Acting | null {
  if (marked) return { range: marked, as: 'marked' };
  if (scene) return { range: scene, as: 'scene' };
  if (chosen && playhead >= chosen.start - slack && playhead <= chosen.end + slack)
    return { range: chosen, as: 'chosen' };
  return moment && { range: moment, as: 'moment' };
}
