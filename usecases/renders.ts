import {
  clashes,
  fileNames,
  mainTrack,
  reelFrames,
  scaledSize,
  sizeOf,
  type Quality,
  type Reel,
  type Shape,
} from '#core/reel';
import { framesToSeconds } from '#core/time';
import { isId } from '#data/projects';
import { openReel, type OpenReel } from '#data/reels';
import { deleteRender, findRender, listRenders, queueRenderAgain, queueRenders, type NewRender } from '#data/tasks';
import { shownRenders } from '#data/viewings';
import { RenderDto } from './forms/reelDto';
import { listPostLines } from './posts';
import { openProject } from './openProject';
import { showOutputCaptions } from './outputCaptions';
import { openReelOf } from './openReel';
import { done, missing, nothingMore, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

/** More than that no player of the web shows. */
const largestSide = 4096;

/** Renders and posts of a project. */
export async function showOutputs(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const [rows, posts, shown] = await Promise.all([
    listRenders(projectId),
    listPostLines(projectId),
    shownRenders(projectId),
  ]);
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
      captions: render.captions,
      /** Whether others see it under a link. */
      isUnderLink: shown.has(render.id),
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

/** Puts files of a reel into the queue: of the whole, a range, or every piece of the main track. */
export async function renderReel(projectId: string, reelId: string, given: unknown): Promise<Result<null>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const reel = opened.value;
  const checked = check(RenderDto, given);
  if (!checked.ok) return checked;
  if (reelFrames(reel.document) === 0) return refused('The reel is empty; there is nothing to render.');
  const renders: NewRender[] = [];
  for (const file of checked.value.files) {
    const size = scaledSize(reel.document.size, file.lines);
    if (Math.max(size.width, size.height) > largestSide)
      return refused(`This picture would be larger than ${largestSide} pixels. Choose fewer lines.`, 'lines');
    const stretches = stretchesOf(reel.document, file, checked.value.pieces && file.format !== 'png');
    if (!stretches.ok) return stretches;
    const { format, quality, purpose, captions } = file;
    const names = fileNames(
      stretches.value.map(({ title }) => ({ title, reel: reel.document.name, purpose })),
      checked.value.pattern,
    );
    stretches.value.forEach(({ range }, index) =>
      renders.push(newRender(reel, { name: names[index]!, range, ...size, format, quality, captions })),
    );
  }
  const [twice] = clashes(renders.map(({ name, format }) => `${name}.${format}`));
  if (twice) return refused(`Two files would be called “${twice}”. Put {for} or {n} into the name.`, 'pattern');
  await queueRenders(renders);
  return nothingMore;
}

/** What a file shows of a reel; its range in frames, null for the whole. */
interface Stretch {
  title: string;
  range: { start: number; end: number } | null;
}

/** The stretches that one way to make a file is asked for. @param pieces whether every piece is a file */
function stretchesOf(
  reel: Reel,
  { from, to }: RenderDto['files'][number],
  pieces: boolean | undefined,
): Result<Stretch[]> {
  if (pieces) return done(piecesOf(reel));
  if ((from ?? to ?? null) === null) return done([{ title: reel.name, range: null }]);
  const total = reelFrames(reel);
  const range = { start: Math.min(total - 1, from ?? 0), end: Math.min(total, to ?? total) };
  return range.end > range.start
    ? done([{ title: reel.name, range }])
    : refused('The range holds no frame of the reel.', 'to');
}

function piecesOf(reel: Reel): Stretch[] {
  const stretches: Stretch[] = [];
  let start = 0;
  for (const item of mainTrack(reel).items) {
    const range = { start, end: start + item.frames };
    if (item.kind === 'clip') stretches.push({ title: item.name, range });
    start = range.end;
  }
  return stretches;
}

/** A file of a reel as it is put into the queue. */
export const newRender = (
  { id, projectId, head, document }: Pick<OpenReel, 'id' | 'projectId' | 'head' | 'document'>,
  file: Pick<NewRender, 'name' | 'range' | 'width' | 'height' | 'format' | 'quality' | 'captions'>,
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
      const size = shape ? sizeOf(shape, lines ?? Math.min(width, height)) : scaledSize(reel.document.size, lines);
      return [newRender(reel, { name: names[index]!, range: null, ...size, format: 'mp4', quality })];
    }),
  );
  return nothingMore;
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
  if (isId(projectId) && isId(renderId)) await deleteRender(projectId, renderId);
  return nothingMore;
}

/** Where a finished file lies in the store, and what it is called when it is taken away. */
export async function findOutput(renderId: string): Promise<Result<{ key: string; name: string }>> {
  const render = isId(renderId) ? await findRender(renderId) : null;
  if (!render?.storageKey) return missing('This render does not exist, or is not finished.');
  return done({ key: render.storageKey, name: `${render.name}.${render.format}` });
}

/** Finished files for one archive, with the captions beside them: those that are named, or all. Names that stand twice get a number. */
export async function collectOutputs(projectId: string, ids: readonly string[] | null) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const ready = (await listRenders(projectId)).flatMap(({ render: { id, name, format, captions, storageKey } }) =>
    storageKey && (ids === null || ids.includes(id)) ? [{ id, name, format, captions, key: storageKey }] : [],
  );
  if (ready.length === 0) return missing('None of these files is finished.');
  const used = new Map<string, number>();
  const names = fileNames(
    ready.map(({ name }) => ({ title: name })),
    '{title}',
  );
  const files = ready.map(({ id, format, captions, key }, index) => {
    const name = names[index]!;
    const before = used.get(`${name}.${format}`.toLowerCase()) ?? 0;
    used.set(`${name}.${format}`.toLowerCase(), before + 1);
    const stem = `${name}${before ? ` (${before + 1})` : ''}`;
    return { id, key, stem, name: `${stem}.${format}`, captions };
  });
  const texts: { name: string; text: string }[] = [];
  for (const { id, stem, captions } of files) {
    const beside = captions === 'beside' ? await showOutputCaptions(id) : null;
    if (beside?.ok && beside.value.text) texts.push({ name: `${stem}.srt`, text: beside.value.text });
  }
  return done({
    name: `${project.value.name}, outputs.zip`,
    files: files.map(({ key, name }) => ({ key, name })),
    texts,
  });
}
