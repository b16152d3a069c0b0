import type { OutletAccount } from '#core/reel';

export type { OutletAccount };

/**
 * The contract of an outlet. A new one is a file beside this that exports an `Outlet`, and a line in `index.ts`; nothing
 * else of the application knows where posts go.
 *
 * - `accounts` answers within seconds and says what each account takes, so that a screen can say beforehand what will
 *   not be taken. It throws `OutletError` when the outlet is away.
 * - `post` hands one file over and answers once the outlet has it whole. `key` names the post: however often `post` is
 *   called with a key, after whatever failed, there must be one post at the outlet, and the same link. It goes on where
 *   a broken upload stopped if the outlet can do that. It calls `onProgress` with 0 to 1 as bytes go, and stops soon
 *   after `signal` aborts.
 * - A refusal for good (limits, a closed account) is an `OutletError` with `final`; anything else may be tried again.
 */
export interface Outlet {
  id: string;
  name: string;
  accounts(signal?: AbortSignal): Promise<OutletAccount[]>;
  post(
    post: OutletPost,
    options: { signal?: AbortSignal; onProgress?(share: number): void },
  ): Promise<{ link: string; state: 'public' | 'waiting' }>;
}

export interface OutletPost {
  key: string;
  account: string;
  title: string;
  text: string;
  /** To be seen from then on; null for at once. */
  scheduledAt: Date | null;
  file: string;
  size: number;
  seconds: number;
  width: number;
  height: number;
}

/** What an outlet said or failed to say, as a sentence for people. */
export class OutletError extends Error {
  override name = 'OutletError';
  constructor(
    message: string,
    readonly final: boolean,
    options?: ErrorOptions,
  ) {
    super(message, options);
  }
}
