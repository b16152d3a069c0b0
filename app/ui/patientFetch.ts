import { awayBy, setAway } from './connection';

/** Words for "not now": a gateway's, our own server's while it has no database, and that the password is needed again. */
const notNow = new Set([401, 502, 503, 504]);
const waitMilliseconds = 1500;

type Fetch = typeof fetch;

/** Requests of the router for the data of a screen; everything else says itself what it does when it fails. */
export const isScreenData = (address: string, origin: string): boolean => {
  const url = new URL(address, origin);
  return url.origin === origin && (url.pathname.endsWith('.data') || url.pathname === '/__manifest');
};

/**
 * A `fetch` under which the data of a screen waits for a server that is away instead of failing, so that what is shown
 * stays. A request is given up only when its sender does; files and other addresses go through as they are.
 * @param pause between two tries
 */
export function patientFetch(
  inner: Fetch,
  origin: string,
  pause = () => new Promise<void>((wake) => setTimeout(wake, waitMilliseconds)),
): Fetch {
  return async (input, init) => {
    const address = input instanceof Request ? input.url : String(input);
    if (!isScreenData(address, origin)) return inner(input, init);
    const signal = init?.signal ?? (input instanceof Request ? input.signal : null);
    for (;;) {
      // A body can be read once; every try has its own.
      const given = input instanceof Request ? input.clone() : input;
      const answer = await inner(given, init).catch((error: unknown) => {
        if (signal?.aborted) throw error;
        return null;
      });
      if (answer && !notNow.has(answer.status)) {
        setAway(false);
        return answer;
      }
      setAway(answer ? awayBy(answer.status) : true);
      await pause();
      signal?.throwIfAborted();
    }
  };
}
