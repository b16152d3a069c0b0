// @vitest-environment jsdom
import { act, cleanup, render, screen } from '@testing-library/react';
import { createRoutesStub, redirect, useFetcher, useRevalidator } from 'react-router';
import { afterEach, expect, it, vi } from 'vitest';
import { useGoTo, type GoingAnswer } from './useGoTo';

let revalidate: () => Promise<void>;
let submit: () => void;
function Place() {
  const fetcher = useFetcher<GoingAnswer>();
  useGoTo(fetcher);
  revalidate = useRevalidator().revalidate;
  submit = () => void fetcher.submit(null, { method: 'post', action: '/' });
  return <p>here</p>;
}

/** A place whose action answers when it is told to. */
function open(answerWith: () => unknown) {
  let answer = () => {};
  const answered = new Promise<void>((done) => (answer = done));
  const action = vi.fn(async () => {
    await answered;
    return answerWith();
  });
  const Stub = createRoutesStub([
    { id: 'here', path: '/', Component: Place, loader: () => null, action: action as () => Promise<null> },
    { path: '/there', Component: () => <p>there</p> },
  ]);
  render(<Stub hydrationData={{ loaderData: { here: null } }} />);
  return { action, answer };
}

afterEach(cleanup);

/** Sends, lets running work load everything anew meanwhile, and answers. */
async function sendWhileLoading({ action, answer }: ReturnType<typeof open>) {
  await screen.findByText('here');
  act(() => submit());
  await vi.waitFor(() => expect(action).toHaveBeenCalled());
  await act(() => revalidate());
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
