import { expect, it } from 'vitest';
import { BatchWatch } from './batchWatch';

type Tasks = Parameters<BatchWatch['look']>[0];
const task = (id: string, state: Tasks[number]['state'], kind: Tasks[number]['kind'] = 'read') => ({
  id,
  kind,
  state,
  title: `${id}.mp4`,
});

it('tells once when the last task of a kind is over, and how long it took', () => {
  const watch = new BatchWatch();
  expect(watch.look([task('a', 'running'), task('b', 'queued')], 0)).toEqual([]);
  expect(watch.look([task('a', 'done'), task('b', 'running')], 20_000)).toEqual([]);
  const over = [task('a', 'done'), task('b', 'failed')];
  expect(watch.look(over, 50_000)).toEqual([{ kind: 'read', seconds: 50, done: 1, failed: 1, title: null }]);
  expect(watch.look(over, 60_000)).toEqual([]);
});
it('kinds end for themselves; the only one is named', () => {
  const watch = new BatchWatch();
  watch.look([task('a', 'running'), task('r', 'running', 'render')], 0);
  expect(watch.look([task('a', 'running'), task('r', 'done', 'render')], 9000)).toEqual([
    { kind: 'render', seconds: 9, done: 1, failed: 0, title: 'r.mp4' },
  ]);
});
it('what was over before, or cancelled, is no news', () => {
  const watch = new BatchWatch();
  expect(watch.look([task('a', 'done')], 0)).toEqual([]);
  watch.look([task('b', 'running')], 1000);
  expect(watch.look([task('b', 'cancelled')], 90_000)).toEqual([]);
});
