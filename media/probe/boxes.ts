import { open, type FileHandle } from 'node:fs/promises';

/** A box of an ISO base media file (ISO/IEC 14496-12, 4.2): its four letters, and where its content lies. */
interface Box {
  type: string;
  start: number;
  end: number;
}

/** Boxes that lie side by side between two places of a file. Stops where the file holds something else. */
async function boxesIn(handle: FileHandle, start: number, end: number): Promise<Box[]> {
  const boxes: Box[] = [];
  const head = Buffer.alloc(16);
  for (let at = start; at + 8 <= end && boxes.length < 1000;) {
    const { bytesRead } = await handle.read(head, 0, 16, at);
    if (bytesRead < 8) break;
    const short = head.readUInt32BE(0);
    const size = short === 1 ? Number(head.readBigUInt64BE(8)) : short === 0 ? end - at : short;
    if (size < 8 || !/^[\x20-\x7e\xa9]{4}$/.test(head.toString('latin1', 4, 8))) break;
    boxes.push({
      type: head.toString('latin1', 4, 8),
      start: at + (short === 1 ? 16 : 8),
      end: Math.min(end, at + size),
    });
    at += size;
  }
  return boxes;
}

/** Content of the boxes at the end of a path such as `moov/udta/XMP_`, at most `most` bytes of each. */
export async function boxContents(file: string, path: string, most = 4e6): Promise<Buffer[]> {
  const handle = await open(file);
  try {
    let level: Box[] = [{ type: '', start: 0, end: (await handle.stat()).size }];
    for (const type of path.split('/')) {
      const found: Box[] = [];
      for (const box of level) {
        const inside = box.start + (box.type === 'meta' ? 4 : 0);
        found.push(...(await boxesIn(handle, inside, box.end)).filter((each) => each.type === type));
      }
      level = found;
    }
    const contents: Buffer[] = [];
    for (const { start, end } of level) {
      const bytes = Buffer.alloc(Math.min(most, end - start));
      await handle.read(bytes, 0, bytes.length, start);
      contents.push(bytes);
    }
    return contents;
  } finally {
    await handle.close();
  }
}

/** Type of a file's first box, and of a `ftyp` its brands (ISO/IEC 14496-12, 4.3). */
export async function firstBox(file: string): Promise<{ type: string; brands: string[] }> {
  const handle = await open(file);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(64), 0, 64, 0);
    const type = buffer.toString('latin1', 4, 8);
    const end = Math.min(bytesRead, buffer.readUInt32BE(0));
    const brands: string[] = [];
    if (type === 'ftyp')
      for (let at = 8; at + 4 <= end; at += 4) if (at !== 12) brands.push(buffer.toString('latin1', at, at + 4));
    return { type, brands };
  } finally {
    await handle.close();
  }
}
