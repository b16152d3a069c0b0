import { createWriteStream } from 'node:fs';
import { mkdir, open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Readable } from 'node:stream';
import { and, eq, lt, or, sql } from 'drizzle-orm';
import { database } from './db';
import { uploadLocks, uploads } from './schema';
import { scratchFolder, storage } from './storage';

/** An upload on its way into a bucket. */
export interface BucketUpload {
  id: string;
  /** Of the whole file, in bytes. */
  length: number;
  received: number;
  metadata: Record<string, string | null>;
}
/** What came lies in parts of this length at most, so that no more than one has to come again. */
const partBytes = 16 * 1024 * 1024;
const folderOf = (id: string): string => `uploads/${id}`;
/** In order of their places as texts too. */
const keyOf = (id: string, at: number): string => `${folderOf(id)}/${String(at).padStart(15, '0')}`;

export const beginUpload = (upload: Pick<BucketUpload, 'id' | 'length' | 'metadata'>) =>
  database().insert(uploads).values(upload);

export const findUpload = async (id: string): Promise<BucketUpload | null> =>
  (await database().select().from(uploads).where(eq(uploads.id, id)))[0] ?? null;

export async function forgetUpload(id: string): Promise<void> {
  await database().delete(uploads).where(eq(uploads.id, id));
  await storage().remove(folderOf(id));
}

/** Uploads to which nothing came since. */
export const uploadsBefore = (time: Date) => database().select().from(uploads).where(lt(uploads.changedAt, time));

/**
 * Takes in what comes at a place of an upload; what came before the line broke is kept. Whichever process does it: bytes
 * count once the store has them, and only where they go on from what is there.
 * @returns how much has come in all
 * @throws when somebody else went on with it meanwhile, and what the stream throws
 */
export async function addToUpload(id: string, at: number, bytes: Readable): Promise<number> {
  let received = at;
  await mkdir(scratchFolder(), { recursive: true });
  const put = async (part: readonly Buffer[]) => {
    const length = part.reduce((sum, each) => sum + each.length, 0);
    if (length === 0) return;
    const local = join(scratchFolder(), `upload-${id}-${received}-${process.pid}`);
    const file = await open(local, 'w');
    try {
      await file.writev([...part]);
    } finally {
      await file.close();
    }
    await storage().adopt(keyOf(id, received), local);
    const counted = await database()
      .update(uploads)
      .set({ received: received + length, changedAt: new Date() })
      .where(and(eq(uploads.id, id), eq(uploads.received, received)))
      .returning({ id: uploads.id });
    if (counted.length === 0) throw new Error('Somebody else went on with this upload.');
    received += length;
  };
  let part: Buffer[] = [];
  let length = 0;
  try {
    for await (const chunk of bytes as AsyncIterable<Buffer>) {
      part.push(chunk);
      length += chunk.length;
      if (length < partBytes) continue;
      const full = part;
      [part, length] = [[], 0];
      await put(full);
    }
  } catch (error) {
    await put(part);
    throw error;
  }
  await put(part);
  return received;
}

/** An upload that has come whole as one local file. */
export async function joinUpload(id: string, local: string): Promise<void> {
  const parts = (await storage().list(`${folderOf(id)}/`)).map(({ key }) => key).sort();
  const pieces = async function* () {
    for (const key of parts) yield* storage().read(key) as AsyncIterable<Buffer>;
  };
  try {
    await pipeline(pieces, createWriteStream(local));
  } catch (error) {
    await rm(local, { force: true });
    throw error;
  }
}

/** A lock that is not renewed for so long is void: whoever had it is gone. */
const lockSeconds = 10;
const untilThen = sql`now() + make_interval(secs => ${lockSeconds})`;

/** Takes the lock of an upload, or asks whoever has it to let it go. @returns whether it was taken */
export async function takeUploadLock(id: string, holder: string): Promise<boolean> {
  const taken = await database()
    .insert(uploadLocks)
    .values({ id, holder, until: untilThen })
    .onConflictDoUpdate({
      target: uploadLocks.id,
      set: { holder, until: untilThen, wanted: false },
      setWhere: or(lt(uploadLocks.until, sql`now()`), eq(uploadLocks.holder, holder)),
    })
    .returning({ id: uploadLocks.id });
  if (taken.length > 0) return true;
  await database().update(uploadLocks).set({ wanted: true }).where(eq(uploadLocks.id, id));
  return false;
}

/** @returns whether somebody else waits for it; null when it was lost */
export async function renewUploadLock(id: string, holder: string): Promise<boolean | null> {
  const [lock] = await database()
    .update(uploadLocks)
    .set({ until: untilThen })
    .where(and(eq(uploadLocks.id, id), eq(uploadLocks.holder, holder)))
    .returning({ wanted: uploadLocks.wanted });
  return lock?.wanted ?? null;
}

export const freeUploadLock = (id: string, holder: string) =>
  database()
    .delete(uploadLocks)
    .where(and(eq(uploadLocks.id, id), eq(uploadLocks.holder, holder)));
