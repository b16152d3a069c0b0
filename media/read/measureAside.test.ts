import { Readable } from 'node:stream';
import { expect, it } from 'vitest';
import { measureAside } from './measureAside';
import { measurePicture } from './measurePicture';

const plan = { rate: { num: 25, den: 1 }, gray: { width: 64, height: 36 }, colour: { width: 64, height: 36 } };
const frameBytes = 64 * 36;

/** Stripes that move two pixels a frame, cut into pieces that are no frames. */
function* stripes(frames: number, chunk: number): Generator<Buffer> {
  const bytes = Buffer.alloc(frames * frameBytes);
  for (let frame = 0; frame < frames; frame++)
    for (let index = 0; index < frameBytes; index++)
      bytes[frame * frameBytes + index] = 128 + 100 * Math.sin(((index % 64) - frame * 2 + (index >> 6) * 3) / 4);
  for (let from = 0; from < bytes.length; from += chunk) yield bytes.subarray(from, from + chunk);
}

it('says the same in a thread as beside it, for one stream after the other', async () => {
  const here = await measurePicture(Readable.from(stripes(300, 1000)), plan, () => undefined);
  expect(here.frames).toBe(300);
  for (const chunk of [1000, 70_001]) {
    const seconds: number[] = [];
    const aside = await measureAside('picture', Readable.from(stripes(300, chunk)), plan, (at) => seconds.push(at));
    expect(aside).toEqual(here);
    expect(seconds).toEqual([1.2, 2.4, 3.6, 4.8, 6, 7.2, 8.4, 9.6, 10.8, 12]);
  }
});

it('fails with what broke the stream, and the next one is measured all the same', async () => {
  const broken = Readable.from(
    (function* () {
      yield* stripes(3, 500);
      throw new Error('The pipe is gone.');
    })(),
  );
  await expect(measureAside('picture', broken, plan)).rejects.toThrow('The pipe is gone.');
  const [one, two] = await Promise.all([
    measureAside('picture', Readable.from(stripes(5, 999)), plan),
    measureAside('picture', Readable.from(stripes(7, 999)), plan),
  ]);
  expect([one.frames, two.frames]).toEqual([5, 7]);
});
