import { expect, it } from 'vitest';
import { loader } from './events';

const ask = (query: string, method = 'GET') =>
  loader({ request: new Request(`http://127.0.0.1/events${query}`, { method }) } as Parameters<typeof loader>[0]);
const id = (end: number) => `project=0b0a7000-0000-4000-8000-${String(end).padStart(12, '0')}`;

it('tells of projects that are named, and of not too many', () => {
  for (const query of [
    '',
    '?project=',
    '?project=../x',
    `?${Array.from({ length: 51 }, (_, end) => id(end)).join('&')}`,
  ])
    expect(ask(query).status, query).toBe(400);
});
// WHATWG HTML, 9.2.5: the type of an event stream; a proxy that packed or kept it would hold events back.
it('is an event stream that nobody keeps', () => {
  const { headers, body } = ask(`?${id(1)}`, 'HEAD');
  expect(headers.get('content-type')).toMatch(/^text\/event-stream/);
  expect(headers.get('cache-control')).toBe('no-store, no-transform');
  expect(body).toBeNull();
});
