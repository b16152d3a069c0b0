// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { shortsDefaults } from '#core/shorts';
import { testItem } from '../footage/testItems';
import { showScreen } from '../testScreen';
import { WishForm } from './WishForm';

const recordings = [
  testItem('talk', { name: 'talk.mp4', probe: { durationSeconds: 600 } }),
  testItem('race', { name: 'race.mp4', probe: { durationSeconds: 7200 } }),
  testItem('song', { name: 'song.wav', probe: { kind: 'sound', durationSeconds: 9000 } }),
  testItem('broken', { name: 'broken.mp4', problem: 'This file is damaged.', probe: { durationSeconds: 9999 } }),
];
const field = (name: string) => document.querySelector<HTMLInputElement>(`[name="${name}"]`)!;

describe('what shorts are wished for', () => {
  afterEach(cleanup);
  const show = (more: Partial<Parameters<typeof WishForm>[0]> = {}) =>
    showScreen(<WishForm items={recordings} styles={[]} problems={{}} media={null} {...more} />);

  it('of films that were read; the longest is proposed, unless another is asked for', () => {
    show();
    const names = [...field('media').querySelectorAll('option')].map((option) => option.textContent);
    expect([names, field('media').value]).toEqual([['talk.mp4 (10:00)', 'race.mp4 (2:00:00)'], 'race']);
    cleanup();
    show({ media: 'talk' });
    expect(field('media').value).toBe('talk');
  });
  it('a usual length sets both ends; others are one’s own', () => {
    show();
    const lengths = screen.getByRole<HTMLSelectElement>('combobox', { name: 'Usual lengths' });
    const named = lengths.options[1]!.value;
    fireEvent.change(lengths, { target: { value: named } });
    expect([lengths.value, Number(field('minSeconds').value) < Number(field('maxSeconds').value)]).toEqual([
      named,
      true,
    ]);
    fireEvent.change(field('maxSeconds'), { target: { value: '47.5' } });
    expect([lengths.value, field('maxSeconds').value]).toEqual(['', '47.5']);
  });
  it.each([
    ['2:05', '125'],
    ['1:02:05', '3725'],
    ['0:07.5', '7.5'],
    ['125', '125'],
    ['half past', 'half past'],
    ['', ''],
  ])('a time of “%s” is sent as “%s”', (typed, sent) => {
    show();
    fireEvent.change(screen.getByRole('textbox', { name: 'Only from' }), { target: { value: typed } });
    expect(field('from').value).toBe(sent);
    expect(field('to').value).toBe('');
  });
  it('shows what was wished before, and what is wrong with it', () => {
    const before = { ...shortsDefaults, count: 7, range: { start: 60, end: 120 }, shape: '1:1' as const };
    show({
      before: { ...before, request: 'boats', houseStyle: null },
      problems: { count: 'Too many.', to: 'Too far.' },
    });
    expect([field('count').value, field('shape').value, field('request').value]).toEqual(['7', '1:1', 'boats']);
    expect([field('from').value, field('to').value]).toEqual(['60', '120']);
    expect([screen.getByText('Too many.'), screen.getByText('Too far.')].every(Boolean)).toBe(true);
  });
  it('an end that means all of it is left empty', () => {
    const range = { start: 30, end: Number.MAX_SAFE_INTEGER };
    show({ before: { ...shortsDefaults, range, shape: '9:16', request: '', houseStyle: null } });
    expect([field('from').value, field('to').value]).toEqual(['30', '']);
  });
  it('without a film it says what to do', () => {
    show({ items: [] });
    expect(screen.getByText(/Bring one in under Footage/)).toBeTruthy();
  });
});
