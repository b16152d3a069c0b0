import {
  chooseForTarget,
  layGround,
  momentPiece,
  momentTitle,
  prepare,
  titlesApart,
  type Decision,
} from '#core/moments';
import type { WantedPiece } from '#core/reel';
import { overlap } from '#core/time';
import { listDecisions } from '#data/decisions';
import { loadPick } from '#data/log';
import { listMedia } from '#data/media';
import { findProject } from '#data/projects';
import { loadDerived } from '#data/readings';
import { MorePiecesDto } from './forms/dto';
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
  const [items, decisions, pick, rules] = await Promise.all([
    listMedia(projectId),
    listDecisions(projectId),
    loadPick(projectId),
    findProject(projectId).then((row) => row?.rules ?? null),
  ]);
  const { mix, limits, piece, variety } = pick.value;
  // What the reel shows already is not chosen again; what was kept of it is there.
  const shown = used.map((range, index): Decision => ({ id: `shown ${index}`, ...range, verdict: 'drop' }));
  const open = decisions.filter(
    (own) => !used.some((range) => range.media === own.media && overlap(range, own) > (own.end - own.start) / 2),
  );
  const grounds = [];
  for (const { id, hash, parameters, probe, defaultIn, defaultOut } of items) {
    if (probe?.kind !== 'video') continue;
    const derived = await loadDerived({ hash, parameters }, rules);
    if (!derived) continue;
    const { durationSeconds, hz, traces, runs } = derived;
    const wanted =
      defaultIn === null && defaultOut === null
        ? {}
        : { wanted: { start: defaultIn ?? 0, end: defaultOut ?? durationSeconds } };
    const footage = { id, durationSeconds, hz, traces, runs, ...wanted };
    grounds.push(layGround(prepare(footage), { mix, limits, piece, variety }, [...open, ...shown]));
  }
  const prepared = new Map(grounds.map((ground) => [ground.prepared.footage.id, ground.prepared]));
  const { moments } = chooseForTarget(grounds, seconds);
  const titles = titlesApart(
    moments,
    moments.map((moment) => momentTitle(prepared.get(moment.media)!, moment)),
  );
  return done({
    pieces: moments.map((moment, index) => momentPiece(prepared.get(moment.media)!, moment, titles[index]!)),
  });
}
