import { demoProject } from '../../demo/project';
import { RenderDto } from '../../usecases/forms/reelDto';
import { ShortsWishDto } from '../../usecases/forms/shortsDto';
import type { Installation } from './installation';
import { freshId, sampleOf, type Known, type Sample } from './samples';

/** Null is an empty field. */
const asForm = (sample: Sample): Record<string, string> =>
  Object.fromEntries(
    Object.entries(sample).map(([name, value]) => [
      name,
      value === null ? '' : JSON.stringify(value).replace(/^"(.*)"$/, '$1'),
    ]),
  );

/** A table of colours that changes nothing (Cube LUT Specification 1.0). */
export const plainTable = `LUT_3D_SIZE 2\n${Array.from({ length: 8 }, (_, at) => `${at & 1} ${(at >> 1) & 1} ${at >> 2}`).join('\n')}\n`;

/**
 * Copies the demo project and makes in it what a project in use has: a reel, a set of shorts, a link, a render, people, a
 * table of colours. Gives the ids by the names that routes and fields have.
 */
export async function makeKnown(place: Installation): Promise<Known> {
  const send = async (path: string, init: RequestInit) => {
    const answer = await fetch(place.url + path, { method: 'POST', redirect: 'manual', ...init });
    if (answer.status >= 400) throw new Error(`${path}: ${answer.status} ${(await answer.text()).slice(0, 300)}`);
  };
  const json = (path: string, body: unknown) =>
    send(path, { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  const form = (path: string, body: Record<string, string>) => send(path, { body: new URLSearchParams(body) });
  const one = async (query: string, values: unknown[] = []): Promise<string> =>
    (await place.rows<{ id: string }>(query, values))[0]?.id ?? freshId;

  await form('/_root.data?index', { intent: 'copy', id: demoProject.id });
  const projectId = await one('select id from projects where removed_at is null order by created_at desc limit 1');
  const own = (table: string, more = '') =>
    one(`select id from ${table} where project_id = $1 ${more} limit 1`, [projectId]);
  const project = `/projects/${projectId}`;
  const kind = (wanted: string) =>
    place.rows<{ id: string; name: string }>(
      "select m.id, m.name from media m join readings r on r.hash = m.file_hash where m.project_id = $1 and r.probe->>'kind' = $2 order by m.name",
      [projectId, wanted],
    );
  const films = await kind('video');
  const talk = films.find(({ name }) => name.includes('race-day')) ?? films[0]!;
  const pieces = films.slice(0, 4).map(({ id, name }) => ({ media: id, name, start: 1, end: 4 }));
  await json(`${project}/reels`, { reels: [{ name: 'Under siege', pieces }] });
  const reelId = await own('reels');
  await form(`${project}/shorts.data`, asForm({ ...sampleOf(ShortsWishDto, { media: talk.id }), from: 0, to: 60 }));
  await json(`${project}/reels/${reelId}/render`, { ...sampleOf(RenderDto, {}), pattern: 'siege {for} {n}' });
  await form(`${project}/reels/${reelId}/viewing.data`, { intent: 'open', mayDownload: 'true' });
  const table = new FormData();
  table.set('file', new File([plainTable], 'plain.cube'));
  await send(`${project}/looks`, { body: table });
  const people = await (await fetch(`${place.url}${project}/footage/people.data`)).text();
  const versionId = await one(
    'select v.id from viewing_versions v join viewings w on w.id = v.viewing_id where w.reel_id = $1 limit 1',
    [reelId],
  );
  return {
    id: freshId,
    projectId,
    media: talk.id,
    mediaId: talk.id,
    binId: await own('bins'),
    bin: await own('bins'),
    reference: films[0]!.id,
    other: films[1]!.id,
    ids: films[0]!.id,
    song: (await kind('sound'))[0]!.id,
    reelId,
    into: reelId,
    clip: await one("select document#>>'{tracks,0,items,0,id}' as id from reel_revisions where reel_id = $1 limit 1", [
      reelId,
    ]),
    setId: await own('short_sets'),
    renderId: await own('renders'),
    taskId: await own('tasks'),
    table: await own('colour_tables'),
    person: /auto:[0-9a-f-]{36}(\/[\d.]+)?/.exec(people)?.[0] ?? freshId,
    token: await one('select token as id from viewings where reel_id = $1', [reelId]),
    versionId,
    version: versionId,
    tasteId: freshId,
    upload: 'x'.repeat(32),
    format: 'otio',
    page: 'footage',
    sheet: '0',
  };
}
