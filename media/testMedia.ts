import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** For tests: small media made on the spot. */
export const testFolder = (): string => mkdtempSync(join(tmpdir(), 'bright-reel-test-'));

export function ffmpeg(...args: string[]): Buffer {
  return execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 1 << 29 });
}

/** Real pictures that Debian's opencv-doc package ships. */
export const realPicture = (name: string): string => join('/usr/share/doc/opencv-doc/examples/data', name);
/** Real speech that Debian's pocketsphinx-testdata package ships. */
export const realSpeech = (name: string): string => join('/usr/share/pocketsphinx/test/data', name);

export function decodeGray(file: string, width: number, height: number, ...before: string[]): Uint8Array {
  return new Uint8Array(
    ffmpeg(...before, '-i', file, '-vf', `scale=${width}:${height}:flags=area,format=gray`, '-f', 'rawvideo', '-'),
  );
}

export function decodeMono(file: string, rate: number): Float32Array {
  return new Float32Array(
    Uint8Array.from(ffmpeg('-i', file, '-ac', '1', '-ar', String(rate), '-f', 'f32le', '-')).buffer,
  );
}

const numberBits = 10;
/** Arguments that draw films whose frames show their own numbers as ten upright bars, white where the number's bit is set. @param first number of the first frame */
export const numberFilm = (rate: number, seconds: number, first = 0): string[] => [
  '-f',
  'lavfi',
  '-i',
  `color=black:s=320x180:r=${rate}:d=${seconds},format=gray,geq=lum='255*mod(floor((N+${first})/pow(2,floor(X/32))),2)'`,
];
/** The number that each frame of such a film shows. */
export function numbersIn(file: string): number[] {
  const grey = decodeGray(file, numberBits, 1);
  return Array.from({ length: grey.length / numberBits }, (_, frame) =>
    Array.from({ length: numberBits }, (__, bit) => (grey[frame * numberBits + bit]! > 127 ? 2 ** bit : 0)).reduce(
      (sum, value) => sum + value,
      0,
    ),
  );
}
