import { knowFiles, layGround, photoFootage, prepare, type Decision, type Footage } from '#core/moments';
import { tintCells } from '#core/picture';
import { lookColumns, lookHz, lookRows, tintHz } from '#core/readings';
import { listDecisions } from '#data/decisions';
import { loadPick } from '#data/log';
import { keyOf, listMedia } from '#data/media';
import type { Project } from '#data/projects';
import { loadDerived, type StoredDerived } from '#data/readings';
import { showSpoken } from './words';

type Item = Awaited<ReturnType<typeof listMedia>>[number];

/** A stored reading as the choice sees it. */
function footageOf({ id, probe, defaultIn, defaultOut }: Item, derived: StoredDerived, photoSeconds: number): Footage {
  const { durationSeconds, hz, traces, runs, look, tint } = derived;
  const footage: Footage = {
    id,
    durationSeconds,
    hz,
    traces,
    runs,
    look: { hz: lookHz, cells: lookColumns * lookRows, values: look },
    tint: { hz: tintHz, cells: tintCells, values: tint },
  };
  if (probe?.kind === 'photo') return photoFootage(footage, photoSeconds);
  return defaultIn === null && defaultOut === null
    ? footage
    : { ...footage, wanted: { start: defaultIn ?? 0, end: defaultOut ?? durationSeconds } };
}

/**
 * All that a project can be picked from, laid out by its mix and by all that is known of it, as the Moments screen does it.
 * @param decide what was decided, as it is to count here
 */
export async function layProject(project: Project, decide: (own: Decision[]) => Decision[] = (own) => own) {
  const [items, decisions, { value: pick }, spoken] = await Promise.all([
    listMedia(project.id),
    listDecisions(project.id),
    loadPick(project.id),
    showSpoken(project.id),
  ]);
  const { words, people } = spoken.ok ? spoken.value : { words: {}, people: [] };
  const clocks = Object.fromEntries(
    items.flatMap(({ id, binId, syncOffset }) =>
      binId && syncOffset !== null ? [[id, { group: binId, offsetSeconds: syncOffset }]] : [],
    ),
  );
  const known = knowFiles(
    items.map(({ id }) => id),
    people,
    words,
    clocks,
  );
  const { mix, limits, piece, variety } = pick;
  const counted = decide(decisions);
  const grounds = [];
  for (const item of items) {
    if (item.problem || (item.probe?.kind !== 'video' && item.probe?.kind !== 'photo')) continue;
    const derived = await loadDerived(keyOf({ fileHash: item.hash, parameters: item.parameters }), project.rules);
    if (!derived) continue;
    const prepared = prepare(footageOf(item, derived, pick.photoSeconds));
    grounds.push(layGround(prepared, { mix, limits, piece, variety }, counted, known.get(item.id)));
  }
  return {
    items,
    pick,
    decisions,
    grounds,
    prepared: new Map(grounds.map((ground) => [ground.prepared.footage.id, ground.prepared])),
    said: { words, people },
    peopleIn: (media: string) => known.get(media)?.people ?? [],
  };
}
