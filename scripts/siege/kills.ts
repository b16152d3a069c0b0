import { createHash, randomUUID } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { seededRandom, type Random } from '#core/signal';
import { sampleOf } from './samples';
import { RenderDto } from '../../usecases/forms/reelDto';
import type { Installation, Part } from './installation';
import type { Found } from './report';
import type { Known } from './samples';

/** What an editor was told is saved, and how it is found again. */
interface Confirmed {
  decisions: string[];
  markers: string[];
  names: string[];
  /** Hash of the content, by item. */
  uploads: Map<string, string>;
  renders: string[];
}

const answerSeconds = 30;

/** An answer that arrived as a whole. */
interface Answer {
  ok: boolean;
  status: number;
  headers: Headers;
  text: string;
}

/** Tries until there is an answer that is no fault of the moment, as a screen does. */
async function patient(place: Installation, path: string, init: () => RequestInit): Promise<Answer> {
  for (;;) {
    const answer = await fetch(place.url + path, { ...init(), signal: AbortSignal.timeout(answerSeconds * 1000) })
      .then(async (each) => ({ ok: each.ok, status: each.status, headers: each.headers, text: await each.text() }))
      .catch(() => null);
    if (answer && answer.status < 500) return answer;
    await sleep(150);
  }
}

/** Somebody who works while parts are killed: decides, marks, renames, uploads, renders. Notes what was confirmed. */
class Editor {
  readonly confirmed: Confirmed = { decisions: [], markers: [], names: [], uploads: new Map(), renders: [] };
  isOver = false;

  constructor(
    private readonly place: Installation,
    private readonly known: Known,
    private readonly random: Random,
    private readonly clip: Buffer,
  ) {}

  private get project(): string {
    return `/projects/${this.known.projectId}`;
  }
  private json(path: string, body: unknown): Promise<Answer> {
    return patient(this.place, path, () => ({
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    }));
  }

  async notes(): Promise<void> {
    while (!this.isOver) {
      const id = randomUUID();
      const start = Math.floor(this.random() * 100) / 10;
      const isDecision = this.random() < 0.5;
      const value = isDecision
        ? { id, media: this.known.mediaId, start, end: start + 1, verdict: 'keep' }
        : { id, media: this.known.mediaId, seconds: start, note: id, kind: 'note' };
      const answer = await this.json(`${this.project}/log`, { kind: isDecision ? 'decision' : 'marker', id, value });
      if (answer.ok) (isDecision ? this.confirmed.decisions : this.confirmed.markers).push(id);
      else throw new Error(`A note was refused: ${answer.status} ${answer.text}`);
      await sleep(this.random() * 60);
    }
  }

  /** One edit of a reel after the other, each on the version that the answer before gave. */
  async edits(): Promise<void> {
    const address = `${this.project}/reels/${this.known.reelId}/edits`;
    const read = async () =>
      (JSON.parse((await patient(this.place, address, () => ({}))).text) as { reel: { head: number } }).reel.head;
    let head = await read();
    while (!this.isOver) {
      const name = `Siege ${randomUUID()}`;
      const edit = { id: randomUUID(), head, command: { type: 'rename', name } };
      const answer = await this.json(address, edit);
      if (answer.ok) {
        head = (JSON.parse(answer.text) as { reel: { head: number } }).reel.head;
        this.confirmed.names.push(name);
      } else head = await read();
      await sleep(this.random() * 80);
    }
  }

  /** One file after the other, in parts, each with content of its own. */
  async uploads(most: number): Promise<void> {
    for (let count = 0; count < most && !this.isOver; count++) {
      // A box of nothing (ISO/IEC 14496-12, 8.1.2) at the end makes it another file that shows the same.
      const free = Buffer.alloc(40);
      free.writeUInt32BE(40, 0);
      free.write('free', 4);
      free.write(randomUUID(), 8);
      const content = Buffer.concat([this.clip, free]);
      const item = await this.upload(content, `siege-${count}.mp4`);
      if (item) this.confirmed.uploads.set(item, createHash('sha256').update(content).digest('hex'));
      await sleep(2000 + this.random() * 4000);
    }
  }

  private async upload(content: Buffer, name: string): Promise<string | null> {
    const tus = { 'Tus-Resumable': '1.0.0' };
    const base64 = (text: string) => Buffer.from(text).toString('base64');
    const made = await patient(this.place, '/upload', () => ({
      method: 'POST',
      headers: {
        ...tus,
        'Upload-Length': String(content.length),
        'Upload-Metadata': `projectId ${base64(this.known.projectId!)},filename ${base64(name)}`,
      },
    }));
    const address = made.headers.get('location');
    if (!address) return null;
    for (let tries = 0; tries < 200 && !this.isOver; tries++) {
      const stands = await patient(this.place, address, () => ({ method: 'HEAD', headers: tus }));
      // It arrived, and the answer to the last part was lost on its way.
      if (stands.status === 404 || stands.status === 410) return null;
      const offset = Number(stands.headers.get('upload-offset') ?? 0);
      const part = content.subarray(offset, offset + Math.ceil(content.length / 4));
      const answer = await fetch(this.place.url + address, {
        method: 'PATCH',
        headers: { ...tus, 'Upload-Offset': String(offset), 'Content-Type': 'application/offset+octet-stream' },
        body: new Uint8Array(part),
        signal: AbortSignal.timeout(answerSeconds * 1000),
      }).catch(() => null);
      const item = answer?.headers.get('upload-item');
      if (item) return item;
      await sleep(100 + this.random() * 300);
    }
    return null;
  }

