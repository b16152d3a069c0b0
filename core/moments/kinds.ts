import { runsOf } from '#core/readings';
import { coveredSeconds, lengthOf, type Range } from '#core/time';
import { meanIngredients, type Prepared } from './score';
import type { MomentKind } from './types';

/** From so many faces on it is a group. */
const groupFaces = 3;

/** What sort of moment any stretch is, by what is strongest in it. */
export function kindOf(prepared: Prepared, range: Range): MomentKind {
  const { footage } = prepared;
  if (footage.whole) return 'photo';
  if (coveredSeconds(range, runsOf(footage.runs, 'speech')) > lengthOf(range) / 2) return 'talk';
  const means = meanIngredients(prepared, range.start, range.end);
  if (means.sound > 0.25) return 'reaction';
  if (means.action > 0.35) return 'action';
  if (means.camera > 0.35) return 'camera';
  const faces = usualFaces(prepared, range);
  return faces >= groupFaces ? 'group' : faces > 0 ? 'faces' : 'scenery';
}

/** Faces that are in the picture most of the time, as a whole number. */
export function usualFaces({ footage: { traces, hz } }: Prepared, { start, end }: Range): number {
  const from = Math.max(0, Math.round(start * hz));
  const faces = traces.faces.slice(from, Math.max(from + 1, Math.round(end * hz))).sort();
  return Math.round(faces[Math.floor(faces.length / 2)] ?? 0);
}
