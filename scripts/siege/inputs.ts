import { randomUUID } from 'node:crypto';
import { seededRandom, type Random } from '#core/signal';
import type { Installation } from './installation';
import type { Found } from './report';
import { makeKnown } from './known';
import { evil, freshId, nowHead, nowVersion, placesIn, withValue, type Known } from './samples';
import { targets, type Body, type Target } from './routes';

/** Nothing takes so long to be refused. */
const hangSeconds = 20;
/** Requests that are on their way at once. */
const atOnce = 6;

interface Attempt {
  method: string;
  /** Path and query. */
  path: string;
  headers?: Record<string, string>;
  body?: string;
  /** Of the password it should be asked for, or of another site that may do nothing. */
  must?: 'ask' | 'refuse';
}

/** Routes × fields × values that nobody means, in an order that the seed gives. */
/** @param now what is there at the moment */
export function* evilInputs(now: () => Known, random: Random): Generator<Attempt> {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  for (;;) {
    const known = now();
    const target = pick(targets);
    const bodies = target.bodies?.(known) ?? [];
    const address = addressOf(target, known, random);
    const roll = random();
    if (roll < 0.06) yield stranger(target, address, bodies, pick);
    else if (bodies.length === 0 || roll < 0.3) yield looking(target, address, pick, random);
    else yield sending(pick(bodies), address, pick, random);
  }
}

/** The address of a route, with the ids that are there; now and then with something else in one place. */
function addressOf(target: Target, known: Known, random: Random): string {
  const wrong = random() < 0.25 ? Math.floor(random() * 3) : -1;
  let at = 0;
  return target.path.replace(/:(\w+)/g, (_, name: string) => {
    const value = at++ === wrong ? textOf(evil[Math.floor(random() * evil.length)]) : (known[name] ?? known.id!);
    return encodeURIComponent(wellFormed(value.slice(0, 1500))) || 'x';
  });
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : (JSON.stringify(value) ?? 'undefined'));
/** Half of a letter of two halves cannot be sent in an address or a form. */
const wellFormed = (text: string): string => text.replace(/\p{Surrogate}/gu, '?');

function looking(target: Target, address: string, pick: <T>(list: readonly T[]) => T, random: Random): Attempt {
  const names = [...(target.query ?? []), '_routes', 'index'];
  const query = Array.from({ length: Math.floor(random() * 3) }, () => [
    pick(names),
    wellFormed(textOf(pick(evil))).slice(0, 3000),
  ]);
  const search = query.length ? `?${new URLSearchParams(query).toString()}` : '';
  const method = random() < 0.85 ? 'GET' : pick(['HEAD', 'OPTIONS', 'PUT', 'DELETE', 'PATCH', 'POST']);
  const data = random() < 0.3 ? '.data' : '';
  return { method, path: `${address}${data}${search}`, headers: random() < 0.2 ? { range: pick(ranges) } : {} };
}

const ranges = [
  'bytes=0-',
  'bytes=-1',
  'bytes=5-1',
  'bytes=99999999999999-',
  'bytes=0-0,5-9',
  'bytes=a-b',
  'lines=1-2',
  'bytes=0-99999999999999999999',
  'bytes=-',
  'x'.repeat(500),
];
const types = [
  'application/json',
  'application/x-www-form-urlencoded',
  'multipart/form-data; boundary=x',
  'multipart/form-data',
  'text/plain',
  'application/json; charset=utf-16',
  'application/octet-stream',
  'x',
];

function sending(body: Body, path: string, pick: <T>(list: readonly T[]) => T, random: Random): Attempt {
  const places = placesIn(body.sample);
  let given: unknown = body.sample;
  const changes = random() < 0.1 ? 0 : random() < 0.7 ? 1 : 3;
  for (let change = 0; change < changes && places.length; change++) given = withValue(given, pick(places), pick(evil));
  if (random() < 0.04) given = pick(evil);
  const { type, text } =
    body.as === 'json' ? asJson(given, random) : body.as === 'form' ? asForm(given) : asMultipart(given);
  return { method: 'POST', path, headers: { 'content-type': random() < 0.05 ? pick(types) : type }, body: text };
}

function asJson(given: unknown, random: Random): { type: string; text: string } {
  let text = JSON.stringify(given) ?? '';
  // Broken off, doubled, with numbers that JSON has and JavaScript has not.
  const roll = random();
  if (roll < 0.03) text = text.slice(0, Math.floor(text.length * random()));
  else if (roll < 0.06) text = text.replace(/:(\d+)/, ':1e999');
  else if (roll < 0.08) text += text;
  return { type: 'application/json', text };
}

/** Fields as files (RFC 7578). */
function asMultipart(given: unknown): { type: string; text: string } {
  const parts = Object.entries((given ?? {}) as Record<string, unknown>).map(
    ([name, value]) =>
      `--siege\r\nContent-Disposition: form-data; name="${name}"; filename="x.cube"\r\n\r\n${wellFormed(textOf(value))}\r\n`,
  );
  return { type: 'multipart/form-data; boundary=siege', text: `${parts.join('')}--siege--\r\n` };
}

