import { closeSync, openSync, rmSync, statfsSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { RenderDto } from '../../usecases/forms/reelDto';
import type { Installation } from './installation';
import { untilIdle } from './kills';
import type { Found } from './report';
import { sampleOf, type Known } from './samples';
import { announcement, part } from './tus';

/** Fills the disk with nothing until so many bytes are left. */
class Ballast {
  private readonly file: string;
  constructor(private readonly folder: string) {
    this.file = join(folder, 'ballast');
  }
  fill(left: number): void {
    const descriptor = openSync(this.file, 'a');
    const block = Buffer.alloc(1 << 20);
    const free = () => {
      const { bavail, bsize } = statfsSync(this.folder);
      return bavail * bsize;
    };
    try {
      while (free() > left) writeSync(descriptor, block, 0, Math.max(4096, Math.min(block.length, free() - left)));
    } catch {
      // It is full.
    } finally {
      closeSync(descriptor);
    }
  }
  empty(): void {
    rmSync(this.file, { force: true });
  }
}

/** Fills the disk at five moments. Nothing that was confirmed may be lost, and everything has to go on. @returns moments tried */
export async function besiegeDisk(place: Installation, known: Known, found: Found): Promise<number> {
  const ballast = new Ballast(process.env.SIEGE_DISK!);
  const project = `/projects/${known.projectId}`;
  const clip = readFileSync('demo/media/walk-to-the-pier.mp4');
  const create = (length: number) =>
    fetch(`${place.url}/upload`, announcement(known, `disk-${randomUUID()}.mp4`, length));
  const patch = (address: string, offset: number, body: Buffer) => fetch(place.url + address, part(offset, body));
  const wants = async (what: string, answer: Response, status: number) => {
    const text = await answer.text();
    if (answer.status !== status)
      found.add('faults', `${what}: ${answer.status} instead of ${status}: ${text.slice(0, 200)}`);
    else if (status === 507 && !/full/.test(text)) found.add('faults', `${what}: no sentence: ${text.slice(0, 200)}`);
  };
  const content = Buffer.concat([clip, Buffer.from(randomUUID())]);

  // Before and during an upload.
  ballast.fill(100e6);
  await wants('an upload that does not fit', await create(10e9), 507);
  await wants('an upload on a full disk', await create(content.length), 507);
  ballast.empty();
  const address = (await create(content.length)).headers.get('location')!;
  const half = Math.floor(content.length / 2);
  await wants('the first half of an upload', await patch(address, 0, content.subarray(0, half)), 204);
  ballast.fill(100e6);
  await wants('the second half on a full disk', await patch(address, half, content.subarray(half)), 507);
  ballast.empty();
  await wants('the second half when there is room', await patch(address, half, content.subarray(half)), 204);

  // During a reading, which has begun by now, and a render.
  await sleep(1500);
  ballast.fill(20e6);
  await sleep(6000);
  ballast.empty();
  await untilIdle(place, 240, found);
  const rendered = await fetch(`${place.url}${project}/reels/${known.reelId}/render`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ ...sampleOf(RenderDto, {}), pattern: `full ${randomUUID()} {for} {n}` }),
  });
  if (!rendered.ok) found.add('faults', `a render: ${rendered.status} ${await rendered.text()}`);
  await sleep(1500);
  ballast.fill(20e6);
  await sleep(6000);
  ballast.empty();
  await untilIdle(place, 240, found);
  const failed = await place.rows<{ title: string; sentence: string }>(
    "select title, sentence from tasks where state = 'failed' and (title like 'disk-%' or title like 'full %')",
  );
  for (const { title, sentence } of failed)
    found.add('endless', `${title} did not go on when there was room: ${sentence}`);

  // While somebody edits, to the last byte: the database cannot write either.
  const confirmed: string[] = [];
  const note = async () => {
    const id = randomUUID();
    const answer = await fetch(`${place.url}${project}/log`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        kind: 'marker',
        id,
        value: { id, media: known.mediaId, seconds: 1, note: 'x'.repeat(400), kind: 'note' },
      }),
    }).catch(() => null);
    if (answer?.ok) confirmed.push(id);
    else if (answer && ![503, 507].includes(answer.status))
      found.add('faults', `a note on a full disk: ${answer.status} ${(await answer.text()).slice(0, 200)}`);
  };
  await note();
  ballast.fill(0);
  for (let times = 0; times < 40; times++) {
    await note();
    await sleep(50);
  }
  ballast.empty();
  await place.untilWell(90).catch((error: unknown) => found.add('broken', `after a full disk: ${String(error)}`));
  await note();
  const there = new Set(
    (await place.rows<{ id: string }>('select id from markers where project_id = $1', [known.projectId])).map(
      ({ id }) => id,
    ),
  );
  for (const id of confirmed) if (!there.has(id)) found.add('lost', `on a full disk: marker ${id}`);
  await untilIdle(place, 240, found);
  return 5;
}
