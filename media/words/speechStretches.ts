import type { Range } from '#core/time';

const longestStretch = 24;

/**
 * Speech runs as stretches for a recogniser: joined over short pauses, with a little room at both ends, and parted
 * again (at a pause) where they would grow too long for it.
 */
export function speechStretches(speech: readonly Range[], duration: number): Range[] {
  const out: Range[] = [];
  for (const run of speech) {
    const last = out.at(-1);
    if (last && run.start - last.end < 0.5 && run.end - last.start < longestStretch) last.end = run.end;
    else out.push({ start: run.start, end: run.end });
  }
  return out.map(({ start, end }, index) => ({
    start: Math.max(0, out[index - 1] ? (out[index - 1]!.end + start) / 2 : 0, start - 0.25),
    end: Math.min(duration, out[index + 1] ? (end + out[index + 1]!.start) / 2 : duration, end + 0.25),
  }));
}
