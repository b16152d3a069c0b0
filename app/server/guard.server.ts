import { timingSafeEqual } from 'node:crypto';

const loopback = /^(127(\.\d+){3}|localhost|\[::1\])(:\d+)?$/;

/**
 * Who may come in. On loopback: only requests that name this machine, so that a page elsewhere cannot reach the
 * server under a name of its own. On any other address: the password.
 */
export function guard(request: Request): Response | null {
  const host = process.env.HOST ?? '127.0.0.1';
  if (/^(127\.|localhost|::1)/.test(host)) {
    const asked = request.headers.get('host') ?? '';
    return loopback.test(asked) ? null : new Response('Bright Reel answers on 127.0.0.1 only.', { status: 403 });
  }
  const password = process.env.BRIGHT_REEL_PASSWORD;
  if (!password) return new Response('Set BRIGHT_REEL_PASSWORD to use Bright Reel from other machines.', { status: 403 });
  const given = Buffer.from((request.headers.get('authorization') ?? '').replace(/^Basic /, ''), 'base64').toString().split(':').slice(1).join(':');
  const a = Buffer.from(given);
  const b = Buffer.from(password);
  if (a.length === b.length && timingSafeEqual(a, b)) return null;
  return new Response('The password is needed.', { status: 401, headers: { 'WWW-Authenticate': 'Basic realm="Bright Reel"' } });
}
