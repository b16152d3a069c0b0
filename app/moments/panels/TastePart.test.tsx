// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { showScreen } from '../../testScreen';
import type { Tastes } from '../model/useTastes';
import { TastePart } from './TastePart';

const means = { people: 0.1, talk: 0.5, action: 0, camera: 0, sound: 0, picture: 0.3 };
const village = { id: 'v', name: 'Village events', brought: 0, projects: 2 };
const open = (own: Partial<Tastes> = {}) => {
  const onTaste = vi.fn();
  const change = vi.fn((body: object) => Promise.resolve<string | null>('id' in body ? 'v' : 'made'));
  showScreen(
    <TastePart
      tastes={{ tastes: [village], others: [], projects: 0, taste: null, problem: null, change, ...own }}
      onTaste={onTaste}
    />,
  );
  return { onTaste, change };
};
const choose = (value: string) => fireEvent.change(screen.getByLabelText('Taste'), { target: { value } });
afterEach(cleanup);

describe('the taste of a project', () => {
  it('is this project only at first; another is taken by its name, and left again', () => {
    const { onTaste } = open();
    expect(screen.getByLabelText<HTMLSelectElement>('Taste').value).toBe('');
    choose('v');
    choose('');
    expect(onTaste.mock.calls).toEqual([['v'], [null]]);
  });
  it('is made under a name and taken at once', async () => {
    const { onTaste, change } = open();
    choose('new');
    const name = screen.getByLabelText('Name of the taste');
    fireEvent.change(name, { target: { value: '  Fairs ' } });
    fireEvent.submit(name);
    await waitFor(() => expect(onTaste).toHaveBeenCalledWith('made'));
    expect(change).toHaveBeenCalledWith({ intent: 'add', name: 'Fairs' });
    await waitFor(() => expect(screen.queryByLabelText('Name of the taste')).toBeNull());
  });
  it.each([
    [{ others: [], projects: 0 }, 'Nothing has been decided elsewhere yet'],
    [{ others: [{ kept: true, means }], projects: 1 }, 'With 1 choice from 1 other project.'],
    [
      { others: [{ kept: true, means }], projects: 0, tastes: [{ ...village, brought: 1 }] },
      'With 1 choice from a file.',
    ],
    [
      { others: new Array(12).fill({ kept: false, means }), projects: 2, tastes: [{ ...village, brought: 4 }] },
      'With 12 choices from 2 other projects and a file.',
    ],
  ])('says what it stands on: %#', (own, said) => {
    open({ taste: 'v', ...own });
    expect(screen.getByTestId('taste').textContent).toContain(said);
  });
  it('is taken along as a file, and removed with a way back', async () => {
    const { change } = open({ taste: 'v' });
    expect(screen.getByRole('link', { name: 'Export the taste' }).getAttribute('href')).toBe('/tastes/v');
    fireEvent.click(screen.getByRole('button', { name: 'Delete the taste' }));
    await waitFor(() => expect(change).toHaveBeenCalledWith({ intent: 'remove', id: 'v' }));
  });
  it('a problem is said', () => {
    open({ problem: 'The server does not answer. Try again in a moment.' });
    expect(screen.getByRole('alert').textContent).toMatch(/does not answer/);
  });
});
