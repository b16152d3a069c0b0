import { afterAll, describe, expect, it } from 'vitest';
import { closeDatabase, migrateDatabase } from './db';
import { checkUpgrade, whyNotUpgrade, type DatabaseState } from './upgrade';

describe('before tables are brought up to date', () => {
  const known = [100, 200, 300];
  const usual: DatabaseState = { server: 15, encoding: 'UTF8', latest: 200, workers: 0, room: 1e9 };
  const why = (over: Partial<DatabaseState>) => whyNotUpgrade({ ...usual, ...over }, known);

  it('an empty one, one of an earlier version, and one that is up to date may be', () => {
    expect([why({ latest: null }), why({}), why({ latest: 300 })]).toEqual([null, null, null]);
    // Nothing is changed in it: others may work with it, and the disk may be full.
    expect(why({ latest: 300, workers: 4, room: 0 })).toBeNull();
    expect(why({ latest: null, workers: 4, room: 0 })).toBeNull();
  });
  it.each([
    [{ server: 13 }, /PostgreSQL 13; Bright Reel needs 14/],
    [{ encoding: 'LATIN1' }, /as LATIN1/],
    [{ latest: 301 }, /by a later version/],
    [{ workers: 1 }, /^A worker of the version before is still at work.*stop it first/],
    [{ workers: 2 }, /^2 workers .* are still at work.*stop them first/],
    [{ room: 0 }, /too full.*Nothing was changed/],
  ] as const)('%o is refused with a sentence', (over, sentence) => {
    expect(why(over)).toMatch(sentence);
  });

  describe.skipIf(!process.env.DATABASE_URL)('against a database', () => {
    afterAll(closeDatabase);
    it('one that was just made has nothing against it', async () => {
      await migrateDatabase();
      await expect(checkUpgrade()).resolves.toBeUndefined();
    });
  });
});
