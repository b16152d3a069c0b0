import { createHash, createHmac, scryptSync, timingSafeEqual } from 'node:crypto';
import ipaddr from 'ipaddr.js';
import { counted } from '#core/sentences';
import { countGuess, forgetGuesses, secondsToWait } from '#data/guesses';
import { settings } from '#settings';
import { done, refused, type Result } from './result';

/** A session lasts so long, and is made anew when less than half of it is left. */
export const sessionSeconds = 30 * 86_400;

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
const same = (a: string, b: string): boolean => timingSafeEqual(digest(a), digest(b));

let known: { password: string; key: Buffer } | null = null;
/** Another password makes another key, and with it ends all sessions; so do all web servers agree without asking. */
function sessionKey(): Buffer {
  const password = settings().BRIGHT_REEL_PASSWORD ?? '';
  if (known?.password !== password) known = { password, key: scryptSync(password, 'sessions of Bright Reel', 32) };
  return known.key;
}
const signed = (until: string): string => createHmac('sha256', sessionKey()).update(until).digest('base64url');

/** What a browser holds after the password was given: until when it counts, signed. */
export function newSession(now = Date.now()): string {
  const until = String(Math.floor(now / 1000) + sessionSeconds);
  return `${until}.${signed(until)}`;
}

/** How many seconds of a session are left; null for none that counts. */
export function sessionLeft(session: string | null, now = Date.now()): number | null {
  const [until = '', signature = ''] = (session ?? '').split('.');
  if (!/^\d{1,12}$/.test(until) || !same(signature, signed(until))) return null;
  const left = Number(until) - now / 1000;
  return left > 0 && left <= sessionSeconds ? left : null;
}

/** Guesses are counted by address, of the sixth version by network: anybody has 2⁶⁴ of those. */
function guesserOf(peer: string): string {
  if (!ipaddr.isValid(peer)) return 'unknown';
  const address = ipaddr.process(peer);
  return address.kind() === 'ipv6' ? address.toNormalizedString().split(':').slice(0, 4).join(':') : address.toString();
}

/** Whether somebody knows the password of this installation. @param peer address that the request came from */
export async function tellPassword(given: string, peer: string): Promise<Result<null>> {
  const who = guesserOf(peer);
  const wait = await secondsToWait(who);
  if (wait > 0 || !(await countGuess(who)))
    return refused(
      `The password was wrong too often. Try again in ${counted(Math.max(1, Math.ceil(wait / 60)), 'minute')}.`,
      'password',
    );
  const password = settings().BRIGHT_REEL_PASSWORD;
  if (!password || !same(given, password)) return refused('This is not the password.', 'password');
  await forgetGuesses(who);
  return done(null);
}
