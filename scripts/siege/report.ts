/** What a siege may find; all of them have to stay at zero. */
const kinds = {
  faults: '500s',
  hangs: 'hangs',
  letIns: 'let in',
  unbounded: 'media not ended in bounds',
  lost: 'confirmed changes lost',
  endless: 'tasks that never ended',
  broken: 'did not come back',
} as const;
export type FoundKind = keyof typeof kinds;

/** What was found, each thing once. */
export class Found {
  private readonly things = new Map<FoundKind, string[]>();

  /** @param tell hears of each thing as it is found */
  constructor(private readonly tell: (sentence: string) => void = () => undefined) {}

  add(kind: FoundKind, what: string): void {
    const own = this.things.get(kind) ?? [];
    own.push(what);
    this.tell(`${kinds[kind]}: ${what}`);
    this.things.set(kind, own);
  }
  count(kind: FoundKind): number {
    return this.things.get(kind)?.length ?? 0;
  }
  get total(): number {
    return [...this.things.values()].reduce((sum, { length }) => sum + length, 0);
  }
  /** Every thing that was found, up to so many of a kind. */
  lines(most: number): string[] {
    return [...this.things].flatMap(([kind, own]) => own.slice(0, most).map((what) => `${kinds[kind]}: ${what}`));
  }
}

/** A table in plain text: what was tried, how often, what came of it. */
export function table(rows: readonly (readonly [what: string, tried: string, came: string])[]): string {
  const widths = [0, 1, 2].map((column) => Math.max(...rows.map((row) => row[column]!.length)));
  return rows
    .map((row) =>
      row
        .map((text, column) => text.padEnd(widths[column]!))
        .join('  ')
        .trimEnd(),
    )
    .join('\n');
}
