import { createReadStream } from 'node:fs';
import { request as httpRequest } from 'node:http';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Cancelled } from '../process';
import { OutletError, type Outlet, type OutletAccount, type OutletPost } from './types';

interface State {
  received: number;
  link: string | null;
  state: 'coming' | 'waiting' | 'public';
  problem?: string;
}

const away = (error: unknown): OutletError =>
  new OutletError('The outlet does not answer. It is tried again.', false, { cause: error });

/** The outlet that ships with the product; see `standins/outlet.ts` for the other side. */
export function simulatedOutlet(address: string): Outlet {
  const ask = async (path: string, init: RequestInit = {}): Promise<{ status: number; body: State }> => {
    const once = async () => {
      const answer = await fetch(`${address}${path}`, { ...init, signal: init.signal ?? AbortSignal.timeout(10_000) });
      return { status: answer.status, body: (await answer.json()) as State };
    };
    try {
      // A connection that was kept open may have been closed by the other side meanwhile. Posts bear a key, so that
      // asking twice posts once.
      return await once().catch((error: unknown) => (init.signal?.aborted ? Promise.reject(error as Error) : once()));
    } catch (error) {
      if (init.signal?.aborted) throw new Cancelled();
      throw away(error);
    }
  };
  return {
    id: 'simulated',
    name: 'Simulated outlet',
    async accounts(signal) {
      const { status, body } = await ask('/accounts', signal ? { signal } : {});
      if (status !== 200) throw away(new Error(String(status)));
      return body as unknown as OutletAccount[];
    },
    async post(post, { signal, onProgress }) {
      const { key, account, title, text, size, seconds, width, height } = post;
      const init: RequestInit = {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({
          key,
          account,
          title,
          text,
          size,
          seconds,
          width,
          height,
          scheduledAt: post.scheduledAt?.toISOString() ?? null,
        }),
        ...(signal ? { signal } : {}),
      };
      const announced = await ask('/posts', init);
      if (announced.status >= 400)
        throw new OutletError(announced.body.problem ?? 'The outlet refused this.', announced.status < 500);
      // What the outlet has already is not sent again.
      for (let state = announced.body; ;) {
        if (state.link !== null && state.state !== 'coming') return { link: state.link, state: state.state };
        onProgress?.(state.received / size);
        await send(`${address}/posts/${key}`, post, state.received, signal, (sent) =>
          onProgress?.((state.received + sent) / size),
        );
        const now = await ask(`/posts/${key}`, signal ? { signal } : {});
        if (now.body.state === 'coming' && now.body.received <= state.received)
          throw away(new Error('nothing arrived'));
        state = now.body;
      }
    },
  };
}

function send(
  address: string,
  { file, size }: OutletPost,
  from: number,
  signal: AbortSignal | undefined,
  onSent: (bytes: number) => void,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const fail = (error: unknown) =>
      reject(
        signal?.aborted
          ? new Cancelled()
          : new OutletError('The connection to the outlet broke. It goes on where it stopped.', false, {
              cause: error,
            }),
      );
    const request = httpRequest(
      address,
      {
        method: 'PUT',
        headers: { 'Content-Length': size - from, 'Content-Range': `bytes ${from}-${size - 1}/${size}` },
        ...(signal ? { signal } : {}),
      },
      (response) => {
        response.resume();
        response.on('end', () => resolve());
        response.on('error', fail);
      },
    );
    request.on('error', fail);
    let sent = 0;
    const count = new Transform({
      transform: (chunk: Buffer, _, next) => {
        onSent((sent += chunk.length));
        next(null, chunk);
      },
    });
    pipeline(createReadStream(file, { start: from }), count, request).catch(fail);
  });
}
