// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { Composer, type Said } from './Composer';

const onSend = vi.fn<(said: Said) => void>();
const shown = (arrived: string[] = []) => (
  <Composer
    isLarge
    draft="comment on a film"
    label="Comment"
    placeholder="What?"
    arrived={new Set(arrived)}
    onSend={onSend}
  />
);
const text = () => screen.getByPlaceholderText<HTMLTextAreaElement>('What?');
const write = (words: string) => fireEvent.change(text(), { target: { value: words } });
const press = () => fireEvent.click(screen.getByRole('button', { name: 'Comment' }));

beforeEach(() => {
  localStorage.clear();
  sessionStorage.clear();
  onSend.mockClear();
});
afterEach(cleanup);

it('asks for a name first, and keeps it for the next time', () => {
  const page = render(shown());
  write('Lovely.');
  press();
  expect(screen.getByRole('alert').textContent).toMatch(/^Give your name first/);
  fireEvent.change(screen.getByLabelText('Your name'), { target: { value: ' Ada ' } });
  press();
  expect(onSend).toHaveBeenCalledWith(expect.objectContaining({ name: 'Ada', text: 'Lovely.' }));
  page.unmount();
  render(shown());
  expect(screen.getByLabelText<HTMLInputElement>('Your name').value).toBe(' Ada ');
});

it('keeps what was written until it has arrived, over a refusal and a reload, under the same id', () => {
  localStorage.setItem('name of a visitor', 'Ada');
  const page = render(shown());
  write('Lovely.');
  press();
  // Refused, or the server is away: it is there, and can be sent again.
  expect(text().value).toBe('Lovely.');
  press();
  page.unmount();
  const again = render(shown());
  expect(text().value).toBe('Lovely.');
  press();
  const ids = onSend.mock.calls.map(([said]) => said.id);
  expect([ids.length, new Set(ids).size]).toEqual([3, 1]);
  again.rerender(shown([ids[0]!]));
  expect(text().value).toBe('');
  write('And one more.');
  press();
  expect(onSend.mock.calls.at(-1)![0].id).not.toBe(ids[0]);
});
