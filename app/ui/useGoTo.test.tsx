// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { createRoutesStub, redirect, useFetcher, useRevalidator } from 'react-router';
import { afterEach, expect, it, vi } from 'vitest';
import { useGoTo, type GoingAnswer } from './useGoTo';

function Place() {
  const fetcher = useFetcher<GoingAnswer>();
  const { revalidate } = useRevalidator();
  useGoTo(fetcher);
  return (
    <>
      <p>here</p>
      <button onClick={() => void fetcher.submit(null, { method: 'post', action: '/' })}>send</button>
      <button onClick={() => void revalidate()}>load anew</button>
    </>
  );
}

/** A place whose action answers when it is told to. */
function open(answerWith: () => unknown) {
  let answer = () => {};
  const answered = new Promise<void>((done) => (answer = done));
  const loader = vi.fn(() => null);
  const action = vi.fn(async () => {
    await answered;
    return answerWith();
  });
  const Stub = createRoutesStub([
    { id: 'here', path: '/', Component: Place, loader, action },
    { path: '/there', Component: () => <p>there</p> },
  ]);
  render(<Stub hydrationData={{ loaderData: { here: null } }} />);
  return { action, loader, answer };
}

afterEach(cleanup);

/** Sends, lets running work load everything anew meanwhile, and answers. */
async function sendWhileLoading({ action, loader, answer }: ReturnType<typeof open>) {
  fireEvent.click(await screen.findByText('send'));
  await vi.waitFor(() => expect(action).toHaveBeenCalled());
  fireEvent.click(screen.getByText('load anew'));
  await vi.waitFor(() => expect(loader).toHaveBeenCalled());
  await act(async () => answer());
}

it('goes where an answer says, also when something was loaded anew meanwhile', async () => {
  await sendWhileLoading(open(() => ({ goTo: '/there' })));
  expect(await screen.findByText('there')).toBeTruthy();
});

it('is needed: a redirect is dropped then', async () => {
  await sendWhileLoading(open(() => redirect('/there')));
  await new Promise((done) => setTimeout(done, 50));
  expect(screen.queryByText('here')).toBeTruthy();
});

it('stays when an answer names no place', async () => {
  await sendWhileLoading(open(() => ({ goTo: null })));
  expect(screen.queryByText('here')).toBeTruthy();
});
