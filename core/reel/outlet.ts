/** What an account of an outlet takes. */
export interface OutletAccount {
  id: string;
  name: string;
  maxSeconds: number;
  maxBytes: number;
  /** Width divided by height, at the most; null for any. */
  widest: number | null;
}

/** Why an account will not take a file, or null. The outlet has the last word. */
export function refusalOf(
  account: OutletAccount,
  file: { seconds: number; size: number; width: number; height: number },
): string | null {
  if (file.seconds > account.maxSeconds)
    return `takes up to ${account.maxSeconds} s; this has ${Math.round(file.seconds)} s`;
  if (file.size > account.maxBytes)
    return `takes up to ${Math.round(account.maxBytes / 1e6)} MB; this has ${Math.round(file.size / 1e6)} MB`;
  return account.widest !== null && file.width / file.height > account.widest ? 'takes tall pictures only' : null;
}
