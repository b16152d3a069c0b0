// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Item } from '#usecases/projects';
import { showScreen } from '../testScreen';
import { FootageRow } from './FootageRow';
import { testItem } from './testItems';

vi.mock('../drawing/MiniTraces', () => ({ MiniTraces: () => null }));

const summary = { faces: 2, speechShare: 0.61, shakySeconds: 12, movingSeconds: 0, flawedSeconds: 0, scenes: 3 };

describe('an item in the table', () => {
  afterEach(cleanup);
  const show = (item: Item, inStep = false, onChoose = vi.fn()) => {
    showScreen(
      <table>
        <tbody>
          <FootageRow item={item} chosen={false} inStep={inStep} onChoose={onChoose} />
        </tbody>
      </table>,
    );
    return screen.getAllByRole('cell').map((cell) => cell.textContent ?? '');
  };
  const read = (item: Item) => show(item).at(-1)!;

  it('shows name, size, length and format', () => {
    const [, , name, length, format] = show(testItem('launch', { probe: { durationSeconds: 75 } }));
    expect([name, length, format]).toEqual(['launch.mp41.0 KB', '1:15', '1280×720, 25 fps']);
  });
  it('a photo has no length, a sound no size', () => {
    const [, , , length, format] = show(testItem('p', { probe: { kind: 'photo' } }));
    expect([length, format]).toEqual(['', 'photo, 1280×720']);
    cleanup();
    expect(show(testItem('r', { probe: { kind: 'sound' } }))[4]).toBe('sound');
  });
  it.each<[string, Parameters<typeof testItem>[1], RegExp]>([
    ['what was read', { summary }, /2 .*61 %.*12 s/],
    ['that it waits, and for what', { state: 'queued', waits: 'waits for a worker; 2 before it' }, /2 before it/],
    ['that it is being read, and what is known so far', { state: 'running', isRough: true, summary }, /so far: .*61 %/],
    ['that only a first look was taken', { isRough: true, summary }, /first look only.*Read on/],
    ['that nothing was read', { summary: null }, /not read\. Read it/],
    [
      'that another reading is on its way',
      { state: 'running', nextTask: 't', summary },
      /another reading is on its way/,
    ],
    ['what is wrong, and a way on', { problem: 'This file is damaged.' }, /damaged\. Try again/],
    ['talk of a recording', { probe: { kind: 'sound' }, summary }, /61 % talk/],
    ['music', { probe: { kind: 'sound' } }, /music or sound/],
    ['faces of a photo', { probe: { kind: 'photo' }, summary: { ...summary, faces: 1 } }, /^1 face$/],
    ['what to watch out for', { warnings: ['The last second is missing.'] }, /The last second is missing/],
  ] as [string, Parameters<typeof testItem>[1], RegExp][])('says %s', (_, more, says) =>
    expect(read(testItem('a', more))).toMatch(says),
  );
  it('of cameras in step, where it lies on their clock', () => {
    expect(show(testItem('a', { syncOffset: -2.5 }), true)[2]).toMatch(/begins at −0:02\.5/);
    cleanup();
    expect(show(testItem('a'), true)[2]).toMatch(/place not known/);
  });
  it('is chosen by its box', () => {
    const onChoose = vi.fn();
    show(testItem('a'), false, onChoose);
    fireEvent.click(screen.getByRole('checkbox', { name: 'Choose a.mp4' }));
    expect(onChoose).toHaveBeenCalledTimes(1);
  });
});
