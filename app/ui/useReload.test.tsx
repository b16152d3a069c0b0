// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { createRoutesStub, Link, Outlet } from 'react-router';
import { afterEach, expect, it, vi } from 'vitest';
import { useReload } from './useReload';

afterEach(cleanup);

/** A place whose loader answers when it is told to, beside another one. */
function open() {
  const answers: (() => void)[] = [];
  const signals: AbortSignal[] = [];
  const loaderOf = (name: string) =>
    vi.fn(({ request }: { request: Request }) => {
      signals.push(request.signal);
      return new Promise<string>((answer) => answers.push(() => answer(name)));
    });
  const [here, there] = [loaderOf('here'), loaderOf('there')];
  const loaded = vi.fn();
  function Around() {
    const reload = useReload();
    return (
      <>
        <button onClick={() => void reload().then(loaded)}>load again</button>
        <Link to="/there">go</Link>
        <Outlet />
      </>
    );
  }
  const Stub = createRoutesStub([
    {
      id: 'around',
      path: '/',
      Component: Around,
      children: [
        { id: 'here', index: true, Component: () => <p>here</p>, loader: here },
        { id: 'there', path: 'there', Component: () => <p>there</p>, loader: there },
      ],
    },
  ]);
  render(<Stub hydrationData={{ loaderData: { here: 'here' } }} />);
  const answer = () => act(async () => answers.shift()!());
  return { here, there, loaded, signals, answer };
}

it('one load after the other: those who ask meanwhile share the next, and none is broken off', async () => {
  const { here, loaded, signals, answer } = open();
  const again = await screen.findByText('load again');
  for (let times = 0; times < 4; times++) fireEvent.click(again);
  await vi.waitFor(() => expect(here).toHaveBeenCalledTimes(1));
  expect(loaded).not.toHaveBeenCalled();
  await answer();
  await vi.waitFor(() => expect(here).toHaveBeenCalledTimes(2));
  expect(loaded).toHaveBeenCalledTimes(1);
  await answer();
  await vi.waitFor(() => expect(loaded).toHaveBeenCalledTimes(4));
  expect(here).toHaveBeenCalledTimes(2);
  expect(signals.map(({ aborted }) => aborted)).toEqual([false, false]);
});

it('a way to another place that is being gone is gone first', async () => {
  const { here, there, loaded, signals, answer } = open();
  fireEvent.click(await screen.findByText('go'));
  await vi.waitFor(() => expect(there).toHaveBeenCalledTimes(1));
  fireEvent.click(screen.getByText('load again'));
  await answer();
  expect(await screen.findByText('there')).toBeTruthy();
  await vi.waitFor(() => expect(there).toHaveBeenCalledTimes(2));
  expect(signals.map(({ aborted }) => aborted)).toEqual([false, false]);
  await answer();
  await vi.waitFor(() => expect(loaded).toHaveBeenCalledTimes(1));
  expect(here).not.toHaveBeenCalled();
});
