import { chooseForTarget, momentPiece, momentTitle, titlesApart, type Decision } from '#core/moments';
import type { WantedPiece } from '#core/reel';
import { overlap } from '#core/time';
import { MorePiecesDto } from './forms/dto';
import { layProject } from './grounds';
import { openProject } from './openProject';
import { done, type Result } from './result';
import { check } from './validate';

/**
 * Moments that a reel does not show yet, for so many seconds: chosen by the mix of the project, what was kept by hand
 * first.
 */
export async function findMorePieces(projectId: string, given: unknown): Promise<Result<{ pieces: WantedPiece[] }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(MorePiecesDto, given);
  if (!checked.ok) return checked;
  const { seconds, used } = checked.value;
  // What the reel shows already is not chosen again; what was kept of it is there.
  const shown = used.map((range, index): Decision => ({ id: `shown ${index}`, ...range, verdict: 'drop' }));
  const { grounds, prepared, said } = await layProject(project.value, (decisions) => [
    ...decisions.filter(
      (own) => !used.some((range) => range.media === own.media && overlap(range, own) > (own.end - own.start) / 2),
    ),
    ...shown,
  ]);
  const { moments } = chooseForTarget(grounds, seconds);
  const titles = titlesApart(
    moments,
    moments.map((moment) => momentTitle(prepared.get(moment.media)!, moment, said)),
  );
  return done({
    pieces: moments.map((moment, index) => momentPiece(prepared.get(moment.media)!, moment, titles[index]!)),
  });
}
