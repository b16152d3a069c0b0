// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest';
import { doEarlyPresses, keepEarlyPresses } from './earlyPresses';

describe('presses before the page answers', () => {
  const done: string[] = [];
  const button = (name: string, type: 'button' | 'submit' = 'button') => {
    const made = document.createElement('button');
    made.type = type;
    made.innerHTML = `<span>${name}</span>`;
    return document.body.appendChild(made);
  };
  /** As React does when it takes a page over: from now on the button does something. */
  const awake = (made: HTMLElement) => made.addEventListener('click', () => done.push(made.textContent));
  const press = (made: HTMLElement) =>
    made.firstElementChild!.dispatchEvent(new MouseEvent('click', { bubbles: true }));

  beforeEach(() => {
    document.body.innerHTML = '';
    done.length = 0;
    keepEarlyPresses();
  });

  it('are done once it answers, in their order, and later ones only once', () => {
    const [first, second] = [button('first'), button('second')];
    press(second);
    press(first);
    [first, second].forEach(awake);
    doEarlyPresses();
    expect(done).toEqual(['second', 'first']);
    press(first);
    doEarlyPresses();
    expect(done).toEqual(['second', 'first', 'first']);
  });
  it('of what sends a form by itself, or is gone by then, are not done again', () => {
    const [send, gone] = [button('send', 'submit'), button('gone')];
    press(send);
    press(gone);
    [send, gone].forEach(awake);
    gone.remove();
    doEarlyPresses();
    expect(done).toEqual([]);
  });
});
