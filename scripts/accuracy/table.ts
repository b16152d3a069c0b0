import { overlap, totalLength, type Range } from '#core/time';

export interface Figure {
  reading: string;
  what: string;
  ours: string;
  /** The same figure of a reference on the same material, and its name. */
  reference?: string;
  wanted?: string;
  /** Whether the wanted figure is reached; missing where none is stated. */
  reached?: boolean;
  source: string;
}

const figures: Figure[] = [];
export const add = (figure: Figure): void => void figures.push(figure);

export function printTable(): void {
  const rows = figures.map((figure) => [
    figure.reading,
    figure.what,
    figure.ours,
    figure.reference ?? '',
    figure.wanted ?? '',
    figure.reached === undefined ? '' : figure.reached ? 'yes' : 'NO',
    figure.source,
  ]);
  const head = ['reading', 'figure', 'ours', 'reference', 'wanted', 'ok', 'source of the truth'];
  const widths = head.map((title, column) => Math.max(title.length, ...rows.map((row) => row[column]!.length)));
  for (const row of [head, widths.map((width) => '-'.repeat(width)), ...rows])
    console.log(
      row
        .map((cell, column) => cell.padEnd(widths[column]!))
        .join('  ')
        .trimEnd(),
    );
  const missed = figures.filter((figure) => figure.reached === false);
  console.log(
    `\n${figures.filter((figure) => figure.reached).length} of ${figures.filter((figure) => figure.reached !== undefined).length} wanted figures reached${missed.length ? `; missed: ${missed.map((figure) => figure.what).join(', ')}` : ''}.`,
  );
}

/** F1 of seconds: overlap against both lengths. 1 when both are empty. */
export function f1OfSeconds(found: readonly Range[], truth: readonly Range[]): number {
  const all = totalLength(found) + totalLength(truth);
  if (all === 0) return 1;
  return (2 * found.reduce((sum, a) => sum + truth.reduce((part, b) => part + overlap(a, b), 0), 0)) / all;
}

/** F1 of single events that may lie `within` seconds off. */
export function f1OfEvents(found: readonly number[], truth: readonly number[], within: number): number {
  const free = [...truth];
  let right = 0;
  for (const time of found) {
    const at = free.findIndex((each) => Math.abs(each - time) <= within);
    if (at < 0) continue;
    free.splice(at, 1);
    right++;
  }
  return found.length + truth.length === 0 ? 1 : (2 * right) / (found.length + truth.length);
}

let state = 20261125;
/** A fixed sequence, so that every run makes the same material. */
export const random = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
export const gauss = (): number => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
