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
import { announcement, part, question } from './tus';

/** What an editor was told is saved, and how it is found again. */
interface Confirmed {
  decisions: string[];
  markers: string[];
  names: string[];
  /** Hash of the content, by item. */
  uploads: Map<string, string>;
  renders: string[];
  /** Titles. */
  posts: string[];
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

/** Somebody who works while parts are killed: decides, marks, renames, uploads, renders, posts. Notes what was confirmed. */
class Editor {
  readonly confirmed: Confirmed = { decisions: [], markers: [], names: [], uploads: new Map(), renders: [], posts: [] };
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
    const made = await patient(this.place, '/upload', () => announcement(this.known, name, content.length));
    const address = made.headers.get('location');
    if (!address) return null;
    for (let tries = 0; tries < 200 && !this.isOver; tries++) {
      const stands = await patient(this.place, address, () => question);
      // It arrived, and the answer to the last part was lost on its way.
      if (stands.status === 404 || stands.status === 410) return null;
      const offset = Number(stands.headers.get('upload-offset') ?? 0);
      const next = content.subarray(offset, offset + Math.ceil(content.length / 4));
      const answer = await fetch(this.place.url + address, {
        ...part(offset, next),
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

  /** Hands over whatever is finished: to an account that takes it at once, one that is slow and one that lets go. */
  async posts(): Promise<void> {
    const open = new Set<string>();
    while (!this.isOver) {
      const finished = await this.place.rows<{ id: string }>(
        'select id from renders where project_id = $1 and storage_key is not null order by created_at',
        [this.known.projectId],
      );
      const wanted = finished
        .flatMap(({ id }) => ['pond-notices', 'slow-boat', 'leaky-boat'].map((account) => ({ render: id, account })))
        .filter(({ render, account }) => !open.has(render + account));
      for (const post of wanted.slice(0, 2)) {
        const title = `Siege ${randomUUID()}`;
        const answer = await patient(this.place, `${this.project}/posts.data`, () => ({
          method: 'POST',
          body: new URLSearchParams({ ...post, outlet: 'simulated', title }),
        }));
        open.add(post.render + post.account);
        if (answer.ok) this.confirmed.posts.push(title);
        // The answer to the first try may have been lost; then it is on its way, or there, by that.
        else if (answer.status !== 422) throw new Error(`A post was refused: ${answer.status} ${answer.text}`);
      }
      await sleep(3000 + this.random() * 3000);
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
    editor.posts(),
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
  const { decisions, markers, names, uploads, renders, posts } = confirmed;
  const count = [decisions, markers, names, renders, posts].reduce((sum, { length }) => sum + length, uploads.size);
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
  await missing(
    'render',
    confirmed.renders.map((each) => `siege ${each}`),
    "select substring(name from '^siege [0-9]+') as id from renders where project_id = $1 and storage_key is not null",
  );
  await missing('post', confirmed.posts, 'select title as id from posts where project_id = $1 and link is not null');
  // Each file stands at each account once, whatever was killed meanwhile.
  const twice = await place.rows<{ link: string }>(
    'select min(link) as link from posts where project_id = $1 and link is not null group by render_id, account having count(*) > 1',
    [known.projectId],
  );
  for (const { link } of twice) found.add('lost', `posted twice: ${link}`);
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
