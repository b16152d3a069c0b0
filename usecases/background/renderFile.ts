import { mkdir, rm, stat } from 'node:fs/promises';
import { clipsOf, speechInReel, type Reel } from '#core/reel';
import type { Run } from '#core/readings';
import { loadTables } from '#data/looks';
import { findFile, findMedia, keyOf } from '#data/media';
import { findProject } from '#data/projects';
import { findBestReading, loadCameraPath, loadDerived, openablePath, parseParameters } from '#data/readings';
import { loadRevision } from '#data/reels';
import { partsOf, renderPlace, scratchFolder, storage } from '#data/storage';
import { findRender, setRender } from '#data/tasks';
import { loadSpoken } from '#data/words';
import { MediaError } from '#media/process';
import { withInputLook } from '#media/probe/shown';
import { renderReel, type RenderSource } from '#media/render/render';
import { inputLookFile } from '../inputLooks';
import { codingOfStored } from '../storedProbe';
import type { Work } from './runTask';

/** Renders the revision of a reel that was asked for, even when the reel was changed since. */
export async function renderFile({ task, signal, progress }: Work): Promise<string | null> {
  const render = await findRender(task.subject);
  const revision = render && (await loadRevision(render.reelId, render.revision));
  if (!render || !revision) throw new MediaError('The reel was deleted before it could be rendered.');
  const { captions, ...bare } = revision.document;
  const reel: Reel = captions && render.captions === 'burnt' ? { ...bare, captions } : bare;
  const sources = new Map<string, RenderSource>();
  for (const media of [
    ...clipsOf(reel).map((clip) => clip.media),
    ...(reel.music ? [reel.music.media] : []),
    ...(reel.logo ? [reel.logo.media] : []),
  ])
    if (!sources.has(media)) {
      const source = await findSource(media, render.projectId);
      if (source) sources.set(media, source);
    }
  await mkdir(scratchFolder(), { recursive: true });
  const output = renderPlace(render);
  try {
    const measured = await renderReel(reel, sources, output, {
      size: { width: render.width, height: render.height },
      format: render.format,
      quality: render.quality,
      ...(render.range ? { range: render.range } : {}),
      speech: await speechOf(reel),
      ...(reel.captions ? { wordsOf: await loadSpoken(clipsOf(reel).map((clip) => clip.media)) } : {}),
      keepIn: partsOf(output),
      signal,
      onProgress: progress,
      tables: await loadTables(render.projectId, tablesOf(reel)),
      pathOf: async (media) => {
        const row = await findMedia(media);
        return row && loadCameraPath(keyOf(row));
      },
    });
    const key = `renders/${render.id}.${render.format}`;
    const { size } = await stat(output);
    await storage().adopt(key, output);
    await setRender(render.id, { storageKey: key, size, ...measured });
    return null;
  } finally {
    await rm(output, { force: true });
  }
}

const tablesOf = (reel: Reel): string[] => [
  ...new Set([reel.look, ...clipsOf(reel).map((clip) => clip.look)].flatMap((look) => look?.lut ?? [])),
];

/** Where somebody speaks in the reel; only asked for when there is music that must give way. */
async function speechOf(reel: Reel) {
  if (!reel.music) return [];
  const runs = new Map<string, Run[]>();
  for (const media of new Set(clipsOf(reel).map((clip) => clip.media))) {
    const row = await findMedia(media);
    const derived = row && (await loadDerived(keyOf(row), (await findProject(row.projectId))?.rules));
    runs.set(media, derived?.runs ?? []);
  }
  return speechInReel(reel, (media) => runs.get(media) ?? []);
}

async function findSource(mediaId: string, projectId: string): Promise<RenderSource | null> {
  const row = await findMedia(mediaId);
  // A reel shows footage of its own project and no other.
  const file = row?.projectId === projectId && (await findFile(row.fileHash));
  const reading = file && (await findBestReading(keyOf(row)));
  if (!file || !reading) return null;
  const { kind, hasSound, heard, width, height, durationSeconds } = reading.probe;
  const filmed = codingOfStored(reading.probe);
  const inputLook = reading.probe.copied ? null : parseParameters(row.parameters).inputLook;
  const coding = withInputLook(filmed, await inputLookFile(inputLook));
  return {
    file: await openablePath(keyOf(row), file.storageKey),
    hasPicture: kind !== 'sound',
    hasSound,
    photo: kind === 'photo',
    width,
    height,
    durationSeconds,
    ...(coding ? { coding } : {}),
    ...(heard ? { heard } : {}),
  };
}
