import { beforeEach, describe, expect, it } from 'vitest';
import { History, type Participant } from './history';

class Place implements Participant {
  private done: string[] = [];
  private gone: string[] = [];
  onScreen = true;
  constructor(
    readonly title: string,
    private readonly history: History,
  ) {}
  do(step: string) {
    this.done.push(step);
    this.gone = [];
    this.history.did(this);
  }
  /** Done on an earlier visit. */
  had(step: string) {
    this.done.push(step);
    return this;
  }
  clear() {
    [this.done, this.gone] = [[], []];
  }
  get canUndo() {
    return this.done.length > 0;
  }
  get canRedo() {
    return this.gone.length > 0;
  }
  undo() {
    const step = this.done.pop();
    if (step !== undefined) this.gone.push(step);
    return step !== undefined;
  }
  redo() {
    const step = this.gone.pop();
    if (step !== undefined) this.done.push(step);
    return step !== undefined;
  }
  get steps() {
    return this.done.join(' ');
  }
}

describe('one history of everything that is done in a project', () => {
  let history: History;
  let said: string[];
  let reel: Place, words: Place, moments: Place;
  const state = () => [reel, words, moments].map(({ steps }) => steps);
  beforeEach(() => {
    said = [];
    history = new History((sentence) => void said.push(sentence));
    reel = new Place('the reel “Pond”', history);
    words = new Place('the words', history);
    moments = new Place('the moments', history);
  });

  it('takes back what was done last first, wherever it was, and does it again in order', () => {
    reel.do('cut');
    words.do('word');
    reel.do('trim');
    moments.do('keep');
    const seen = [state()];
    while (history.undo()) seen.push(state());
    expect(seen.map((each) => each.join('|'))).toEqual([
      'cut trim|word|keep',
      'cut trim|word|',
      'cut|word|',
      'cut||',
      '||',
    ]);
    for (let step = seen.length - 2; step >= 0; step--) {
      expect([history.canRedo(), history.redo()]).toEqual([true, true]);
      expect(state()).toEqual(seen[step]);
    }
    expect([history.canRedo(), history.redo()]).toEqual([false, false]);
  });

  it('after something new, what was taken back elsewhere is not done again', () => {
    words.do('word');
    history.undo();
    reel.do('cut');
    expect([history.canRedo(words), history.redo(words)]).toEqual([false, false]);
    expect(state()).toEqual(['cut', '', '']);
  });

  it('a move between two reels is one step back and forth', () => {
    const other = new Place('the reel “Selects”', history);
    other.had('piece');
    history.together(() => {
      other.do('hand over');
      reel.do('put');
      reel.do('link');
    });
    // A participant takes its own part back in one step; three edits of one place are three of its own.
    expect(history.undo()).toBe(true);
    expect([other.steps, reel.steps]).toEqual(['piece', 'put']);
    history.redo();
    expect([other.steps, reel.steps]).toEqual(['piece hand over', 'put link']);
    history.together(() => undefined);
    expect(history.canRedo()).toBe(false);
  });

  it('on a new page, steps of earlier visits are those of the place that is looked at', () => {
    reel.had('yesterday');
    expect([history.canUndo(), history.undo()]).toEqual([false, false]);
    expect([history.canUndo(reel), history.undo(reel)]).toEqual([true, true]);
    expect(reel.steps).toBe('');
    expect(history.redo()).toBe(true);
    expect(reel.steps).toBe('yesterday');
  });

  it('steps that are void are passed over, and those of a place that somebody else changed are forgotten', () => {
    moments.do('keep');
    reel.do('cut');
    words.do('word');
    words.clear();
    expect(history.undo()).toBe(true);
    expect(state()).toEqual(['', '', 'keep']);
    reel.do('trim');
    history.forget(reel);
    history.undo();
    expect(state()).toEqual(['trim', '', '']);
  });

  it('says where something was taken back that is not on screen', () => {
    reel.do('cut');
    moments.do('keep');
    reel.onScreen = false;
    history.undo();
    expect(said).toEqual([]);
    history.undo();
    history.redo();
    expect(said).toEqual(['Undone in the reel “Pond”.', 'Redone in the reel “Pond”.']);
  });
});
