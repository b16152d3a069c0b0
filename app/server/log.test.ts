import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

const lines: { level: string; about: Record<string, unknown>; message: string }[] = [];
vi.mock('pino', () => ({
  default: () =>
    Object.fromEntries(
      ['debug', 'warn', 'error'].map((level) => [
        level,
        (about: Record<string, unknown>, message: string) => void lines.push({ level, about, message }),
      ]),
    ),
}));
const { logFault, logged } = await import('./log.server');

const ask = (headers: Record<string, string> = {}) =>
  new Request('http://pond/media/1?x=2', { method: 'POST', headers });

describe('what the web server tells of requests', () => {
  beforeEach(() => void lines.splice(0));
  afterEach(() => vi.useRealTimers());

  it('every answer has an id; one that a proxy gave is taken over, one that is none is not', async () => {
    const own = await logged(ask(), async () => new Response('ok'));
    expect(own.headers.get('X-Request-Id')).toMatch(/^[0-9a-f-]{36}$/);
    const given = await logged(ask({ 'x-request-id': 'proxy-1234' }), async () => new Response('ok'));
    expect(given.headers.get('X-Request-Id')).toBe('proxy-1234');
    const odd = await logged(ask({ 'x-request-id': 'a b\tc' }), async () => new Response('ok'));
    expect(odd.headers.get('X-Request-Id')).toMatch(/^[0-9a-f-]{36}$/);
    expect(lines.map(({ level }) => level)).toEqual(['debug', 'debug', 'debug']);
  });

  it('a fault is told of under the id of its request, without what the address asked for', async () => {
    const request = ask({ 'x-request-id': 'proxy-1234' });
    await logged(request, async () => {
      logFault(new Error('disk full'), request);
      return new Response('', { status: 500 });
    });
    expect(lines).toMatchObject([
      { level: 'error', about: { request: 'proxy-1234', method: 'POST', path: '/media/1' } },
      { level: 'error', about: { request: 'proxy-1234', status: 500 }, message: 'fault' },
    ]);
    expect((lines[0]!.about.err as Error).message).toBe('disk full');
  });

  it('an answer that takes long is told of', async () => {
    const clock = vi.spyOn(performance, 'now').mockReturnValueOnce(0).mockReturnValueOnce(2500);
    await logged(ask(), async () => new Response('ok'));
    clock.mockRestore();
    expect(lines).toMatchObject([{ level: 'warn', about: { seconds: 2.5 }, message: 'slow' }]);
  });
});
