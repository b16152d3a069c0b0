import { mkdir, rm, stat } from 'node:fs/promises';
import { clipsOf, speechInReel, type Reel } from '#core/reel';
import type { Run } from '#core/readings';
import { loadTables } from '#data/looks';
import { findFile, findMedia, keyOf } from '#data/media';
import { findProject } from '#data/projects';
import { findBestReading, loadCameraPath, loadDerived, openablePath, parseParameters } from '#data/readings';
import { loadRevision } from '#data/reels';
import { forgetStretches, rendersWait } from '#data/renderStretches';
import { roomLeft } from '#data/room';
import { holdingFiles } from '#data/localCache';
import { helpFolder, partsOf, renderPlace, scratchFolder, storage, stretchPlace } from '#data/storage';
import { findRender, setRender } from '#data/tasks';
import { MediaError } from '#media/process';
import { withInputLook } from '#media/probe/shown';
import { renderReel, type RenderSource } from '#media/render/render';
import { helpRender } from '#media/render/renderPictures';
import { inputLookFile } from '../inputLooks';
import { loadReelTexts } from '../reelTexts';
import { codingOfStored } from '../storedProbe';
import { asRun, type Work } from './runTask';
import { RenderShare } from './shareRender';

/** What is rendered, and with what. The files of the sources need not be here yet. */
async function prepare(renderId: string) {
  const render = await findRender(renderId);
  const revision = render && (await loadRevision(render.reelId, render.revision));
  if (!render || !revision) return null;
  const { captions, ...bare } = revision.document;
  const reel: Reel = captions && render.captions === 'burnt' ? { ...bare, captions } : bare;
  const sources = new Map<string, FoundSource>();
  for (const media of [
    ...clipsOf(reel).map((clip) => clip.media),
    ...(reel.music ? [reel.music.media] : []),
    ...(reel.logo ? [reel.logo.media] : []),
  ])
    if (!sources.has(media)) {
      const source = await findSource(media, render.projectId);
      if (source) sources.set(media, source);
    }
  const options = async () => ({
    size: { width: render.width, height: render.height },
    format: render.format,
    quality: render.quality,
    ...(render.range ? { range: render.range } : {}),
    ...(reel.captions ? { texts: await loadReelTexts(render.projectId, reel) } : {}),
    tables: await loadTables(render.projectId, tablesOf(reel)),
    pathOf: async (media: string) => {
      const row = await findMedia(media);
      return row && loadCameraPath(keyOf(row));
    },
  });
  return { render, reel, sources, options };
}

/** Renders the revision of a reel that was asked for, even when the reel was changed since. */
export async function renderFile({ task, run, signal, progress }: Work): Promise<string | null> {
  const prepared = await prepare(task.subject);
  if (!prepared) throw new MediaError('The reel was deleted before it could be rendered.');
  const { render, reel, sources, options } = prepared;
  const here = new Map<string, RenderSource>();
  for (const [media, source] of sources) here.set(media, { ...source, file: await source.open() });
  await mkdir(scratchFolder(), { recursive: true });
  const output = renderPlace(render);
  const share = new RenderShare(render, run, true, signal);
  try {
    const measured = await renderReel(reel, here, output, {
      ...(await options()),
      speech: await speechOf(reel),
      keepIn: partsOf(output),
      share,
      signal,
      onProgress: progress,
    });
    const key = `renders/${render.id}.${render.format}`;
    const { size } = await stat(output);
    await storage().adopt(key, output);
    await setRender(render.id, { storageKey: key, size, ...measured });
    await forgetStretches(render.id);
    await storage().remove(stretchPlace(render.id));
    return null;
  } finally {
    share.settle();
    await rm(output, { force: true });
  }
}

/**
 * Makes stretches of a film that another worker renders, until that has none left, a render waits, or the disk is full.
 * @param mayGoOn asked before every stretch
 * @param othersWait whether another render waits for a worker
 * @returns how many were made
 */
export const helpWithRender = (
  renderId: string,
  stop: AbortSignal,
  mayGoOn: () => boolean,
  othersWait: () => Promise<boolean> = rendersWait,
): Promise<number> =>
  asRun(async (run) => {
    const prepared = await prepare(renderId);
    if (!prepared || prepared.render.storageKey !== null) return 0;
    const { render, reel, sources, options } = prepared;
    const share = new RenderShare(render, run, false, stop);
    const open = <T>(media: readonly string[], work: (files: ReadonlyMap<string, string>) => Promise<T>) =>
      holdingFiles(async () => {
        const files = new Map<string, string>();
        for (const each of new Set(media)) files.set(each, await sources.get(each)!.open());
        return work(files);
      });
    const goesOn = async () => mayGoOn() && !(await othersWait()) && (await roomLeft()) > 0;
    try {
      return await helpRender(
        reel,
        sources,
        { ...(await options()), keepIn: helpFolder(render, run), share, signal: stop },
        open,
        goesOn,
      );
    } finally {
      share.settle();
    }
  });

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

/** A source, by where it lies in the store; what it takes to have it here. */
type FoundSource = RenderSource & { open(): Promise<string> };

async function findSource(mediaId: string, projectId: string): Promise<FoundSource | null> {
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
    file: file.storageKey,
    open: () => openablePath(keyOf(row), file.storageKey),
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
