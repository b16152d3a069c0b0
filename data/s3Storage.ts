import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import {
  DeleteObjectsCommand,
  GetObjectCommand,
  HeadObjectCommand,
  ListObjectsV2Command,
  PutObjectCommand,
  S3Client,
  type HeadObjectCommandOutput,
} from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import { getSignedUrl } from '@aws-sdk/s3-request-presigner';
import { contentHash } from './contentHash';
import type { LocalCache } from './localCache';
import type { Address, ByteRange, Storage, StoredFile } from './store';

/** Where a store lies: a bucket, and what all its keys begin with. */
export interface Bucket {
  bucket: string;
  /** With a slash at its end, or empty. */
  prefix: string;
}

/** Of "s3://bucket/prefix"; null for anything else. */
export function bucketOf(address: string): Bucket | null {
  const [, bucket, prefix = ''] = /^s3:\/\/([a-z0-9][a-z0-9.-]{1,61}[a-z0-9])(?:\/(.*?))?\/*$/.exec(address) ?? [];
  return bucket ? { bucket, prefix: prefix && `${prefix}/` } : null;
}

/** What the SDK finds by itself, such as credentials and the region, is not named here. */
export const s3Client = (endpoint?: string): S3Client =>
  new S3Client({
    ...(endpoint ? { endpoint, forcePathStyle: true } : {}),
    region: process.env.AWS_REGION ?? process.env.AWS_DEFAULT_REGION ?? 'us-east-1',
    maxAttempts: 6,
    // Stores that are not Amazon's know none of the checksums in trailers; what is sent is compared afterwards.
    requestChecksumCalculation: 'WHEN_REQUIRED',
    responseChecksumValidation: 'WHEN_REQUIRED',
    requestHandler: { connectionTimeout: 5000, requestTimeout: 60_000, throwOnRequestTimeout: true },
  });

const megabyte = 2 ** 20;
/** A store takes at most 10,000 parts, of at least 5 MB each (Amazon S3 User Guide, "Multipart upload limits"). */
const partBytes = (bytes: number): number => Math.max(16 * megabyte, Math.ceil(bytes / 9000 / megabyte) * megabyte);
const tries = 4;
const pauseMilliseconds = 400;
/** An address may be used for so long, and is the same for as long as browsers may find it in their cache. */
const addressSeconds = { valid: 4 * 3600, same: 3600 };
/** Names under which it is noted that something is wanted just now. */
const fresh = 'fresh/';

/** Keys of what is named by its content say what that is. */
const hashIn = (key: string): string | undefined => /\/([0-9a-f]{64})\.[^/]*$/.exec(key)?.[1];

const isMissing = (error: unknown): boolean => {
  const { name, $metadata } = error as { name?: string; $metadata?: { httpStatusCode?: number } };
  return name === 'NotFound' || name === 'NoSuchKey' || $metadata?.httpStatusCode === 404;
};
const missing = (key: string): Error => Object.assign(new Error(`"${key}" is not in the store.`), { code: 'ENOENT' });

/**
 * Files in a bucket, by the protocol of Amazon S3. Programs get copies out of a cache; what goes over the line is compared
 * by its content in both directions.
 */
export class S3Storage implements Storage {
  /**
   * @param outside by which browsers reach the store; null when they get files from the web server
   */
  constructor(
    private readonly client: S3Client,
    private readonly place: Bucket,
    private readonly cache: LocalCache,
    private readonly outside: S3Client | null = null,
  ) {}

  async adopt(key: string, localFile: string, options: { copy?: boolean } = {}): Promise<void> {
    const { size } = await stat(localFile);
    const hash = await contentHash(localFile);
    for (let tried = 1; ; tried++) {
      const sent = await this.send(key, localFile, size, hash);
      const there = await this.head(key);
      if (there?.ContentLength === size && isSame(there, sent)) break;
      if (tried === tries) throw new Error(`"${key}" did not arrive in the store as it was sent.`);
      await sleep(pauseMilliseconds * tried);
    }
    await this.cache.remove(key);
    if (options.copy || size > this.cache.limit / 4) {
      if (!options.copy) await rm(localFile, { force: true });
      return;
    }
    // What was made here is likely to be wanted here; it costs nothing on the same disk.
    await this.cache.take(key, localFile, size);
  }

  async localPath(key: string): Promise<string> {
    const there = await this.head(key);
    if (!there) throw missing(key);
    const size = there.ContentLength ?? 0;
    const hash = hashIn(key) ?? there.Metadata?.sha256;
    return this.cache.path(key, size, (to) => this.fetch(key, to, size, hash));
  }

  isNear(key: string): Promise<boolean> {
    return this.cache.has(key);
  }

  async size(key: string): Promise<number | null> {
    return (await this.head(key))?.ContentLength ?? null;
  }

  read(key: string, range?: ByteRange): Readable {
    return Readable.from(this.bytes(key, range));
  }

  async remove(key: string): Promise<void> {
    const keys = [key, ...(await this.list(`${key}/`)).map((each) => each.key)].flatMap((each) => [each, fresh + each]);
    for (let from = 0; from < keys.length; from += 1000)
      await this.client.send(
        new DeleteObjectsCommand({
          Bucket: this.place.bucket,
          Delete: { Quiet: true, Objects: keys.slice(from, from + 1000).map((each) => ({ Key: this.keyOf(each) })) },
        }),
      );
    for (const each of keys) await this.cache.remove(each);
  }

  async keepFresh(key: string): Promise<void> {
    await this.client.send(
      new PutObjectCommand({ Bucket: this.place.bucket, Key: this.keyOf(fresh + key), Body: Buffer.alloc(0) }),
    );
  }

  async list(prefix: string): Promise<StoredFile[]> {
    const found = await this.objects(prefix);
    const wanted = new Map((await this.objects(fresh + prefix)).map((each) => [each.key.slice(fresh.length), each]));
    return found
      .filter(({ key }) => !key.startsWith(fresh))
      .map((each) => ({ ...each, changedAt: Math.max(each.changedAt, wanted.get(each.key)?.changedAt ?? 0) }));
  }

  async address(key: string, { name, type }: Address): Promise<string | null> {
    if (!this.outside) return null;
    const now = Date.now();
    const command = new GetObjectCommand({
      Bucket: this.place.bucket,
      Key: this.keyOf(key),
      ...(name ? { ResponseContentDisposition: name } : {}),
      ...(type ? { ResponseContentType: type } : {}),
    });
    return getSignedUrl(this.outside, command, {
      expiresIn: addressSeconds.valid + addressSeconds.same,
      signingDate: new Date(now - (now % (addressSeconds.same * 1000))),
    });
  }

  private keyOf = (key: string): string => {
    if (key.split('/').some((part) => part === '..' || part === '.')) throw new Error(`"${key}" leaves the store`);
    return this.place.prefix + key;
  };

  private async head(key: string): Promise<HeadObjectCommandOutput | null> {
    try {
      return await this.client.send(new HeadObjectCommand({ Bucket: this.place.bucket, Key: this.keyOf(key) }));
    } catch (error) {
      if (isMissing(error)) return null;
      throw error;
    }
  }

  private async objects(prefix: string): Promise<StoredFile[]> {
    const found: StoredFile[] = [];
    for (let next: string | undefined, isLast = false; !isLast;) {
      const page = await this.client.send(
        new ListObjectsV2Command({ Bucket: this.place.bucket, Prefix: this.keyOf(prefix), ContinuationToken: next }),
      );
      for (const { Key, Size = 0, LastModified } of page.Contents ?? [])
        found.push({ key: Key!.slice(this.place.prefix.length), bytes: Size, changedAt: LastModified?.getTime() ?? 0 });
      next = page.NextContinuationToken;
      isLast = !page.IsTruncated || !next;
    }
    return found;
  }

  private async send(key: string, localFile: string, size: number, sha256: string): Promise<Sums> {
    const partSize = partBytes(size);
    const parts: Buffer[] = [];
    const whole = createHash('md5');
    const source = async function* () {
      let [sum, filled] = [createHash('md5'), 0];
      for await (const chunk of createReadStream(localFile) as AsyncIterable<Buffer>) {
        whole.update(chunk);
        for (let from = 0; from < chunk.length;) {
          const some = chunk.subarray(from, from + partSize - filled);
          sum.update(some);
          [from, filled] = [from + some.length, filled + some.length];
          if (filled === partSize) {
            parts.push(sum.digest());
            [sum, filled] = [createHash('md5'), 0];
          }
        }
        yield chunk;
      }
      if (filled > 0 || parts.length === 0) parts.push(sum.digest());
    };
    await new Upload({
      client: this.client,
      params: {
        Bucket: this.place.bucket,
        Key: this.keyOf(key),
        Body: Readable.from(source(), { objectMode: false }),
        Metadata: { sha256 },
      },
      partSize,
      queueSize: 2,
    }).done();
    return { parts, whole: whole.digest('hex') };
  }

  /** Writes all of it to a file; goes on where a line broke, and begins anew when something else arrived. */
  private async fetch(key: string, to: string, size: number, hash: string | undefined): Promise<void> {
    for (let tried = 1; ; tried++) {
      await pipeline(this.bytes(key), createWriteStream(to));
      const isWhole = (await stat(to)).size === size;
      if (isWhole && (hash === undefined || (await contentHash(to)) === hash)) return;
      if (tried === tries) throw new Error(`“${basename(key)}” did not come out of the store as it was put in.`);
      await sleep(pauseMilliseconds * tried);
    }
  }

  private async *bytes(key: string, range?: ByteRange): AsyncGenerator<Buffer> {
    let [from, until] = [range?.start ?? 0, Infinity];
    for (let tried = 1; from < until;) {
      try {
        const Range = range || from > 0 ? `bytes=${from}-${range?.end ?? ''}` : undefined;
        const answer = await this.client.send(
          new GetObjectCommand({ Bucket: this.place.bucket, Key: this.keyOf(key), ...(Range ? { Range } : {}) }),
        );
        until = from + (answer.ContentLength ?? 0);
        for await (const chunk of answer.Body as unknown as AsyncIterable<Buffer>) {
          from += chunk.length;
          tried = 1;
          yield chunk;
        }
        if (from < until) throw new Error('The line to the store broke.');
      } catch (error) {
        if (isMissing(error)) throw missing(key);
        if (from < until && tried++ >= tries) throw error;
        await sleep(pauseMilliseconds * tried);
      }
    }
  }
}

/** MD5 of what was sent. */
interface Sums {
  parts: Buffer[];
  whole: string;
}

/**
 * Whether what is there is what was sent. The tag of an object is the MD5 of its content, or of the sums of its parts with
 * their number behind it; not so where it is encrypted with keys of one's own (Amazon S3 API Reference, "Object").
 */
function isSame({ ETag, SSECustomerAlgorithm, ServerSideEncryption }: HeadObjectCommandOutput, sent: Sums): boolean {
  const [, tag, count] = /^"?([0-9a-f]{32})(?:-(\d+))?"?$/.exec(ETag ?? '') ?? [];
  if (!tag || SSECustomerAlgorithm || /kms/.test(ServerSideEncryption ?? '')) return true;
  if (!count) return sent.whole === tag;
  const all = createHash('md5').update(Buffer.concat(sent.parts)).digest('hex');
  return Number(count) === sent.parts.length && all === tag;
}
