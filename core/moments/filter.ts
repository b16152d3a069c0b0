import { runsOf } from '#core/readings';
import { mergeRanges, overlap, subtractRanges, type Range, type StringItem } from '#core/time';
import { separate } from './separate';
import type { Decision, Footage, Moment } from './types';

/** What of the footage the page can be reduced to. */
export const filterNames = [
  'all',
  'kept',
  'dropped',
  'undecided',
  'talk',
  'steady',
  'shaky',
  'marker',
  'person',
  'found',
] as const;
/** Which stretches of the footage the page shows. */
export type FilterName = (typeof filterNames)[number];

/** What a filter must know besides the readings. */
export interface FilterContext {
  moments: readonly Moment[];
  decisions: readonly Decision[];
  /** Times of markers, by file. */
  markers: ReadonlyMap<string, readonly number[]>;
  /** When the chosen person is in the picture, by file. */
  person: ReadonlyMap<string, readonly Range[]>;
  /** What was asked for and found, by file. */
  found: ReadonlyMap<string, readonly Range[]>;
}

/** Shown before and after a marker, in seconds. */
const aroundMarker = { before: 2, after: 4 };
/** Stretches closer than this are shown as one; shorter ones than `least` are not shown. */
const bridge = 0.4,
  least = 0.3;

/** The stretches of one file that a filter shows, in the order of time. */
export function shownStretches(footage: Footage, filter: FilterName, context: FilterContext): Range[] {
  const { id, durationSeconds } = footage;
  const whole: Range = { start: 0, end: durationSeconds };
  const own = (verdict?: Decision['verdict']) =>
    context.decisions.filter((decision) => decision.media === id && (!verdict || decision.verdict === verdict));
  const stretches = ((): readonly Range[] => {
    switch (filter) {
      case 'all':
        return [whole];
      case 'kept':
        return context.moments.filter((moment) => moment.media === id);
      case 'dropped':
        return own('drop');
      case 'undecided':
        return subtractRanges(whole, own());
      case 'talk':
        return runsOf(footage.runs, 'speech');
      case 'steady':
        return separate(footage).steady;
      case 'shaky':
        return separate(footage).shaky;
      case 'marker':
        return (context.markers.get(id) ?? []).map((at) => ({
          start: at - aroundMarker.before,
          end: at + aroundMarker.after,
        }));
      case 'person':
        return context.person.get(id) ?? [];
      case 'found':
        return context.found.get(id) ?? [];
    }
  })();
  if (filter === 'all') return [whole];
  return mergeRanges(
    stretches
      .filter((range) => overlap(range, whole) > 0)
      .map((range) => ({ start: Math.max(0, range.start), end: Math.min(durationSeconds, range.end) })),
    bridge,
  ).filter((range) => range.end - range.start >= Math.min(least, durationSeconds));
}

/** The footage as items of a string-out under a filter, in the order given. */
export const layOut = (footage: readonly Footage[], filter: FilterName, context: FilterContext): StringItem[] =>
  footage.flatMap((each) =>
    shownStretches(each, filter, context).map(({ start, end }) => ({ id: each.id, start, seconds: end - start })),
  );
