import { data, redirect } from 'react-router';
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
import { openReel } from '#data/reels';
import { createRender, setRender } from '#data/tasks';
import { enqueueRender } from '#jobs/queue';
import { RenderDto } from '../forms/reelDto';
import { check } from './validate.server';

interface Asked {
  id: string;
  projectId: string;
  head: number;
  document: Reel;
}

/** Puts a render of a reel into the queue: the whole, a range, or every piece of the main track as a file of its own. */
export async function startRender({ id, projectId, head, document }: Asked, form: FormData) {
  const checked = check(RenderDto, form);
  const refuse = (problem: string) => data({ problem }, { status: 422 });
  if (!checked.ok) return refuse(Object.values(checked.problems)[0]!);
  const { format, quality, lines, from, to, pattern } = checked.value;
  const total = reelFrames(document);
  if (total === 0) return refuse('The reel is empty; there is nothing to render.');
  const { width, height } = document.size;
  const scale = lines ? lines / Math.min(width, height) : 1;
  const even = (value: number) => Math.round((value * scale) / 2) * 2;
  if (Math.max(even(width), even(height)) > 4096)
    return refuse('This picture would be larger than 4096 pixels. Choose fewer lines.');
  const wanted: { name: string; range: { start: number; end: number } | null }[] = [];
  if (pattern) {
    const pieces = mainTrack(document).items.filter((item) => item.kind === 'clip');
    let at = 0;
    let number = 0;
    for (const item of mainTrack(document).items) {
      if (item.kind === 'clip')
        wanted.push({
          name: pieceName(pattern, document.name, item.name, ++number, pieces.length),
          range: { start: at, end: at + item.frames },
        });
      at += item.frames;
    }
  } else if (from !== undefined || to !== undefined) {
    const range = { start: Math.min(total - 1, from ?? 0), end: Math.min(total, to ?? total) };
    if (range.end <= range.start) return refuse('The range holds no frame of the reel.');
    wanted.push({ name: document.name, range });
  } else wanted.push({ name: document.name, range: null });
  for (const { name, range } of wanted) {
    const seconds = framesToSeconds(range ? range.end - range.start : total, document.rate);
    const renderId = await createRender({
      projectId,
      reelId: id,
      revision: head,
      name,
      width: even(width),
      height: even(height),
      seconds,
      format,
      quality,
      range,
    });
    const task = await enqueueRender(projectId, renderId, name, seconds);
    await setRender(renderId, { taskId: task.id });
  }
  return redirect(`/projects/${projectId}/outputs`);
}

export interface ShortsOutput {
  /** Another shape than the reels have; null for their own. */
  shape: Shape | null;
  lines: number | null;
  quality: Quality;
  /** With {n}, {title}, {date}. */
  pattern: string;
}

/** Puts renders of several reels into the queue, named by a pattern. */
export async function renderShorts(
  projectId: string,
  ids: readonly string[],
  { shape, lines, quality, pattern }: ShortsOutput,
) {
  const opened = (await Promise.all(ids.map((id) => openReel(id)))).filter(
    (reel) => reel !== null && reel.projectId === projectId,
  );
  if (opened.length === 0) return data({ problem: 'These shorts are not there any more.' }, { status: 422 });
  const names = fileNames(
    opened.map((reel) => ({ title: reel!.document.name })),
    pattern,
  );
  const twice = clashes(names);
  if (twice.length)
    return data(
      { problem: `Two files would be called “${twice[0]!}”. Put {n} or {title} into the pattern.` },
      { status: 422 },
    );
  for (const [index, reel] of opened.entries()) {
    const { document, head, id } = reel!;
    const total = reelFrames(document);
    if (total === 0) continue;
    const own = Math.min(document.size.width, document.size.height);
    const size = shape ? sizeOf(shape, lines ?? own) : scaled(document.size, (lines ?? own) / own);
    const seconds = framesToSeconds(total, document.rate);
    const renderId = await createRender({
      projectId,
      reelId: id,
      revision: head,
      name: names[index]!,
      ...size,
      seconds,
      format: 'mp4',
      quality,
      range: null,
    });
    const task = await enqueueRender(projectId, renderId, names[index]!, seconds);
    await setRender(renderId, { taskId: task.id });
  }
  return data({ problem: null });
}

const scaled = ({ width, height }: Reel['size'], by: number): Reel['size'] => ({
  width: Math.round((width * by) / 2) * 2,
  height: Math.round((height * by) / 2) * 2,
});