  async renders(most: number): Promise<void> {
    for (let count = 0; count < most && !this.isOver; count++) {
      const answer = await this.json(`${this.project}/reels/${this.known.reelId}/render`, {
        ...sampleOf(RenderDto, {}),
        pattern: `siege ${count} {for} {n}`,
      });
      if (answer.ok) this.confirmed.renders.push(String(count));
      await sleep(8000 + this.random() * 8000);
    }
  }
}

const parts: Part[] = ['server', 'server', 'worker', 'worker', 'database'];

/**
 * Kills parts at random moments while somebody works, and looks afterwards whether everything that was confirmed is
 * there and every task came to an end.
 */
export async function besiegeByKilling(
  place: Installation,
  known: Known,
  options: { seed: number; count: number; until: number },
  found: Found,
): Promise<{ kills: number; confirmed: number }> {
  const random = seededRandom(options.seed ^ 0x6b696c6c);
  const editor = new Editor(place, known, random, readFileSync('demo/media/child-laughs.mp4'));
  const work = [
    editor.notes(),
    editor.notes(),
    editor.edits(),
    editor.uploads(Math.ceil(options.count / 15)),
    editor.renders(Math.ceil(options.count / 25)),
  ];
  const failed = Promise.all(work).catch((error: unknown) => {
    if (!editor.isOver) found.add('broken', String(error));
  });
  let kills = 0;
  while (kills < options.count && Date.now() < options.until) {
    await sleep(100 + random() * 1500);
    const part = parts[Math.floor(random() * parts.length)]!;
    place.kill(part);
    kills++;
    try {
      // Half of the time the next one comes before the last is back.
      if (random() < 0.5) await place.untilWell();
    } catch (error) {
      found.add('broken', `after a kill of the ${part}: ${String(error)}`);
      break;
    }
  }
  await place.untilWell().catch((error: unknown) => found.add('broken', String(error)));
  editor.isOver = true;
  await Promise.race([failed, sleep(60_000)]);
  await untilIdle(place, 600, found);
  const { confirmed } = editor;
  await compare(place, known, confirmed, found);
  const count = confirmed.decisions.length + confirmed.markers.length + confirmed.names.length + confirmed.uploads.size;
  return { kills, confirmed: count };
}

/** Waits until no task waits or runs any more. */
export async function untilIdle(place: Installation, seconds: number, found: Found): Promise<void> {
  let active: { title: string; state: string; sentence: string | null; attempts: number }[] = [];
  for (const until = Date.now() + seconds * 1000; Date.now() < until; await sleep(1000)) {
    active = await place.rows(
      "select title, kind, state, sentence, attempts from tasks where state in ('queued', 'running')",
    );
    if (active.length === 0) return;
  }
  for (const task of active) found.add('endless', JSON.stringify(task));
}

async function compare(place: Installation, known: Known, confirmed: Confirmed, found: Found): Promise<void> {
  const missing = async (what: string, wanted: readonly string[], query: string) => {
    const there = new Set((await place.rows<{ id: string }>(query, [known.projectId])).map(({ id }) => id));
    for (const id of wanted) if (!there.has(id)) found.add('lost', `${what} ${id}`);
  };
  await missing('decision', confirmed.decisions, 'select id from decisions where project_id = $1');
  await missing('marker', confirmed.markers, 'select id from markers where project_id = $1');
  await missing(
    'edit',
    confirmed.names,
    "select v.command->>'name' as id from reel_revisions v join reels r on r.id = v.reel_id where r.project_id = $1 and v.command->>'type' = 'rename'",
  );
  const store = join(place.data, 'store/files');
  for (const [item, hash] of confirmed.uploads) {
    const [row] = await place.rows<{ hash: string }>('select file_hash as hash from media where id = $1', [item]);
    const folder = join(store, row?.hash.slice(0, 2) ?? '');
    const name = row && existsSync(folder) ? readdirSync(folder).find((each) => each.startsWith(row.hash)) : undefined;
    const content = name
      ? createHash('sha256')
          .update(readFileSync(join(folder, name)))
          .digest('hex')
      : '';
    if (content !== hash) found.add('lost', `upload ${item}`);
  }
}

/** Two who edit the same reel at once: of each edit is said truly whether it was done. @returns how many were tried */
export async function twoWriters(place: Installation, known: Known, count: number, found: Found): Promise<number> {
  const address = `${place.url}/projects/${known.projectId}/reels/${known.reelId}/edits`;
  const said: string[] = [];
  let refused = 0;
  const write = async (who: string) => {
    for (let at = 0; at < count; at++) {
      const { reel } = (await (await fetch(address)).json()) as { reel: { head: number } };
      const name = `${who} ${at} ${randomUUID()}`;
      const answer = await fetch(address, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ id: randomUUID(), head: reel.head, command: { type: 'rename', name } }),
      });
      if (answer.ok) said.push(name);
      else if (answer.status === 409) refused++;
      else found.add('faults', `two writers: ${answer.status} ${await answer.text()}`);
    }
  };
  await Promise.all([write('one'), write('two'), write('three')]);
  const there = new Set(
    (
      await place.rows<{ name: string }>(
        "select v.command->>'name' as name from reel_revisions v where v.reel_id = $1 and v.command->>'type' = 'rename'",
        [known.reelId],
      )
    ).map(({ name }) => name),
  );
  for (const name of said) if (!there.has(name)) found.add('lost', `of several writers: ${name}`);
  return said.length + refused;
}
