import {
  clashes,
  fileNames,
  mainTrack,
  pieceName,
  reelFrames,
  sizeOf,
  type Quality,
  type Reel,
  type Shape,
} from '#core/reel';
import { framesToSeconds } from '#core/time';
import { isId } from '#data/projects';
import { openReel, type OpenReel } from '#data/reels';
import { deleteRender, findRender, listRenders, queueRenderAgain, queueRenders, type NewRender } from '#data/tasks';
import { RenderDto } from './forms/reelDto';
import { listPostLines } from './posts';
import { openProject } from './openProject';
import { openReelOf } from './openReel';
import { done, missing, nothingMore, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

/** More than that no player of the web shows. */
const largestSide = 4096;

/** Renders and posts of a project. */
export async function showOutputs(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const [rows, posts] = await Promise.all([listRenders(projectId), listPostLines(projectId)]);
  return done({
    posts,
    renders: rows.map(({ render, task }) => ({
      id: render.id,
      reelId: render.reelId,
      name: render.name,
      format: render.format,
      width: render.width,
      height: render.height,
      seconds: render.seconds,
      size: render.size,
      lufs: render.integratedLufs,
      peakDb: render.truePeakDb,
      createdAt: render.createdAt,
      ready: Boolean(render.storageKey),
      task: task && {
        id: task.id,
        state: task.state,
        progress: task.progress,
        secondsLeft: task.secondsLeft,
        sentence: task.sentence,
      },
    })),
  });
}
export type OutputLine = ValueOf<typeof showOutputs>['renders'][number];

/** Puts a render of a reel into the queue: the whole, a range, or every piece of the main track as a file of its own. */
export async function renderReel(projectId: string, reelId: string, given: unknown): Promise<Result<null>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const reel = opened.value;
  const checked = check(RenderDto, given);
  if (!checked.ok) return checked;
  const { format, quality, lines } = checked.value;
  if (reelFrames(reel.document) === 0) return refused('The reel is empty; there is nothing to render.');
  const size = scaled(reel.document.size, lines);
  if (Math.max(size.width, size.height) > largestSide)
    return refused(`This picture would be larger than ${largestSide} pixels. Choose fewer lines.`, 'lines');
  const files = filesOf(reel.document, checked.value);
  if (!files.ok) return files;
  await queueRenders(files.value.map((file) => newRender(reel, { ...file, ...size, format, quality })));
  return nothingMore;
}

/** A file that a reel is to be rendered to; its range in frames, null for the whole. */
interface WantedFile {
  name: string;
  range: { start: number; end: number } | null;
}

/** The files that were asked for. */
function filesOf(reel: Reel, { from, to, pattern }: RenderDto): Result<WantedFile[]> {
  if (pattern) return done(filesOfPieces(reel, pattern));
  if (from === undefined && to === undefined) return done([{ name: reel.name, range: null }]);
  const total = reelFrames(reel);
  const range = { start: Math.min(total - 1, from ?? 0), end: Math.min(total, to ?? total) };
  return range.end > range.start
    ? done([{ name: reel.name, range }])
    : refused('The range holds no frame of the reel.', 'to');
}

function filesOfPieces(reel: Reel, pattern: string): WantedFile[] {
  const { items } = mainTrack(reel);
  const count = items.filter((item) => item.kind === 'clip').length;
  const files: WantedFile[] = [];
  let start = 0;
  for (const item of items) {
    const range = { start, end: start + item.frames };
    if (item.kind === 'clip')
      files.push({ name: pieceName(pattern, reel.name, item.name, files.length + 1, count), range });
    start = range.end;
  }
  return files;
}

const newRender = (
  { id, projectId, head, document }: Pick<OpenReel, 'id' | 'projectId' | 'head' | 'document'>,
  file: WantedFile & Pick<NewRender, 'width' | 'height' | 'format' | 'quality'>,
): NewRender => ({
  projectId,
  reelId: id,
  revision: head,
  seconds: framesToSeconds(file.range ? file.range.end - file.range.start : reelFrames(document), document.rate),
  ...file,
});

