// @vitest-environment jsdom
import { expect, it } from 'vitest';
import { shownOf } from './shownOf';

it('passes over what is hidden; nothing where all of it is, or none is there', () => {
  document.body.innerHTML = '<p id="a"></p><p id="b"></p><p id="c"></p>';
  const shows = (...ids: string[]) => {
    for (const element of document.querySelectorAll('p'))
      element.getClientRects = () => (ids.includes(element.id) ? [{}] : []) as unknown as DOMRectList;
  };
  shows('b', 'c');
  expect(shownOf(document, 'p')?.id).toBe('b');
  shows();
  expect([shownOf(document, 'p'), shownOf(document, 'b')]).toEqual([null, null]);
});
