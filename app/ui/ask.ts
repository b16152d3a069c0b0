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

/** What an address says to something that is posted: what is wrong, and perhaps what came of it. */
interface Told {
  problem: string | null;
  id?: string | null;
}

/** Posts JSON beside the screen's own data. That nobody answers, or in another way than expected, is a problem like others. */
export async function tell(address: string, body: object): Promise<Told> {
  const answer = await fetch(address, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => null);
  const told = (await answer?.json().catch(() => null)) as Told | null | undefined;
  return told ?? { problem: 'The server does not answer. Try again in a moment.' };
}
