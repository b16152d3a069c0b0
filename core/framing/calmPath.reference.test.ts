import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';
import { calmPath, pathCost } from './calmPath';

/** The same linear program written out (Grundmann, Kwatra, Essa 2011, table 1) and solved to the optimum by HiGHS, a reference solver. */
function program(low: readonly number[], high: readonly number[]): string {
  const terms: string[] = [],
    rows: string[] = [];
  for (const [order, [stencil, weight]] of (
    [
      [[-1, 1], 10],
      [[1, -2, 1], 1],
      [[-1, 3, -3, 1], 100],
    ] as const
  ).entries())
    for (let index = 0; index + stencil.length <= low.length; index++) {
      const slack = `e${order}_${index}`;
      const sum = stencil.map((tap, at) => `${tap < 0 ? '-' : '+'} ${Math.abs(tap)} x${index + at}`).join(' ');
      terms.push(`${weight} ${slack}`);
      rows.push(`${sum} - ${slack} <= 0`, `${sum} + ${slack} >= 0`);
    }
  return `Minimize\n obj: ${terms.join(' + ')}\nSubject To\n ${rows.map((row, index) => `c${index}: ${row}`).join('\n ')}\nBounds\n ${low.map((value, index) => `${value} <= x${index} <= ${high[index]}`).join('\n ')}\nEnd\n`;
}

describe('the calmest path against an exact solver', () => {
  const cases: [string, number, (index: number) => number][] = [
    ['a step', 80, (i) => (i < 40 ? 0.3 : 0.6)],
    ['a walk', 150, (i) => 0.5 + 0.25 * Math.sin(i / 25)],
    ['a steady move', 100, (i) => 0.2 + 0.006 * i],
    ['two who take turns', 240, (i) => (Math.floor(i / 60) % 2 ? 0.3 : 0.7)],
    ['a nervous walk', 160, (i) => 0.5 + 0.2 * Math.sin(i / 40) + 0.03 * Math.sin(i * 1.7)],
  ];
  it.each(cases)('%s: inside the zones, within 1 %% of the least cost', async (_, count, at) => {
    const highs = await loadHighs();
    const middle = Array.from({ length: count }, (_each, index) => at(index));
    const [low, high] = [middle.map((value) => value - 0.06), middle.map((value) => value + 0.06)];
    for (let index = 1; index < count; index++)
      if (Math.abs(middle[index]! - middle[index - 1]!) > 0.1)
        for (let near = index - 5; near < index + 5; near++) [low[near], high[near]] = [0.1, 0.9];
    const path = calmPath(low, high);
    path.forEach((value, index) => {
      expect(value).toBeGreaterThanOrEqual(low[index]! - 1e-9);
      expect(value).toBeLessThanOrEqual(high[index]! + 1e-9);
    });
    const solved = highs.solve(program(low, high));
    expect(solved.Status).toBe('Optimal');
    expect(pathCost(path)).toBeGreaterThan(solved.ObjectiveValue * 0.9999);
    expect(pathCost(path)).toBeLessThan(solved.ObjectiveValue * 1.01);
  });
  it('runs through fixed points, and stands still where one place serves all', () => {
    expect([...calmPath([0.2, 0.4, 0.3], [0.6, 0.5, 0.9])]).toEqual([0.45, 0.45, 0.45]);
    const low = new Array<number>(60).fill(0),
      high = new Array<number>(60).fill(1);
    [low[10], high[10], low[50], high[50]] = [0.2, 0.2, 0.8, 0.8];
    const path = calmPath(low, high);
    expect(path[10]).toBe(0.2);
    expect(path[50]).toBe(0.8);
    // Between them evenly or eased, never back.
    for (let index = 11; index <= 50; index++) expect(path[index]!).toBeGreaterThan(path[index - 1]! - 1e-4);
  });
});
