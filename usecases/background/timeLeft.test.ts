import { describe, expect, it } from 'vitest';
import { TimeLeft } from './timeLeft';

/** Notes once a second, with what stood beside each. */
function run(guess: number | null, shareAt: (second: number) => number, seconds: number): (number | null)[] {
  const left = new TimeLeft(guess);
  return Array.from({ length: seconds + 1 }, (_, second) => {
    left.note(shareAt(second), second);
    return left.seconds;
  });
}

describe('the time that is left', () => {
  it('is the guess from before at once, and what the pace says from a tenth on', () => {
    const said = run(60, (second) => second / 100, 100);
    expect(said[0]).toBe(60);
    for (let second = 10; second < 100; second++) expect(said[second]).toBeCloseTo(100 - second, 6);
  });
  it('without a guess it is not said before there is a pace', () => {
    const said = run(null, (second) => second / 1000, 100);
    expect([said[0], said[15]]).toEqual([null, null]);
    expect(said[30]).toBeCloseTo(970, 0);
  });
  it('is within a fifth again soon after other work has begun beside it', () => {
    // Half the pace from second 100 on.
    const shareAt = (second: number) => (second < 100 ? second / 400 : 0.25 + (second - 100) / 800);
    const said = run(400, shareAt, 600);
    for (let second = 140; second < 690 && second <= 600; second++) {
      const truth = 700 - second;
      expect(Math.abs(said[second]! - truth) / truth, `at ${second} s`).toBeLessThan(0.2);
    }
  });
  it('begins anew with work that begins anew', () => {
    const left = new TimeLeft(null);
    for (let second = 0; second <= 50; second++) left.note(second / 100, second);
    left.note(0, 51);
    expect(left.seconds).toBeNull();
    for (let second = 52; second <= 70; second++) left.note((second - 51) / 20, second);
    expect(left.seconds).toBeCloseTo(1, 6);
  });
});
