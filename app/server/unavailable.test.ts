import { afterAll, describe, expect, it } from 'vitest';
import { closeDatabase } from '#data/db';
import { sayUnavailable } from './unavailable.server';

const before = process.env.DATABASE_URL;
const at = (url: string | undefined) => (process.env.DATABASE_URL = url);
const answer = async (accept: string, status: number) =>
  (
    await sayUnavailable(
      new Request('http://127.0.0.1/x.data', { headers: { accept } }),
      new Response('{}', { status }),
    )
  ).status;

describe('an answer that failed', () => {
  afterAll(async () => {
    await closeDatabase();
    at(before);
  });
  it('while the database is away means “not now” to a screen, so that it keeps what it shows', async () => {
    // Nobody listens on port 1 (tcpmux, IANA).
    at('postgresql://nobody@127.0.0.1:1/none');
    expect([await answer('*/*', 500), await answer('*/*', 200), await answer('*/*', 404)]).toEqual([503, 200, 404]);
    expect(await answer('text/html,*/*', 500)).toBe(500);
    await closeDatabase();
  });
  it.skipIf(!before)('while the database answers is a fault of its own', async () => {
    at(before);
    expect(await answer('*/*', 500)).toBe(500);
  });
});
