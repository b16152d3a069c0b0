// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { createRoutesStub, Link } from 'react-router';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { shortcuts } from '../keys';
import { placeNames } from '../ui/placeNames';
import { Hints } from './Hints';
import { hintParts, hintPlace, hints } from './hintWords';

const project = '/projects/p';

describe('hints', () => {
  it('there are at most three for a place, and every place has some', () => {
    for (const [address] of placeNames) expect(hints, address).toHaveProperty(hintPlace(`${project}/${address}`)!);
    expect(hintPlace(`${project}/reels/r`)).toBe('reel');
    expect([hintPlace(`${project}/footage/people`), hintPlace(`${project}/begin`)]).toEqual([null, null]);
    for (const [place, said] of Object.entries(hints)) expect(said.length, place).toBeLessThanOrEqual(3);
  });
  it('name commands that there are', () => {
    const named = Object.values(hints)
      .flat()
      .flatMap(hintParts)
      .flatMap((part) => (typeof part === 'string' ? [] : [part.command]));
    expect(named.length).toBeGreaterThan(10);
    expect(Object.keys(shortcuts)).toEqual(expect.arrayContaining(named));
  });

  describe('on the screen', () => {
    beforeEach(() => localStorage.clear());
    afterEach(cleanup);
    const open = () => {
      const Stub = createRoutesStub([
        {
          path: '*',
          Component: () => (
            <>
              <Link to={`${project}/outputs`}>outputs</Link>
              <Hints />
            </>
          ),
        },
      ]);
      return render(<Stub initialEntries={[`${project}/moments`]} />);
    };
    const shown = () => screen.queryByRole('complementary', { name: 'Hints for this place' });

    it('stay until they were read, then never come again; other places still have theirs', async () => {
      open();
      expect((await screen.findByRole('complementary')).textContent).toContain('+ keeps the moment');
      fireEvent.click(screen.getByText('Got it'));
      expect(shown()).toBeNull();
      fireEvent.click(screen.getByText('outputs'));
      expect((await screen.findByRole('complementary')).textContent).toContain('Download a file');
      cleanup();
      open();
      await screen.findByText('outputs');
      expect(shown()).toBeNull();
    });
    it('are not shown anywhere once none are wanted', async () => {
      open();
      fireEvent.click(await screen.findByText('No more hints'));
      fireEvent.click(screen.getByText('outputs'));
      await new Promise((wake) => setTimeout(wake, 50));
      expect(shown()).toBeNull();
    });
  });
});