function asForm(given: unknown): { type: string; text: string } {
  const form = new URLSearchParams();
  for (const [name, value] of Object.entries((given ?? {}) as Record<string, unknown>))
    for (const each of Array.isArray(value) ? value.slice(0, 200) : [value])
      form.append(name, each === null ? '' : wellFormed(textOf(each)));
  return { type: 'application/x-www-form-urlencoded', text: form.toString() };
}

/** Somebody who is not let in: without the password, or a page of another site. */
function stranger(target: Target, path: string, bodies: readonly Body[], pick: <T>(list: readonly T[]) => T): Attempt {
  const evilPage = { origin: 'https://evil.example', 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'cors' };
  if (bodies.length > 0 && pick([true, false])) {
    const { text, type } = asForm(pick(bodies).sample);
    return { method: 'POST', path, headers: { ...evilPage, 'content-type': type }, body: text, must: 'refuse' };
  }
  if (target.open) return { method: 'GET', path, headers: evilPage, must: 'refuse' };
  return { method: pick(['GET', 'POST', 'HEAD', 'DELETE']), path, must: 'ask' };
}

/** So many inputs take apart what they are about; then it is another project's turn. */
const inputsEach = 150;

/** Sends what the seed gives until there were so many, or the time is over. @returns how many, and how many of them were taken */
export async function besiegeInputs(
  place: Installation,
  options: { seed: number; count: number; until: number },
  found: Found,
): Promise<{ tried: number; taken: number }> {
  let known = await makeKnown(place);
  const inputs = evilInputs(() => known, seededRandom(options.seed));
  let [tried, taken] = [0, 0];
  const one = async () => {
    while (tried < options.count && Date.now() < options.until) {
      tried++;
      if (await attempt(place, known, inputs.next().value as Attempt, found)) taken++;
    }
  };
  for (const all = options.count; tried < all && Date.now() < options.until; known = await makeKnown(place)) {
    options = { ...options, count: Math.min(all, tried + inputsEach) };
    await Promise.all(Array.from({ length: atOnce }, one));
  }
  return { tried, taken };
}

/** What stands for something of the moment, as it is now. */
async function asOfNow(place: Installation, known: Known, text: string): Promise<string> {
  let own = text.replaceAll(freshId, () => randomUUID());
  const number = async (query: string, values: unknown[]) =>
    String((await place.rows<{ now: number }>(query, values))[0]?.now ?? 0);
  if (own.includes(String(nowHead)))
    own = own.replaceAll(String(nowHead), await number('select head as now from reels where id = $1', [known.reelId]));
  if (own.includes(String(nowVersion))) {
    const kind = /"kind":"(\w+)"/.exec(own)?.[1] ?? 'variants';
    const version =
      own.includes('"makeReel"') || own.includes('"changes"') || own.includes('BrightReel.Montage')
        ? await number('select version as now from montages where media_id = $1', [known.song])
        : own.includes('"command"')
          ? await number('select version as now from transcripts where media_id = $1', [known.mediaId])
          : kind === 'pick'
            ? await number('select version as now from picks where project_id = $1', [known.projectId])
            : await number('select version as now from boards where project_id = $1 and kind = $2', [
                known.projectId,
                kind,
              ]);
    own = own.replaceAll(String(nowVersion), version);
  }
  return own;
}

/** @returns whether it was taken */
async function attempt(
  place: Installation,
  known: Known,
  { method, path, headers = {}, body: meant, must }: Attempt,
  found: Found,
): Promise<boolean> {
  const body = meant === undefined ? undefined : await asOfNow(place, known, meant);
  const began = Date.now();
  const base = must === 'ask' ? place.lockedUrl : place.url;
  const sends = method !== 'GET' && method !== 'HEAD';
  const about = `${method} ${path.slice(0, 160)} ${String(body ?? '').slice(0, 300)}`;
  try {
    const answer = await fetch(base + path, {
      method,
      headers,
      redirect: 'manual',
      signal: AbortSignal.timeout(hangSeconds * 1000),
      ...(sends && body !== undefined ? { body } : {}),
    });
    // A line for events stays open; what it says first is enough.
    const isLine = answer.headers.get('content-type')?.startsWith('text/event-stream');
    if (isLine) await answer.body?.cancel();
    const text = method === 'HEAD' || isLine ? '' : await answer.text();
    if (answer.status >= 500)
      found.add(
        'faults',
        `${answer.status} ${about} → ${place.faultOf(answer.headers.get('x-request-id')) ?? text.slice(0, 200)}`,
      );
    if (must && answer.status < 300) found.add('letIns', `${answer.status} ${about}`);
    if (text.includes('root:x:0:0')) found.add('letIns', `a file of the system: ${about}`);
    return answer.status < 400;
  } catch (error) {
    const took = (Date.now() - began) / 1000;
    if (took >= hangSeconds - 1) found.add('hangs', about);
    else found.add('faults', `no answer (${String((error as { cause?: Error }).cause ?? error)}): ${about}`);
    return false;
  }
}
