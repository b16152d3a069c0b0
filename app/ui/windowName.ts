import { newId } from '../newId';

/** By which header a window says that it was it who changed something. */
export const windowHeader = 'x-bright-reel-window';
/** Another one for every window, and after every reload. */
export const windowName: string = newId();

type Fetch = typeof fetch;

/** A `fetch` that says from which window a change of ours comes. */
export const namedFetch =
  (inner: Fetch, origin: string): Fetch =>
  (input, init) => {
    const method = init?.method ?? (input instanceof Request ? input.method : 'GET');
    const address = input instanceof Request ? input.url : String(input);
    if (/^(GET|HEAD)$/i.test(method) || new URL(address, origin).origin !== origin) return inner(input, init);
    const headers = new Headers(init?.headers ?? (input instanceof Request ? input.headers : undefined));
    headers.set(windowHeader, windowName);
    return inner(input, { ...init, headers });
  };
