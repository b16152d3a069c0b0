import { expect, it } from 'vitest';
import { beginState } from './beginning';

type Item = Parameters<typeof beginState>[0]['items'][number];
const item = (
  kind: 'video' | 'sound' | 'photo' | null,
  state: 'arrived' | 'looked at' | 'rough' | 'read' | 'broken',
): Item => ({
  arrived: kind && { kind },
  probe:
    kind && state !== 'arrived' && state !== 'broken'
      ? { kind, ...(state === 'looked at' ? { glancedEvery: 20 } : {}) }
      : null,
  isRough: state === 'looked at' || state === 'rough',
  problem: state === 'broken' ? 'Nothing can be read of it.' : null,
});
const state = (
  aim: 'reel' | 'shorts' | 'montage',
  items: Item[],
  more: Partial<Parameters<typeof beginState>[0]> = {},
) => beginState({ aim, items, isArriving: false, music: null, ...more });

it('waits for files, then for a look at each, then is ready', () => {
  expect(state('reel', []).waitsFor).toBe('files');
  expect(state('reel', [item('video', 'read')], { isArriving: true }).waitsFor).toBe('files');
  expect(state('reel', [item(null, 'arrived')]).waitsFor).toBe('look');
  expect(state('reel', [item('video', 'looked at'), item('photo', 'arrived')])).toMatchObject({
    waitsFor: 'look',
    pictures: 2,
    seen: 1,
  });
  expect(state('reel', [item('video', 'looked at'), item('photo', 'read')])).toMatchObject({
    waitsFor: null,
    isRough: true,
  });
  expect(state('reel', [item('video', 'read')])).toMatchObject({ waitsFor: null, isRough: false });
});
it('what cannot be read stops nothing else, and is told', () => {
  expect(state('reel', [item('video', 'broken'), item('video', 'read')])).toMatchObject({
    waitsFor: null,
    unreadable: 1,
  });
  expect(state('reel', [item('video', 'broken')]).waitsFor).toBe('unreadable');
  expect(state('reel', [item('sound', 'read')]).waitsFor).toBe('pictures');
});
it('shorts need more than points of a film, and photos are none', () => {
  expect(state('shorts', [item('video', 'looked at')]).waitsFor).toBe('look');
  expect(state('shorts', [item('video', 'rough')]).waitsFor).toBeNull();
  expect(state('shorts', [item('photo', 'read')]).waitsFor).toBe('pictures');
});
it('a montage needs a song whose beats are known', () => {
  const films = [item('video', 'read')];
  expect(state('montage', films).waitsFor).toBe('song');
  // Whether a recording is music is not known before it is read.
  expect(state('montage', [...films, item('sound', 'arrived')]).waitsFor).toBe('look');
  const music = (isHeard: boolean) => ({ music: { isHeard, problem: null } });
  expect(state('montage', films, music(false)).waitsFor).toBe('beats');
  expect(state('montage', films, music(true)).waitsFor).toBeNull();
});
