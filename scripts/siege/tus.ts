import type { Installation } from './installation';
import type { Known } from './samples';

const tus = { 'Tus-Resumable': '1.0.0' };
const base64 = (text: string) => Buffer.from(text).toString('base64');

/** Requests of an upload (tus 1.0) as whoever sends a file makes them. */
export const announcement = (known: Known, name: string, length: number): RequestInit => ({
  method: 'POST',
  headers: {
    ...tus,
    'Upload-Length': String(length),
    'Upload-Metadata': `projectId ${base64(known.projectId!)},filename ${base64(name)}`,
  },
});
export const question: RequestInit = { method: 'HEAD', headers: tus };
export const part = (offset: number, body: Buffer): RequestInit => ({
  method: 'PATCH',
  headers: { ...tus, 'Upload-Offset': String(offset), 'Content-Type': 'application/offset+octet-stream' },
  body: new Uint8Array(body),
});

/** Sends a file at once. @returns whether it was taken so far that it is looked at */
export async function sendWhole(place: Installation, known: Known, name: string, content: Buffer): Promise<boolean> {
  const made = await fetch(`${place.url}/upload`, announcement(known, name, content.length));
  const address = made.headers.get('location');
  if (!address || content.length === 0) return false;
  return (await fetch(place.url + address, part(0, content))).ok;
}
