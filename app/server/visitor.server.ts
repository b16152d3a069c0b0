import { createCookie } from 'react-router';
import { newToken } from '#usecases/viewingKeys';
import type { Visitor } from '#usecases/viewingLink';

/**
 * A link is opened from a mail or a chat: what its visitor holds goes along from there. One for each link, by its name: a
 * path would leave out the link's data, whose address ends in ".data".
 */
const cookieOf = (name: string, token: string) =>
  createCookie(`${name}-${token.slice(0, 8).replaceAll(/[^\w-]/g, '')}`, {
    httpOnly: true,
    sameSite: 'lax',
    path: '/viewing',
    maxAge: 180 * 24 * 3600,
  });

/** Who looks at a viewing, by what their browser holds. */
export async function visitorOf(request: Request, token: string): Promise<Visitor> {
  const header = request.headers.get('cookie');
  const held = async (name: string) => {
    const value: unknown = await cookieOf(name, token).parse(header);
    return typeof value === 'string' ? value : null;
  };
  return { pass: await held('viewing-pass'), secret: await held('viewing-own') };
}

/** The header by which a browser keeps that the password was given. */
export const keepPass = (token: string, pass: string): Promise<string> =>
  cookieOf('viewing-pass', token).serialize(pass);

/** A visitor whose words are known again, and the header for it where it is needed. */
export async function knownVisitor(
  request: Request,
  token: string,
): Promise<{ visitor: Visitor & { secret: string }; headers: HeadersInit }> {
  const visitor = await visitorOf(request, token);
  if (visitor.secret !== null) return { visitor: { ...visitor, secret: visitor.secret }, headers: {} };
  const secret = newToken();
  return {
    visitor: { ...visitor, secret },
    headers: { 'Set-Cookie': await cookieOf('viewing-own', token).serialize(secret) },
  };
}
