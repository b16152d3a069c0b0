/** What is measured, as shares of what was asked for. */
export const frameMilliseconds = 1000 / 60;
export const row = (name: string, milliseconds: number, budget: number) =>
  console.log(
    `${name.padEnd(58)} ${(milliseconds / budget).toFixed(2)} of the budget  (${milliseconds.toFixed(0)} ms of ${budget.toFixed(0)}; ${(milliseconds / frameMilliseconds).toFixed(1)} frames of 60 a second)`,
  );

export const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
export const worst = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length * 0.95)]!;
