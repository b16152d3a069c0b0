// @vitest-environment jsdom
import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { OutputLine } from '#usecases/renders';
import type { TaskLine } from '#usecases/tasks';
import { showScreen } from '../testScreen';
import { OutputRow } from './OutputRow';

const output: OutputLine = {
  id: 'o',
  reelId: 'r',
  name: 'Pond, the best',
  format: 'mp4',
  width: 1080,
  height: 1920,
  seconds: 95,
  size: 12_000_000,
  lufs: -16.04,
  peakDb: -1.2,
  createdAt: new Date('2026-06-06T10:00:00Z'),
  ready: true,
  captions: 'burnt',
  isUnderLink: false,
  task: null,
};
const task = (state: string, more: Partial<TaskLine> = {}) =>
  ({ id: 't', state, progress: 0.25, secondsLeft: null, sentence: null, waits: null, ...more }) as TaskLine;

describe('a finished file, or one that is being made', () => {
  afterEach(cleanup);
  const show = (change: Partial<OutputLine>, live?: TaskLine) => {
    showScreen(
      <table>
        <tbody>
          <OutputRow
            render={{ ...output, ...change }}
            live={live}
            isShown={false}
            onShow={vi.fn()}
            tasksAddress="/tasks"
          />
        </tbody>
      </table>,
    );
    return {
      state: screen.getByRole('status').textContent,
      actions: [...screen.queryAllByRole('button'), ...screen.queryAllByRole('link')]
        .map((each) => each.getAttribute('aria-label') ?? each.textContent)
        .filter((each) => each !== output.name),
    };
  };

  it('is there to be taken away, with what it measures', () => {
    expect(show({})).toEqual({ state: 'ready', actions: ['Delete this output', ' Download'] });
    expect(screen.getByText('-16.0 LUFS, -1.2 dBTP')).toBeTruthy();
    expect(screen.getByRole('link').getAttribute('href')).toBe('/outputs/o?download');
  });
  it('has its captions beside it where that was wished', () => {
    expect(show({ captions: 'beside' }).actions).toEqual(['Delete this output', ' Download', ' SRT']);
    expect(screen.getByRole('link', { name: /SRT/ }).getAttribute('href')).toBe('/outputs/o/captions');
  });
  it('can be dragged to a folder: by type, name and address', () => {
    show({});
    const given = new Map<string, string>();
    fireEvent.dragStart(screen.getByRole('row'), {
      dataTransfer: {
        types: [],
        setData: (type: string, value: string) => given.set(type, value),
        setDragImage: () => undefined,
      },
    });
    expect(given.get('DownloadURL')).toBe('video/mp4:Pond, the best.mp4:http://localhost:3000/outputs/o?download');
    cleanup();
    show({ ready: false }, task('running'));
    expect(screen.getByRole('row').getAttribute('draggable')).toBeNull();
  });
  it('says how far it is, or how long it will take, and can be cancelled', () => {
    expect(show({ ready: false }, task('running'))).toEqual({ state: '25 %', actions: [' Cancel'] });
    cleanup();
    expect(show({ ready: false }, task('running', { secondsLeft: 70 })).state).toMatch(/1 min 10 s/);
  });
  it('says what it waits for', () =>
    expect(show({ ready: false }, task('queued', { waits: 'waits until “pond.mp4” is read' }))).toEqual({
      state: 'waits until “pond.mp4” is read',
      actions: [' Cancel'],
    }));
  it('that failed says why, and can be tried again', () =>
    expect(show({ ready: false, task: task('failed', { sentence: 'The disk is full.' }) })).toEqual({
      state: 'The disk is full.',
      actions: [' Try again', 'Delete this output'],
    }));
  it('that is ready is so whatever its task says, and no loudness is made up', () => {
    expect(show({ lufs: null, peakDb: null }, task('running')).state).toBe('ready');
    expect(screen.queryByText(/LUFS/)).toBeNull();
  });
});
