import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { extname } from 'node:path';

/** SHA-256 of a file's content, as 64 hexadecimal digits. */
export async function contentHash(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(file, { highWaterMark: 1 << 20 })) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** Where a file of this content lies in the store; its ending helps players. */
export function fileKey(hash: string, name: string): string {
  const ending = extname(name).toLowerCase();
  return `files/${hash.slice(0, 2)}/${hash}${/^\.[a-z0-9]{1,5}$/.test(ending) ? ending : ''}`;
}