export interface SetOutput {
  /** Another shape than the reels have; null for their own. */
  shape: Shape | null;
  /** Of the shorter side; null for the reels' own. */
  lines: number | null;
  quality: Quality;
  /** With {n}, {title}, {date}. */
  pattern: string;
}

/** Puts renders of several reels into the queue, named by a pattern. */
export async function renderReels(
  projectId: string,
  ids: readonly string[],
  { shape, lines, quality, pattern }: SetOutput,
): Promise<Result<null>> {
  const opened = (await Promise.all(ids.map((id) => openReel(id)))).filter((reel) => reel !== null);
  const own = opened.filter((reel) => reel.projectId === projectId);
  if (own.length === 0) return refused('These shorts are not there any more.');
  const names = fileNames(
    own.map((reel) => ({ title: reel.document.name })),
    pattern,
  );
  const [twice] = clashes(names);
  if (twice) return refused(`Two files would be called “${twice}”. Put {n} or {title} into the pattern.`, 'pattern');
  await queueRenders(
    own.flatMap((reel, index) => {
      if (reelFrames(reel.document) === 0) return [];
      const { width, height } = reel.document.size;
      const size = shape ? sizeOf(shape, lines ?? Math.min(width, height)) : scaled(reel.document.size, lines);
      return [newRender(reel, { name: names[index]!, range: null, ...size, format: 'mp4', quality })];
    }),
  );
  return nothingMore;
}

/** The same shape with so many lines at the shorter side, in even numbers as encoders want them. */
function scaled({ width, height }: Reel['size'], lines: number | null | undefined): Reel['size'] {
  const scale = lines ? lines / Math.min(width, height) : 1;
  const even = (value: number) => Math.round((value * scale) / 2) * 2;
  return { width: even(width), height: even(height) };
}

/** Tries a render again that failed or was cancelled. */
export async function renderAgain(projectId: string, renderId: unknown): Promise<Result<null>> {
  const render = isId(renderId) ? await findRender(renderId) : null;
  if (render?.projectId !== projectId) return missing('This render does not exist any more.');
  await queueRenderAgain(render.id);
  return nothingMore;
}

/** Forgets a render and its file; the reel stays. */
export async function forgetRender(projectId: string, renderId: unknown): Promise<Result<null>> {
  if (isId(renderId)) await deleteRender(projectId, renderId);
  return nothingMore;
}

/** Where a finished file lies in the store, and what it is called when it is taken away. */
export async function findOutput(renderId: string): Promise<Result<{ key: string; name: string }>> {
  const render = isId(renderId) ? await findRender(renderId) : null;
  if (!render?.storageKey) return missing('This render does not exist, or is not finished.');
  return done({ key: render.storageKey, name: `${render.name}.${render.format}` });
}

/** Finished files for one archive: those that are named, or all. Names that stand twice get a number. */
export async function collectOutputs(projectId: string, ids: readonly string[] | null) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const ready = (await listRenders(projectId)).flatMap(({ render: { id, name, format, storageKey } }) =>
    storageKey && (ids === null || ids.includes(id)) ? [{ name, format, key: storageKey }] : [],
  );
  if (ready.length === 0) return missing('None of these files is finished.');
  const used = new Map<string, number>();
  const names = fileNames(
    ready.map(({ name }) => ({ title: name })),
    '{title}',
  );
  const files = ready.map(({ format, key }, index) => {
    const name = names[index]!;
    const before = used.get(`${name}.${format}`.toLowerCase()) ?? 0;
    used.set(`${name}.${format}`.toLowerCase(), before + 1);
    return { key, name: `${name}${before ? ` (${before + 1})` : ''}.${format}` };
  });
  return done({ name: `${project.value.name}, outputs.zip`, files });
}
