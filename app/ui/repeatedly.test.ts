import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { repeatedly, throttled } from './repeatedly';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('asks again so long after the last answer, however long that took, until it is ended', async () => {
  const waiting: (() => void)[] = [];
  const ask = vi.fn(() => new Promise<void>((answer) => waiting.push(answer)));
  const end = repeatedly(ask, 1000);
  await vi.advanceTimersByTimeAsync(999);
  expect(ask).not.toHaveBeenCalled();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(ask).toHaveBeenCalledTimes(1);
  waiting.shift()!();
  await vi.advanceTimersByTimeAsync(1000);
  expect(ask).toHaveBeenCalledTimes(2);
  end();
  waiting.shift()!();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(ask).toHaveBeenCalledTimes(2);
});

it('goes on after a question that failed', async () => {
  const ask = vi.fn().mockRejectedValue(new Error('away'));
  const end = repeatedly(ask, 1000);
  await vi.advanceTimersByTimeAsync(3500);
  expect(ask).toHaveBeenCalledTimes(3);
  end();
});

it('throttled: at once, then once for all that was asked meanwhile, and nothing after its end', async () => {
  const act = vi.fn();
  const ask = throttled(act, 1000);
  for (let times = 0; times < 5; times++) ask();
  expect(act).toHaveBeenCalledTimes(1);
  await vi.advanceTimersByTimeAsync(1000);
  expect(act).toHaveBeenCalledTimes(2);
  await vi.advanceTimersByTimeAsync(5000);
  expect(act).toHaveBeenCalledTimes(2);
  ask();
  ask();
  ask.end();
  await vi.advanceTimersByTimeAsync(5000);
  expect(act).toHaveBeenCalledTimes(3);
});
