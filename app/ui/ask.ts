/**
 * Fetches what a screen shows beside its own data. That the screen was left meanwhile, at whatever point, or that the
 * server is away, is no fault: then nothing is taken.
 * @param take reads the answer and shows it
 */
export function ask(address: string, signal: AbortSignal, take: (answer: Response) => Promise<unknown>): void {
  fetch(address, { signal })
    .then(take)
    .catch((error: unknown) => {
      // A `fetch` that finds nobody throws a TypeError.
      if (!signal.aborted && !(error instanceof TypeError)) throw error;
    });
}
