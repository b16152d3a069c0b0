import { describe, expect, it } from 'vitest';
import { outageNow } from './connection';
import { isScreenData, patientFetch } from './patientFetch';

const origin = 'http://127.0.0.1:4310';

describe('requests for the data of a screen', () => {
  it('are told from everything else', () => {
    expect(
      ['/projects/x/moments.data?_routes=a', `${origin}/_root.data`, '/__manifest?v=1'].map((address) =>
        isScreenData(address, origin),
      ),
    ).toEqual([true, true, true]);
    expect(
      ['/media/x/levels', 'https://elsewhere.example/a.data', '/projects/x/tasks', '/file.data.mp4'].map((address) =>
        isScreenData(address, origin),
      ),
    ).toEqual([false, false, false, false]);
  });
  it('wait for a server that is away, with the same body each time', async () => {
    const bodies: unknown[] = [];
    let left = 3;
    const inner = (async (input: string | Request, init?: RequestInit) => {
      bodies.push(input instanceof Request ? await input.text() : init?.body);
      if (left-- > 0)
        return left % 2 ? Promise.reject(new TypeError('Failed to fetch')) : new Response('', { status: 503 });
      return new Response('here');
    }) as typeof fetch;
    const patient = patientFetch(inner, origin, async () => undefined);
    expect(await (await patient('/a.data', { method: 'POST', body: 'x=1' })).text()).toBe('here');
    expect(bodies).toEqual(['x=1', 'x=1', 'x=1', 'x=1']);
    left = 1;
    expect(await (await patient(new Request(`${origin}/a.data`, { method: 'POST', body: 'y' }))).text()).toBe('here');
    expect(bodies.slice(-2)).toEqual(['y', 'y']);
  });
  it('wait until the password was given again, so that the screen stays', async () => {
    const answers = [401, 401, 200];
    const inner = (async () => new Response('here', { status: answers.shift()! })) as typeof fetch;
    const seen: unknown[] = [];
    const patient = patientFetch(inner, origin, async () => void seen.push(outageNow()?.why));
    expect([(await patient('/a.data')).status, seen, outageNow()]).toEqual([200, ['locked', 'locked'], null]);
  });
  it('are given up by whoever sent them', async () => {
    const stop = new AbortController();
    const patient = patientFetch(
      () => Promise.reject(new TypeError('Failed to fetch')),
      origin,
      async () => stop.abort(),
    );
    await expect(patient('/a.data', { signal: stop.signal })).rejects.toThrow(/abort/i);
  });
  it('answers that mean something are handed on, also bad ones; files fail as they always did', async () => {
    const patient = patientFetch(
      (async (input: string) =>
        String(input).includes('file')
          ? Promise.reject(new TypeError('Failed to fetch'))
          : new Response('', { status: 404 })) as typeof fetch,
      origin,
    );
    expect((await patient('/a.data')).status).toBe(404);
    await expect(patient('/media/file')).rejects.toThrow('Failed to fetch');
  });
});
