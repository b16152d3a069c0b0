import { mergeOrder } from './order';

/** Plain data as it was, as one made it and as another made it meanwhile; undefined where there was none. */
export interface Three<T = unknown> {
  base: T;
  mine: T;
  theirs: T;
}
/** What both sides made of it; or where they made different things of the same, as names of fields and things. */
export type Merged<T = unknown> = { value: T } | { clash: readonly string[] };

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
type Named = Record<string, unknown> & { id: string };
/** A list of things that have names, each name once. */
const isNamedList = (value: unknown): value is Named[] =>
  Array.isArray(value) &&
  value.every((each) => isRecord(each) && typeof each.id === 'string') &&
  new Set(value.map((each: Named) => each.id)).size === value.length;
/** A list of words or numbers, each of them once. */
const isOrder = (value: unknown): value is string[] =>
  Array.isArray(value) && value.every((each) => typeof each === 'string') && new Set(value).size === value.length;

/** Whether two values hold the same, whatever the order of their fields; a field that is undefined is none. */
export function sameValue(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true;
  if (Array.isArray(one) || Array.isArray(other))
    return (
      Array.isArray(one) &&
      Array.isArray(other) &&
      one.length === other.length &&
      one.every((each, index) => sameValue(each, other[index]))
    );
  if (!isRecord(one) || !isRecord(other)) return false;
  const fields = new Set([...Object.keys(one), ...Object.keys(other)]);
  return [...fields].every((field) => sameValue(one[field], other[field]));
}

/**
 * Three-way merge of plain data: what one side changed is taken from it; fields of a record and things with an `id` are
 * looked at one by one; a list of words is merged as an order. Where both changed the same otherwise they clash. It is
 * one-sided changes that are kept, so that `base` and `theirs` alike give `mine`, and the other way round.
 */
export function mergeValues({ base, mine, theirs }: Three): Merged {
  if (sameValue(base, mine)) return { value: theirs };
  if (sameValue(base, theirs) || sameValue(mine, theirs)) return { value: mine };
  if (isRecord(base) && isRecord(mine) && isRecord(theirs)) return mergeRecords({ base, mine, theirs });
  if (isNamedList(base) && isNamedList(mine) && isNamedList(theirs)) return mergeNamed({ base, mine, theirs });
  if (isOrder(base) && isOrder(mine) && isOrder(theirs)) {
    const merged = mergeOrder(base, mine, theirs);
    return 'clash' in merged ? { clash: [merged.clash] } : { value: merged.order };
  }
  return { clash: [] };
}

function mergeRecords({ base, mine, theirs }: Three<Record<string, unknown>>): Merged<Record<string, unknown>> {
  const value: Record<string, unknown> = {};
  for (const field of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
    const merged = mergeValues({ base: base[field], mine: mine[field], theirs: theirs[field] });
    if ('clash' in merged) return { clash: [field, ...merged.clash] };
    if (merged.value !== undefined) value[field] = merged.value;
  }
  return { value };
}

const byName = (list: readonly Named[]) => new Map(list.map((each) => [each.id, each]));

function mergeNamed({ base, mine, theirs }: Three<Named[]>): Merged<Named[]> {
  const ids = (list: readonly Named[]) => list.map(({ id }) => id);
  const [was, here, there] = [byName(base), byName(mine), byName(theirs)];
  // What was taken out on one side and changed on the other is not simply gone.
  for (const [id, own] of was) {
    const [ours, others] = [here.get(id), there.get(id)];
    if ((!ours && others && !sameValue(own, others)) || (!others && ours && !sameValue(own, ours)))
      return { clash: [id] };
  }
  const order = mergeOrder(ids(base), ids(mine), ids(theirs));
  if ('clash' in order) return { clash: [order.clash] };
  const value: Named[] = [];
  for (const id of order.order) {
    const merged = mergeValues({
      base: was.get(id),
      mine: here.get(id) ?? was.get(id),
      theirs: there.get(id) ?? was.get(id),
    });
    // What only one side has came in there.
    const own = 'value' in merged ? (merged.value as Named | undefined) : undefined;
    if ('clash' in merged) return { clash: [id, ...merged.clash] };
    value.push(own ?? here.get(id) ?? there.get(id)!);
  }
  return { value };
}
