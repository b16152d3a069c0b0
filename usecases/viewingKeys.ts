import { createHash, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify<string, Buffer, number, Buffer>(scrypt);

/** A part of an address that nobody can guess: 192 random bits. */
export const newToken = (): string => randomBytes(24).toString('base64url');

const sha256 = (...parts: string[]): string => createHash('sha256').update(parts.join('\n')).digest('base64url');

/** What is kept of a secret by which its owner is known again. */
export const keptOf = (secret: string): string => sha256('kept', secret);

/** A password as it is kept (RFC 7914, scrypt with Node's usual costs): salt and key. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `${salt.toString('base64url')}.${(await derive(password, salt, 32)).toString('base64url')}`;
}

export async function isPassword(password: string, hash: string): Promise<boolean> {
  const [salt = '', key = ''] = hash.split('.');
  const wanted = Buffer.from(key, 'base64url');
  return wanted.length === 32 && timingSafeEqual(await derive(password, Buffer.from(salt, 'base64url'), 32), wanted);
}

/** What somebody holds who gave the password; another one as soon as the password or the address is. */
export const passOf = ({ passwordHash, token }: { passwordHash: string | null; token: string }): string =>
  sha256('pass', passwordHash ?? '', token);
