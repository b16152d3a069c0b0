import type { Lane } from '#data/tasks';

/** What a worker can be for, and the lanes of that; the first is the one that a number counts. */
const lanesOf = {
  read: ['reading', 'glance'],
  render: ['rendering'],
  words: ['words'],
  rest: ['line', 'aside', 'short'],
} as const satisfies Record<string, readonly Lane[]>;
type Kind = keyof typeof lanesOf;

/** How many of a lane run at once in a worker for everything. */
const usual = (heavy: number): Record<Lane, number> => ({
  glance: 2,
  aside: 1,
  reading: heavy,
  rendering: heavy,
  short: 1,
  line: 3,
  words: 1,
});

/**
 * How many tasks of each lane a worker runs at once.
 * @param wanted kinds, with a number behind a colon where it is not the usual one, such as "render:2"; none for everything
 * @param heavy what reads and renders at once when no number is given
 */
export function concurrencyOf(wanted: readonly string[], heavy: number): Record<Lane, number> {
  const all = usual(heavy);
  if (wanted.length === 0) return all;
  const chosen = Object.fromEntries(Object.keys(all).map((lane) => [lane, 0])) as Record<Lane, number>;
  for (const one of wanted) {
    const [kind, number] = one.split(':') as [Kind, string | undefined];
    const [main, ...others] = lanesOf[kind];
    chosen[main] = number === undefined ? all[main] : Number(number);
    for (const lane of others) chosen[lane] = all[lane];
  }
  return chosen;
}
