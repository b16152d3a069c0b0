import {
  chooseForTarget,
  momentPiece,
  momentTitle,
  titlesApart,
  type Decision,
  type Moment,
  type Prepared,
} from '#core/moments';
import { runsOf } from '#core/readings';
import type { WantedPiece } from '#core/reel';
import { lengthOf, overlap } from '#core/time';
import { MorePiecesDto } from './forms/dto';
import { layProject } from './grounds';
import { openProject } from './openProject';
import { done, type Result } from './result';
import { check } from './validate';

/**
 * Moments that a reel does not show yet, for so many seconds: chosen by the mix of the project, what was kept by hand
 * first. With `quiet` only moments in which nobody speaks, the best first.
 */
export async function findMorePieces(projectId: string, given: unknown): Promise<Result<{ pieces: WantedPiece[] }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(MorePiecesDto, given);
  if (!checked.ok) return checked;
  const { seconds, used, quiet = false } = checked.value;
  // What the reel shows already is not chosen again; what was kept of it is there.
  const shown = used.map((range, index): Decision => ({ id: `shown ${index}`, ...range, verdict: 'drop' }));
  const { grounds, prepared, said } = await layProject(project.value, (decisions) => [
    ...decisions.filter(
      (own) => !used.some((range) => range.media === own.media && overlap(range, own) > (own.end - own.start) / 2),
    ),
    ...shown,
  ]);
  const moments = quiet
    ? quietest(chooseForTarget(grounds, allSeconds).moments, prepared, seconds)
    : chooseForTarget(grounds, seconds).moments;
  const titles = titlesApart(
    moments,
    moments.map((moment) => momentTitle(prepared.get(moment.media)!, moment, said)),
  );
  return done({
    pieces: moments.map((moment, index) => momentPiece(prepared.get(moment.media)!, moment, titles[index]!)),
  });
}

/** More than any project is long: everything that can be a piece is taken. */
const allSeconds = 1e9;

/** Of moments those in which nobody speaks, the best first, for so many seconds. */
function quietest(moments: readonly Moment[], prepared: ReadonlyMap<string, Prepared>, seconds: number): Moment[] {
  const quiet = moments
    .filter(
      (moment) =>
        !runsOf(prepared.get(moment.media)!.footage.runs, 'speech').some((speech) => overlap(speech, moment) > 0),
    )
    .sort((a, b) => b.score - a.score);
  let left = seconds;
  return quiet.filter((moment) => {
    const fits = left > 0;
    left -= lengthOf(moment);
    return fits;
  });
}
