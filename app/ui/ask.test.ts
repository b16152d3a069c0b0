import { afterEach, expect, it, vi } from 'vitest';
import { tell } from './ask';

afterEach(() => vi.unstubAllGlobals());
const server = (answer: () => Promise<Response>) => {
  const fetched = vi.fn((_address: string, _init: RequestInit) => answer());
  vi.stubGlobal('fetch', fetched);
  return fetched;
};

it('posts JSON and gives what the server says', async () => {
  const fetched = server(() =>
    Promise.resolve(Response.json({ problem: 'Give it a name.', id: null }, { status: 422 })),
  );
  expect(await tell('/presets', { intent: 'keep' })).toEqual({ problem: 'Give it a name.', id: null });
  expect(fetched).toHaveBeenCalledWith(
    '/presets',
    expect.objectContaining({ method: 'POST', body: '{"intent":"keep"}' }),
  );
});
it.each([
  ['nobody', () => Promise.reject(new TypeError('Failed to fetch'))],
  ['a page of faults', () => Promise.resolve(new Response('<html>', { status: 500 }))],
])('%s that answers is a problem with a sentence', async (_, answer) => {
  server(answer);
  expect((await tell('/presets', {})).problem).toMatch(/does not answer/);
});
