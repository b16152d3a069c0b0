import { expect, it } from 'vitest';
import { askEverything } from './testDay';

it('questions find what a person would want to see', async () => {
  const answered = await askEverything();
  expect(answered.length).toBeGreaterThanOrEqual(300);
  const mean = answered.reduce((sum, { f1 }) => sum + f1, 0) / answered.length;
  const bad = answered.filter(({ f1 }) => f1 < 0.5);
  expect(bad.map(({ question, found }) => `${question}: ${found}`)).toHaveLength(1);
  expect(mean).toBeGreaterThan(0.95);
});
