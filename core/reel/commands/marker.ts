import type { ReelMarker } from '../types';
import { done, type Edit } from './edit';

/** A new marker, or another state of one that is there. */
export interface Mark {
  type: 'mark';
  marker: ReelMarker;
}
export const mark: Edit<Mark> = {
  apply(reel, { marker }) {
    const others = (reel.markers ?? []).filter(({ id }) => id !== marker.id);
    return done({ ...reel, markers: [...others, marker].sort((a, b) => a.frame - b.frame) });
  },
  says: () => 'set a marker',
};

export interface Unmark {
  type: 'unmark';
  id: string;
}
export const unmark: Edit<Unmark> = {
  apply: (reel, { id }) => done({ ...reel, markers: (reel.markers ?? []).filter((marker) => marker.id !== id) }),
  says: () => 'took a marker away',
};
