import { expect, it } from 'vitest';
import { timeLeft } from './runTask';

it('says the time left from the pace so far, and nothing before there is a pace', () => {
  expect(timeLeft(0.25, 10, 0.75)).toBe(30);
  expect(timeLeft(0.5, 60, 0.5)).toBe(60);
  expect(timeLeft(0.01, 100, 0.99)).toBeNull();
  expect(timeLeft(0.5, 1, 0.5)).toBeNull();
});
