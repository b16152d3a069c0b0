import type { Readable } from 'node:stream';

/** Cuts a byte stream into blocks of one size; the bytes of a block are reused for the next one. A short last block is dropped. */
export async function* fixedBlocks(stream: AsyncIterable<Uint8Array>, size: number): AsyncGenerator<Uint8Array> {
  const block = new Uint8Array(size);
  let filled = 0;
  for await (const chunk of stream) {
    let at = 0;
    while (at < chunk.length) {
      const take = Math.min(size - filled, chunk.length - at);
      block.set(chunk.subarray(at, at + take), filled);
      filled += take;
      at += take;
      if (filled === size) {
        filled = 0;
        yield block;
      }
    }
  }
}

/** 32-bit float samples from a byte stream, as they come. */
export async function* floatChunks(stream: Readable): AsyncGenerator<Float32Array> {
  let rest = Buffer.alloc(0);
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    const bytes = rest.length ? Buffer.concat([rest, chunk]) : chunk;
    const whole = bytes.length - (bytes.length % 8);
    rest = Buffer.from(bytes.subarray(whole));
    if (whole) yield new Float32Array(Uint8Array.from(bytes.subarray(0, whole)).buffer);
  }
}
