import { RateLimiterMemory, RateLimiterPostgres } from 'rate-limiter-flexible';
import { database } from './db';

/** So many wrong passwords in so many seconds; then one has to wait as long. Common practice, no source. */
const limits = { points: 10, duration: 600, blockDuration: 600 };

let shared: RateLimiterPostgres | null = null;

/** Counted in the database, so that every web server knows; in memory while that is away. */
const limiter = (): RateLimiterPostgres =>
  (shared ??= new RateLimiterPostgres({
    ...limits,
    storeClient: database().$client,
    tableName: 'guesses',
    tableCreated: true,
    insuranceLimiter: new RateLimiterMemory(limits),
  }));

/** Seconds that somebody has to wait before another guess; 0 for none. */
export async function secondsToWait(who: string): Promise<number> {
  const found = await limiter().get(who);
  return found && found.consumedPoints > limits.points ? Math.ceil(found.msBeforeNext / 1000) : 0;
}

/** Counts a guess before it is looked at, so that many at once are no way round. @returns false when it is one too many */
export const countGuess = (who: string): Promise<boolean> =>
  limiter()
    .consume(who)
    .then(
      () => true,
      (error: unknown) => {
        if (error instanceof Error) throw error;
        return false;
      },
    );

/** Somebody who knows the password may begin anew. */
export const forgetGuesses = async (who: string): Promise<void> => void (await limiter().delete(who));
