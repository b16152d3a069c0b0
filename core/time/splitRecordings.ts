/** What is known of a file before it is read, as far as it tells which files are parts of one recording. */
export interface RecordedFile {
  id: string;
  name: string;
  durationSeconds: number;
  bytes: number;
  /** ISO 8601; when the recording began or, with some cameras, when it ended; null where it is not known. */
  recordedAt: string | null;
  /** Of its first frame by the camera's count; null where it has none. */
  startSeconds: number | null;
  frameSeconds: number;
  /** Everything that parts of one recording have in common: codec, size, rate, tracks. */
  coding: string;
}

/** Clocks in file headers show whole seconds, and cameras write them when a file is opened or closed. In seconds. */
const clockSlack = 3;
/** Cameras part a recording at a size: what is followed by another part is no smaller than this share of it. */
const fullShare = 0.9;

/**
 * Whether a name is the next one by a camera's counter: the names differ in one number, which goes up by one, wherever in the
 * name it stands ("0012_01", "0012_02"; "part 9", "part 10"); or the first has none ("pond", "pond_1"). Of what was put
 * together ("0012_01–0012_02") the last part counts, or the first. Common practice, no source.
 */
export function isNextName(before: string, after: string): boolean {
  const [a, b] = [stemOf(before), stemOf(after)];
  a.stem = a.stem.split('–').at(-1)!;
  b.stem = b.stem.split('–')[0]!;
  if (a.ending !== b.ending || a.stem === b.stem) return false;
  const added = b.stem.startsWith(a.stem) ? /^[ _-]?\(?0*([12])\)?$/.exec(b.stem.slice(a.stem.length)) : null;
  if (added && !/\d$/.test(a.stem)) return true;
  let start = 0;
  while (a.stem[start] !== undefined && a.stem[start] === b.stem[start]) start++;
  let [endA, endB] = [a.stem.length, b.stem.length];
  while (endA > start && endB > start && a.stem[endA - 1] === b.stem[endB - 1]) {
    endA--;
    endB--;
  }
  const [from, to] = [a.stem.slice(start, endA), b.stem.slice(start, endB)];
  if (/^\d+$/.test(from) && /^\d+$/.test(to) && from.length === to.length) return Number(to) === Number(from) + 1;
  // "9" and "10": digits before and behind belong to the number.
  const number = (stem: string, end: number) => {
    let first = start;
    while (/\d/.test(stem[first - 1] ?? '')) first--;
    let last = end;
    while (/\d/.test(stem[last] ?? '')) last++;
    return stem.slice(first, last);
  };
  const [whole, next] = [number(a.stem, endA), number(b.stem, endB)];
  return /^\d+$/.test(whole) && /^\d+$/.test(next) && Number(next) === Number(whole) + 1;
}

function stemOf(name: string): { stem: string; ending: string } {
  const dot = name.lastIndexOf('.');
  return { stem: name.slice(0, dot < 0 ? undefined : dot), ending: dot < 0 ? '' : name.slice(dot).toLowerCase() };
}

/** Whether one file begins when another ends; null when neither clock nor timecode can tell. */
export function followsInTime(before: RecordedFile, after: RecordedFile): boolean | null {
  if (before.startSeconds !== null && after.startSeconds !== null && before.startSeconds !== after.startSeconds) {
    const day = 86_400;
    const late = (((after.startSeconds - before.startSeconds - before.durationSeconds) % day) + day) % day;
    return Math.min(late, day - late) <= 2.5 * before.frameSeconds;
  }
  const [one, other] = [before, after].map(({ recordedAt }) => (recordedAt ? Date.parse(recordedAt) / 1000 : NaN));
  const apart = other! - one!;
  // Some write into every part when the whole began.
  if (Number.isNaN(apart) || Math.abs(apart) < 0.5) return null;
  return [before, after].some(({ durationSeconds }) => Math.abs(apart - durationSeconds) <= clockSlack);
}

/**
 * Pairs of files that may be parts of one recording, one going on where the other ends, by name, coding and time. Sound and
 * picture at the join must be asked as well.
 * @param files of one place, in any order
 * @param of id of the file that the pairs are of; all when missing
 */
export function splitPairs(
  files: readonly RecordedFile[],
  of?: string,
): { before: RecordedFile; after: RecordedFile }[] {
  const pairs: { before: RecordedFile; after: RecordedFile }[] = [];
  for (const before of files)
    for (const after of files) {
      if (of !== undefined && before.id !== of && after.id !== of) continue;
      if (before === after || before.coding !== after.coding || !isNextName(before.name, after.name)) continue;
      const follows = followsInTime(before, after);
      if (follows ?? before.bytes >= fullShare * after.bytes) pairs.push({ before, after });
    }
  return pairs;
}

/** Sequences out of pairs, each at least two long; what goes on in two ways ends where it parts. */
export function chainsOf(pairs: readonly { before: string; after: string }[]): string[][] {
  const next = new Map<string, string[]>();
  const previous = new Map<string, string[]>();
  for (const { before, after } of pairs) {
    next.set(before, [...(next.get(before) ?? []), after]);
    previous.set(after, [...(previous.get(after) ?? []), before]);
  }
  const only = (map: Map<string, string[]>, key: string) => {
    const found = map.get(key);
    return found?.length === 1 ? found[0]! : null;
  };
  const goesOn = (id: string) => {
    const to = only(next, id);
    return to !== null && only(previous, to) === id ? to : null;
  };
  const chains: string[][] = [];
  for (const id of next.keys()) {
    const from = only(previous, id);
    if (from !== null && goesOn(from) === id) continue;
    const chain = [id];
    for (let to = goesOn(id); to !== null && !chain.includes(to); to = goesOn(to)) chain.push(to);
    if (chain.length > 1) chains.push(chain);
  }
  return chains;
}
