import { captionCues, cuesBetween, wordsInReel, writeSrt } from '#core/formats';
import { clipsOf } from '#core/reel';
import { framesToSeconds } from '#core/time';
import { isId } from '#data/projects';
import { loadRevision } from '#data/reels';
import { findRender } from '#data/tasks';
import { loadSpoken } from '#data/words';
import { done, missing, type Result } from './result';

/** The captions of a file that was rendered without them in the picture, at its times, as SRT; words as they are now. */
export async function showOutputCaptions(renderId: string): Promise<Result<{ name: string; text: string }>> {
  const render = isId(renderId) ? await findRender(renderId) : null;
  const revision = render?.storageKey ? await loadRevision(render.reelId, render.revision) : null;
  if (!render || !revision || render.captions !== 'beside')
    return missing('There are no captions beside this file, or it is not finished.');
  const reel = revision.document;
  const wordsOf = await loadSpoken(clipsOf(reel).map((clip) => clip.media));
  const cues = captionCues(wordsInReel(reel, wordsOf), reel.captions?.letters);
  const { range } = render;
  const shown = range
    ? cuesBetween(cues, framesToSeconds(range.start, reel.rate), framesToSeconds(range.end, reel.rate))
    : cues;
  return done({ name: `${render.name}.srt`, text: writeSrt(shown) });
}
