/** Whether everything that was in the database of an earlier release is there, opens, and can be gone on with. */
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { copyFile, mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { closeDatabase, database } from '../../data/db';
import { listDecisions } from '../../data/decisions';
import { listMarkers } from '../../data/log';
import { findFile } from '../../data/media';
import { openReel } from '../../data/reels';
import { scratchFolder, storage } from '../../data/storage';
import { findRender } from '../../data/tasks';
import { renderFile } from '../../usecases/background/renderFile';
import { editReel } from '../../usecases/editReel';
import { showFootage } from '../../usecases/footage';
import { showMoments } from '../../usecases/moments';
import { showMontage } from '../../usecases/montages';
import { showHome, showProject } from '../../usecases/projects';
import { showReel, showReels } from '../../usecases/reels';
import { showShorts, showShortSets } from '../../usecases/shorts';

interface Facts {
  project: string;
  reel: string;
  name: string;
  pieces: number;
  titles: number;
  head: number;
  decisions: number;
  markers: string[];
  montage: { media: string };
  shorts: number;
  /** Contents by name. */
  files: Record<string, string>;
}
const facts = JSON.parse(readFileSync(process.argv[2]!, 'utf8')) as Facts;
/** What a place shows. */
function opened<R extends { ok: boolean }>(result: R): Extract<R, { ok: true }> extends { value: infer T } ? T : never {
  if (!result.ok) throw new Error((result as unknown as { sentence: string }).sentence);
  return (result as unknown as { value: never }).value;
}

// The files themselves are the demo's; a database does not hold them.
await mkdir(scratchFolder(), { recursive: true });
for (const [name, hash] of Object.entries(facts.files)) {
  const file = await findFile(hash);
  assert(file, `${name} is not known any more`);
  const copy = join(scratchFolder(), 'brought');
  await copyFile(join('demo/media', name), copy);
  await storage().adopt(file.storageKey, copy);
}

const home = JSON.stringify(await showHome());
assert(home.includes(facts.project), 'the project is not on Home');
opened(await showFootage(facts.project));
const footage = JSON.stringify(opened(await showProject(facts.project)));
for (const name of Object.keys(facts.files))
  assert(footage.includes(name.replace(/\.\w+$/, '')), `${name} is not in the footage`);
opened(await showMoments(facts.project, null));
const markers = await listMarkers(facts.project);
assert.equal((await listDecisions(facts.project)).length, facts.decisions);
assert.deepEqual(
  markers.map(({ note }) => note),
  facts.markers,
);

assert(JSON.stringify(opened(await showReels(facts.project))).includes(facts.name), 'the reel is not among the reels');
opened(await showReel(facts.project, facts.reel, null));
const reel = (await openReel(facts.reel))!;
assert.deepEqual(
  [reel.document.name, reel.document.tracks[0]!.items.length, reel.document.titles?.length, reel.head],
  [facts.name, facts.pieces, facts.titles, facts.head],
);
const montage = opened(await showMontage(facts.project, facts.montage.media, false));
assert(montage.hearing && montage.stored, 'the montage is not there');
const sets = JSON.stringify(opened(await showShortSets(facts.project)));
const [set] = (await database().$client.query<{ id: string }>('select id from short_sets')).rows;
assert(set && sets.includes(set.id), 'the shorts are not there');
const shorts = JSON.stringify(opened(await showShorts(facts.project, set.id)));
assert(shorts.includes(`"shorts":[`), 'the shorts do not open');

// It goes on: a step back, an edit, and the render that waited when the earlier release was ended.
const edit = (head: number, wish: object) => editReel(facts.project, facts.reel, { head, ...wish });
assert((await edit(facts.head, { step: 'undo' })).ok, 'an edit of the earlier release cannot be taken back');
const now = (await openReel(facts.reel))!;
assert.notEqual(now.document.name, facts.name);
assert((await edit(now.head, { command: { type: 'rename', name: 'On' } })).ok, 'the reel cannot be edited');
const [waits] = (
  await database().$client.query<{ id: string; subject: string; key: string | null }>(
    "select t.id, t.subject, j.key from tasks t left join graphile_worker.jobs j on j.key = t.id::text where t.kind = 'render' and t.state = 'queued'",
  )
).rows;
assert(waits?.key, 'the render that waited does not wait any more');
await renderFile({
  task: { id: waits.id, projectId: facts.project, subject: waits.subject } as never,
  run: crypto.randomUUID(),
  signal: new AbortController().signal,
  progress: () => undefined,
  say: async () => undefined,
});
assert((await findRender(waits.subject))!.size! > 0, 'it was not rendered');
console.log('everything is there, opens, and goes on');
await closeDatabase();
process.exit();
