import type { Readable } from 'node:stream';

/** Bytes, both included. */
export interface ByteRange {
  start: number;
  end: number;
}
export interface StoredFile {
  key: string;
  bytes: number;
  /** When it came, or was last wanted; milliseconds, as `Date.now` counts. */
  changedAt: number;
}
/** What an answer says of a file that a browser gets by itself. */
export interface Address {
  /** Content-Disposition (RFC 6266). */
  name?: string;
  /** Media type. */
  type?: string;
}

/** Where files live. Keys are relative paths like "files/ab/abcdef.mp4". */
export interface Storage {
  /** Moves a finished local file into the store; it appears whole or not at all. */
  adopt(key: string, localFile: string, options?: { copy?: boolean }): Promise<void>;
  /** A local path with the content, for programs that want a file. */
  localPath(key: string): Promise<string>;
  /** Whether it can be had here without a line to somewhere else. */
  isNear(key: string): Promise<boolean>;
  /** Size in bytes, or null when there is no such file. */
  size(key: string): Promise<number | null>;
  read(key: string, range?: ByteRange): Readable;
  /** Takes away a file, and whatever lies below that name. */
  remove(key: string): Promise<void>;
  /** Every file whose key begins so. */
  list(prefix: string): Promise<StoredFile[]>;
  /** Where a browser gets it by itself, for some hours; null where it comes through the web server. */
  address(key: string, how: Address): Promise<string | null>;
  /** Marks what is there as wanted just now, so that it is not collected before something refers to it. */
  keepFresh(key: string): Promise<void>;
}
