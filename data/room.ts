import { mkdir, statfs } from 'node:fs/promises';
import { formatSize } from '#core/sentences';
import { settings } from '#settings';
import { dataFolder } from './storage';

/** Bytes that are free on the disk of the data folder. */
export async function freeBytes(): Promise<number> {
  const folder = dataFolder();
  await mkdir(folder, { recursive: true });
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

/** What has to stay free for the database and the logs. */
export const reserveBytes = (): number => settings().BRIGHT_REEL_RESERVE_BYTES;

/** How much more can be kept: what is free beside the reserve. Never less than nothing. */
export const roomLeft = async (): Promise<number> => Math.max(0, (await freeBytes()) - reserveBytes());

/** Below a tenth of the reserve what is written may be lost any moment. */
export const isFull = async (): Promise<boolean> => (await freeBytes()) < reserveBytes() / 10;

/** Why so much more cannot be kept; null when it can. */
export async function whyNoRoom(bytes: number): Promise<string | null> {
  const left = await roomLeft();
  return bytes <= left && left > 0
    ? null
    : `The disk is full: there is room for ${formatSize(left)} more, and this needs ${formatSize(bytes)}. Free some space under Storage, or ask whoever runs this installation.`;
}
