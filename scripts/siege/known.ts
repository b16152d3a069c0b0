import { randomUUID } from 'node:crypto';
import { demoProject } from '../../demo/project';
import type { Installation } from './installation';
import { ShortsWishDto } from '../../usecases/forms/shortsDto';
import { RenderDto } from '../../usecases/forms/reelDto';
import { sampleOf, type Known } from './samples';

/** Makes what an installation in use has: a reel, a short set, a link, a render; gives the ids by the names that routes and fields have. */
export async function makeKnown(place: Installation): Promise<Known> {
  const project = `/projects/${demoProject.id}`;
  const send = async (path: string, body: unknown, as: 'json' | 'form' = 'json') => {
    const answer = await fetch(`${place.url}${path}${as === 'form' ? '.data' : ''}`, {
      method: 'POST',
      redirect: 'manual',
      ...(as === 'json'
        ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
        : { body: new URLSearchParams(body as Record<string, string>) }),
    });
    if (answer.status >= 400)
      console.error(
        `${path}: ${answer.status} ${(await answer.text()).replace(/^<!DOCTYPE[^]*?<main/, '').slice(0, 300)}`,
      );
  };
  const one = async (query: string, values: unknown[] = []): Promise<string | undefined> =>
    (await place.rows<{ id: string }>(query, values))[0]?.id;
  const films = await place.rows<{ id: string; name: string }>(
    "select m.id, m.name from media m join readings r on r.hash = m.file_hash where m.project_id = $1 and r.probe->>'kind' = 'video' order by m.name",
    [demoProject.id],
  );
  const song = await one(
    "select m.id from media m join readings r on r.hash = m.file_hash where m.project_id = $1 and r.probe->>'kind' = 'sound' order by m.name",
    [demoProject.id],
  );
  const talk = films.find(({ name }) => /race-day/.test(name)) ?? films[0]!;
  const pieces = films.slice(0, 4).map(({ id, name }) => ({ media: id, name, start: 1, end: 4, scores: {} }));
  await send(`${project}/reels`, { reels: [{ name: 'Under siege', pieces }] });
  let reel = await one('select id from reels where project_id = $1 limit 1', [demoProject.id]);
  if (!reel) {
    // By way of a montage, which needs nothing but a song.
    await send(`${project}/begin`, { intent: 'begin', aim: 'reel' }, 'form');
    reel = await one('select id from reels where project_id = $1 limit 1', [demoProject.id]);
  }
  const short = { ...sampleOf(ShortsWishDto, { media: talk.id }), minSeconds: 8, maxSeconds: 45, from: 0, to: 60, houseStyle: '', request: '' };
  await send(
    `${project}/shorts`,
    Object.fromEntries(Object.entries(short).map(([name, value]) => [name, String(value)])),
    'form',
  );
  await send(`${project}/reels/${reel}/render`, { ...sampleOf(RenderDto, {}), pattern: 'siege {for} {n}' });
  await send(`${project}/reels/${reel}/viewing`, { intent: 'open', mayDownload: 'true' }, 'form');
  const token = await one('select token as id from viewings limit 1');
  return {
    id: randomUUID(),
    projectId: demoProject.id,
    media: films[0]!.id,
    mediaId: films[0]!.id,
    binId: (await one('select id from bins where project_id = $1 limit 1', [demoProject.id])) ?? randomUUID(),
    reference: films[0]!.id,
    other: films[1]!.id,
    ids: films[0]!.id,
    song: song ?? films[0]!.id,
    reelId: reel ?? randomUUID(),
    setId: (await one('select id from short_sets where project_id = $1 limit 1', [demoProject.id])) ?? randomUUID(),
    renderId: (await one('select id from renders limit 1')) ?? randomUUID(),
    token: token ?? 'x'.repeat(32),
    versionId: randomUUID(),
    tasteId: randomUUID(),
    upload: 'x'.repeat(32),
    clip: 'clip-1',
    format: 'otio',
    page: 'footage',
    sheet: '0',
    sound: 'all',
  };
}
