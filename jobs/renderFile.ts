import { mkdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { mainTrack } from '#core/reel';
import { MediaError } from '#media/process';
import { readerVersion } from '#core/readings';
import { renderReel, type RenderSource } from '#media/render';
import { findFile, findMedia, keyOf } from '#data/media';
import { findBestReading } from '#data/readings';
import { loadRevision } from '#data/reels';
import { scratchFolder, storage } from '#data/storage';
import { findRender, setRender } from '#data/tasks';
import type { Work } from './runTask';

/** Renders the revision of a reel that was asked for, even when the reel was changed since. */
export async function renderFile({ task, signal, progress }: Work): Promise<string | null> {
  const render = await findRender(task.subject);
  const revision = render && (await loadRevision(render.reelId, render.revision));
  if (!render || !revision) throw new MediaError('The reel was deleted before it could be rendered.');
  const reel = revision.document;
  const sources = new Map<string, RenderSource>();
  for (const { media } of mainTrack(reel).items) if (!sources.has(media)) {
    const source = await findSource(media);
    if (source) sources.set(media, source);
  }
  await mkdir(scratchFolder(), { recursive: true });
  const output = join(scratchFolder(), `render-${render.id}.mp4`);
  try {
    await renderReel(reel, sources, output, { size: { width: render.width, height: render.height }, signal, onProgress: progress });
    const key = `renders/${render.id}.mp4`;
    const { size } = await stat(output);
    await storage().adopt(key, output);
    await setRender(render.id, { storageKey: key, size });
    return null;
  } finally {
    await rm(output, { force: true });
  }
}

async function findSource(mediaId: string): Promise<RenderSource | null> {
  const row = await findMedia(mediaId);
  const file = row && (await findFile(row.fileHash));
  const reading = file && (await findBestReading(keyOf(row), readerVersion));
  if (!file || !reading) return null;
  const { kind, hasSound } = reading.probe;
  return { file: await storage().localPath(file.storageKey), hasPicture: kind !== 'sound', hasSound, photo: kind === 'photo' };
}
