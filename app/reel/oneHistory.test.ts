import { beforeEach, describe, expect, it } from 'vitest';
import { OneHistory } from './useOneHistory';

/** A history that remembers when its steps were done; the clock goes on by one with every step. */
let clock = 0;
class Steps {
  private done: { name: string; at: number }[] = [];
  private gone: { name: string; at: number }[] = [];
  do(name: string) {
    this.done.push({ name, at: ++clock });
    this.gone = [];
  }
  undo() {
    const step = this.done.pop();
    if (step) this.gone.push(step);
  }
  redo() {
    const step = this.gone.pop();
    if (step) this.done.push({ ...step, at: ++clock });
  }
  last = () => this.done.at(-1)?.at ?? 0;
  lastEdit = this.last;
  lastChange = this.last;
  canRedo = () => this.gone.length > 0;
  get reel() {
    return { canUndo: this.done.length > 0, canRedo: this.gone.length > 0 };
  }
  get names() {
    return this.done.map((each) => each.name).join(' ');
  }
}

describe('one history of edits and words', () => {
  let live: Steps, spoken: Steps, history: OneHistory;
  const both = () => ({ live, spoken });
  const state = () => `${live.names} | ${spoken.names}`;
  beforeEach(() => {
    [clock, live, spoken, history] = [0, new Steps(), new Steps(), new OneHistory()];
    live.do('cut');
    spoken.do('word');
    live.do('trim');
    spoken.do('name');
  });

  it('takes back what was done last first, whichever it was, and does it again in order', () => {
    const seen = [state()];
    for (let step = 0; step < 4; step++) {
      history.undo(both());
      seen.push(state());
    }
    expect(seen).toEqual(['cut trim | word name', 'cut trim | word', 'cut | word', 'cut | ', ' | ']);
    for (let step = 0; step < 4; step++) {
      expect(history.canRedo(both())).toBe(true);
      history.redo(both());
      expect(state()).toBe(seen[3 - step]);
    }
    expect(history.canRedo(both())).toBe(false);
  });
  it('with nothing left nothing happens, and nothing is remembered as undone', () => {
    for (let step = 0; step < 7; step++) history.undo(both());
    expect(state()).toBe(' | ');
    for (let step = 0; step < 4; step++) history.redo(both());
    expect(state()).toBe('cut trim | word name');
  });
  it('after something new, words that were taken back are not done again', () => {
    history.undo(both());
    expect(history.wordsAreNext(both())).toBe(true);
    live.do('split');
    expect([history.wordsAreNext(both()), history.canRedo(both())]).toEqual([false, false]);
    history.redo(both());
    expect(state()).toBe('cut trim split | word');
    history.undo(both());
    expect(state()).toBe('cut trim | word');
  });
});
