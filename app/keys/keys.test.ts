// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest';
import {
  clashesOf,
  combinationOf,
  freeName,
  giveKeys,
  isFree,
  keepKeys,
  keysOf,
  readKeys,
  showCombination,
  shownKey,
  takeKey,
  type KeptKeys,
} from '.';

const press = (key: string, code: string, held: Partial<KeyboardEvent> = {}, onMac = false) =>
  combinationOf({ key, code, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held }, onMac);
const graph = { ctrlKey: true, altKey: true, getModifierState: (name: string) => name === 'AltGraph' };

// Which key writes what on which keyboard: from memory of DIN 2137, the French AZERTY and the Russian layout.
describe('a key that is pressed', () => {
  it.each([
    ['the printed letter, on a US keyboard', press('z', 'KeyZ', { ctrlKey: true }), 'mod+z'],
    ['the printed letter, on a German one', press('z', 'KeyY', { ctrlKey: true }), 'mod+z'],
    ['the printed letter, on a French one', press('a', 'KeyQ'), 'a'],
    ['a letter with Shift', press('M', 'KeyM', { shiftKey: true }), 'shift+m'],
    ['Cyrillic: by its position', press('я', 'KeyZ', { ctrlKey: true }), 'mod+z'],
    ['Alt on a Mac writes a sign; by its position', press('¡', 'Digit1', { altKey: true }, true), 'alt+1'],
    ['plus, on a US keyboard', press('+', 'Equal', { shiftKey: true }), 'equal'],
    ['plus, on a German one', press('+', 'BracketRight'), 'equal'],
    ['minus, on a German one', press('-', 'Slash'), 'minus'],
    ['slash with Shift, on a German one', press('/', 'Digit7', { shiftKey: true }), 'slash'],
    ['a bracket with AltGr, on a German one', press('[', 'Digit8', graph), 'bracketleft'],
    ['where a US keyboard has the bracket, on a German one', press('ü', 'BracketLeft'), 'bracketleft'],
    ['the question mark', press('?', 'Minus', { shiftKey: true }), 'shift+slash'],
    ['the plus of a number pad', press('+', 'NumpadAdd'), 'add'],
    ['Enter of a number pad', press('Enter', 'NumpadEnter'), 'enter'],
    ['an arrow', press('ArrowLeft', 'ArrowLeft', { altKey: true, shiftKey: true }), 'alt+shift+arrowleft'],
    ['Space', press(' ', 'Space'), 'space'],
    ['only a modifier', press('Shift', 'ShiftLeft', { shiftKey: true }), null],
    ['⌘ on a Mac', press('z', 'KeyZ', { metaKey: true }, true), 'mod+z'],
    ['Ctrl on a Mac is no ⌘', press('z', 'KeyZ', { ctrlKey: true }, true), null],
    ['the system’s key elsewhere', press('z', 'KeyZ', { metaKey: true }), null],
  ])('%s', (_, found, wanted) => expect(found).toBe(wanted));

  it('is shown as it is printed', () => {
    expect(
      ['mod+shift+z', 'shift+slash', 'alt+arrowleft', 'equal', 'space'].map((key) => showCombination(key, false)),
    ).toEqual(['Ctrl Shift Z', '?', 'Alt ←', '+', 'Space']);
    expect(['mod+shift+z', 'alt+1'].map((key) => showCombination(key, true))).toEqual(['⌘ ⇧ Z', '⌥ 1']);
  });
  it('belongs to the browser where nothing can be done about it', () =>
    expect(['mod+w', 'mod+shift+t', 'f5', 'tab', 'escape', 'mod+z', 'f2', 'b', 'shift+enter'].map(isFree)).toEqual([
      false,
      false,
      false,
      false,
      false,
      true,
      true,
      true,
      true,
    ]));
});

describe('keys of one’s own', () => {
  const none: KeptKeys = { used: null, sets: {} };
  beforeEach(() => keepKeys(none));

  it('are taken from whatever has them on the same screen, and from nothing else', () => {
    // S splits in the reel, in the scenes and in the montage.
    expect(clashesOf('lift', 's')).toEqual(['split']);
    const kept = takeKey(none, 'lift', 's');
    expect([keysOf('lift', kept), keysOf('split', kept), keysOf('splitSlot', kept)]).toEqual([['s'], [], ['s']]);
    expect(kept.used).toBe('Own keys');
    // A key that works everywhere clashes everywhere.
    expect(clashesOf('play', 's')).toEqual(['partScene', 'split', 'splitSlot']);
  });
  it('hold at once, are kept by the browser, and go back', () => {
    keepKeys(giveKeys(none, { split: ['b'] }));
    expect([shownKey('split'), keysOf('lift')]).toEqual(['B', ['e']]);
    expect(JSON.parse(localStorage.getItem('keys')!)).toMatchObject({
      used: 'Own keys',
      sets: { 'Own keys': { split: ['b'] } },
    });
    keepKeys({ used: null, sets: { 'Own keys': { split: ['b'] } } });
    expect(shownKey('split')).toBe('S');
  });
  it('another set takes the name that is free', () =>
    expect(freeName({ used: null, sets: { Club: {}, 'Club 2': {} } }, ' Club ')).toBe('Club 3'));
  it('come from a file as far as they are keys', () => {
    expect(
      readKeys({ split: ['b', 5, 'mod+<script>'], nothing: ['x'], lift: 'e', __proto__: { play: ['q'] } }),
    ).toEqual({
      split: ['b'],
    });
    for (const given of [null, 5, 'x', []]) expect(readKeys(given)).toEqual({});
  });
});
