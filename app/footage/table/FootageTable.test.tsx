// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { createRef, useState } from 'react';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Item } from '#usecases/projects';
import { showScreen } from '../../testScreen';
import { testItem } from '../testItems';
import { nothingChosen } from './choosing';
import { FootageTable, type FootageTableProps } from './FootageTable';
import { sortOf } from './sorting';
import { usualView } from './tableView';

vi.mock('../../drawing/MiniTraces', () => ({ MiniTraces: () => null }));
// The DOM of tests lays nothing out; a list that is not seen has no rows.
beforeAll(() => {
  vi.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(67);
  vi.spyOn(Element.prototype, 'clientHeight', 'get').mockReturnValue(670);
});
afterAll(() => vi.restoreAllMocks());

const onChosen = vi.fn();
const onRenamed = vi.fn();
/** The table with what is usually around it, which remembers what is chosen and how it is sorted. */
function Around({ items, ...more }: { items: readonly Item[] } & Partial<FootageTableProps>) {
  const [choice, setChoice] = useState(nothingChosen);
  const [sort, setSort] = useState('');
  return (
    <div style={{ overflowY: 'auto' }}>
      <FootageTable
        items={items}
        sort={sortOf(sort)}
        onSort={setSort}
        view={usualView}
        choice={choice}
        onChoice={(next) => {
          setChoice(next);
          onChosen([...next.ids].join(''));
        }}
        inStep={false}
        binName={() => ''}
        renaming={null}
        onRenamed={onRenamed}
        menuOf={() => []}
        orderRef={createRef() as FootageTableProps['orderRef']}
        {...more}
      />
    </div>
  );
}

const summary = { faces: 2, speechShare: 0.61, shakySeconds: 12, movingSeconds: 0, flawedSeconds: 0, scenes: 3 };

describe('an item in the table', () => {
  afterEach(cleanup);
  const show = (item: Item, inStep = false) => {
    showScreen(<Around items={[item]} inStep={inStep} />);
    return screen.getAllByRole('cell').map((cell) => cell.textContent ?? '');
  };
  const read = (item: Item) => show(item).at(-1)!;

  it('shows name, size, length and format', () => {
    const [, , name, length, format] = show(testItem('launch', { probe: { durationSeconds: 75 } }));
    expect([name, length, format]).toEqual(['launch.mp41.0 KB', '1:15', '1280×720, 25 fps']);
  });
  it('what stands in it stays what it is while things around it change', () => {
    show(testItem('launch'));
    const name = screen.getByRole('link', { name: 'launch.mp4' });
    fireEvent.click(screen.getByRole('checkbox', { name: 'Choose launch.mp4' }));
    expect(onChosen).toHaveBeenLastCalledWith('launch');
    expect(screen.getByRole('link', { name: 'launch.mp4' })).toBe(name);
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
});

describe('the table', () => {
  afterEach(cleanup);
  const items = [
    testItem('a', { name: 'boat 10.mp4', position: 0, probe: { durationSeconds: 5 } }),
    testItem('b', { name: 'boat 9.mp4', position: 1, probe: null }),
    testItem('c', { name: 'anchor.mp4', position: 2, probe: { durationSeconds: 70 } }),
    testItem('d', { name: 'duck.mp4', position: 3, probe: { durationSeconds: 60 } }),
  ];
  const names = () => screen.getAllByRole('link').map((link) => link.textContent?.slice(0, -4));
  const row = (name: string) => screen.getByRole('link', { name: `${name}.mp4` }).closest('tr')!;

  it('a head sorts its usual way, the other way, and not any more; what is not known stays last', () => {
    showScreen(<Around items={items} />);
    const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));
    press('Name');
    expect(names()).toEqual(['anchor', 'boat 9', 'boat 10', 'duck']);
    expect(screen.getByRole('columnheader', { name: 'Name' }).getAttribute('aria-sort')).toBe('ascending');
    press('Length');
    expect(names()).toEqual(['anchor', 'duck', 'boat 10', 'boat 9']);
    press('Length');
    expect(names()).toEqual(['boat 10', 'duck', 'anchor', 'boat 9']);
    press('Length');
    expect(names()).toEqual(['boat 10', 'boat 9', 'anchor', 'duck']);
  });
  it('rows are chosen by a press, one more with Ctrl, up to one with Shift; a box adds', () => {
    showScreen(<Around items={items} />);
    fireEvent.click(row('boat 9'));
    expect(onChosen).toHaveBeenLastCalledWith('b');
    fireEvent.click(row('duck'), { shiftKey: true });
    expect(onChosen).toHaveBeenLastCalledWith('bcd');
    fireEvent.click(row('anchor'), { ctrlKey: true });
    expect(onChosen).toHaveBeenLastCalledWith('bd');
    fireEvent.click(screen.getByRole('checkbox', { name: 'Choose boat 10.mp4' }));
    expect(onChosen).toHaveBeenLastCalledWith('bda');
    const all = screen.getByRole<HTMLInputElement>('checkbox', { name: 'Choose all' });
    expect(all.indeterminate).toBe(true);
    fireEvent.click(all);
    expect(onChosen).toHaveBeenLastCalledWith('abcd');
  });
  it('a link in a row is followed, and chooses nothing', () => {
    showScreen(<Around items={items} />);
    onChosen.mockClear();
    fireEvent.click(screen.getByRole('link', { name: 'duck.mp4' }));
    expect(onChosen).not.toHaveBeenCalled();
  });
  it('a range goes by what is seen, not by what arrived', () => {
    showScreen(<Around items={items} />);
    fireEvent.click(screen.getByRole('button', { name: 'Name' }));
    fireEvent.click(row('anchor'));
    fireEvent.click(row('boat 10'), { shiftKey: true });
    expect(onChosen).toHaveBeenLastCalledWith('cba');
  });
  it('a name is typed without its ending; Escape and the same name change nothing', () => {
    const type = (text: string, key: string) => {
      showScreen(<Around items={[items[0]!]} renaming="a" />);
      const field = screen.getByRole<HTMLInputElement>('textbox', { name: 'New name, without its ending' });
      expect(field.value).toBe('boat 10');
      fireEvent.change(field, { target: { value: text } });
      fireEvent.keyDown(field, { key });
      fireEvent.blur(field);
      cleanup();
      return onRenamed.mock.calls[0]![1] as string | null;
    };
    expect(type(' the red boat ', 'Enter')).toBe('the red boat');
    onRenamed.mockClear();
    expect(type('the red boat', 'Escape')).toBeNull();
    onRenamed.mockClear();
    expect(type('boat 10', 'Enter')).toBeNull();
  });
});
