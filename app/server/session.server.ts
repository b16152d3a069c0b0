import { createCookie } from 'react-router';
import { newSession, sessionLeft, sessionSeconds } from '#usecases/entrance';

/** Only sent to us, and only by our own pages; over TLS only where the page came over TLS. */
const cookie = (request: Request) =>
  createCookie('bright-reel-session', {
    httpOnly: true,
    sameSite: 'strict',
    secure: new URL(request.url).protocol === 'https:',
    path: '/',
  });

/** Seconds that are left of the session that a browser holds; null for none. */
export async function sessionOf(request: Request): Promise<number | null> {
  const held: unknown = await cookie(request)
    .parse(request.headers.get('cookie'))
    .catch(() => null);
  return sessionLeft(typeof held === 'string' ? held : null);
}

/** Headers by which a browser keeps a new session. */
export const keepSession = async (request: Request): Promise<HeadersInit> => ({
  'Set-Cookie': await cookie(request).serialize(newSession(), { maxAge: sessionSeconds }),
});

/** Headers by which it forgets its session. */
export const dropSession = async (request: Request): Promise<HeadersInit> => ({
  'Set-Cookie': await cookie(request).serialize('', { maxAge: 0 }),
});

/** A session that is used goes on: from half of its time on, the answer brings a new one. */
export async function renewSession(request: Request, answer: Response): Promise<Response> {
  const left = request.headers.has('cookie') ? await sessionOf(request) : null;
  if (left !== null && left < sessionSeconds / 2 && !answer.headers.has('set-cookie'))
    for (const [name, value] of Object.entries(await keepSession(request)))
      answer.headers.append(name, value as string);
  return answer;
}
