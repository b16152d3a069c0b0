import { createHash } from 'node:crypto';
import { connect } from 'node:net';
import yazl from 'yazl';
import { seededRandom, type Random } from '#core/signal';
import type { Installation } from './installation';
import type { Found } from './report';
import type { Known } from './samples';

const hangSeconds = 20;

/** Sends bytes as they are and gives the status line; an answer that does not come, and a line that stays open, is a hang. */
function raw(port: number, bytes: string | Buffer): Promise<string> {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1');
    let said = '';
    const timer = setTimeout(() => {
      socket.destroy();
      resolve(said || 'hang');
    }, hangSeconds * 1000);
    socket.on('data', (chunk: Buffer) => {
      said += chunk.toString('latin1');
      // The status is what counts.
      if (said.includes('\r\n')) socket.end();
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      clearTimeout(timer);
      resolve(said.split('\r\n')[0] || 'closed');
    });
    socket.write(bytes);
  });
}

const base64 = (text: string) => Buffer.from(text).toString('base64');

/** A ZIP whose one entry unpacks to so many bytes of nothing. */
async function bomb(name: string, bytes: number): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  zip.addBuffer(Buffer.alloc(bytes), name);
  zip.end();
  return whole(zip);
}
async function zipOf(entries: Record<string, string>): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  for (const [name, text] of Object.entries(entries)) zip.addBuffer(Buffer.from(text), name);
  zip.end();
  return whole(zip);
}
async function whole(zip: yazl.ZipFile): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream as AsyncIterable<Buffer>) parts.push(part);
  return Buffer.concat(parts);
}

type Send = (
  method: string,
  path: string,
  headers?: Record<string, string>,
  body?: Buffer | string,
) => Promise<Response | null>;

/** Lines of HTTP/1.1 (RFC 9112) that are none, or that mean two things. */
function oddLines(host: string, known: Known): string[] {
  const get = (line: string, ...headers: string[]) =>
    `${line}\r\nHost: ${host}\r\n${headers.map((each) => `${each}\r\n`).join('')}\r\n`;
  const project = `/projects/${known.projectId}`;
  return [
    ...[
      'GET / HTTP/1.1\r\n\r\n',
      'GET / HTTP/1.0\r\n\r\n',
      '\0\0\0\r\n\r\n',
      '\x16\x03\x01\x02\0\x01\0',
      'GET / HTTP/9.9\r\n\r\n',
    ],
    get('TRACE / HTTP/1.1'),
    get('CONNECT evil:80 HTTP/1.1'),
    get('TRACK / HTTP/1.1'),
    get('GET http://evil.example/ HTTP/1.1'),
    get('GET //evil.example/%2e%2e HTTP/1.1'),
    get('GET /%00 HTTP/1.1'),
    get('GET /%ff%fe HTTP/1.1'),
    get('GET /..%2f..%2f..%2fetc%2fpasswd HTTP/1.1'),
    get('GET /assets/..%2f..%2fserver%2findex.js HTTP/1.1'),
    get('GET /assets/%2e%2e/%2e%2e/package.json HTTP/1.1'),
    get('GET /media/..%2f..%2f..%2fetc%2fpasswd HTTP/1.1'),
    get(`GET /${'x'.repeat(9000)} HTTP/1.1`),
    get('GET / HTTP/1.1', `X: ${'x'.repeat(20_000)}`),
    get('GET / HTTP/1.1', 'Host: evil.example'),
    get('POST / HTTP/1.1', 'Content-Length: 5', 'Transfer-Encoding: chunked', 'Content-Type: application/json') +
      '0\r\n\r\nGET /evil HTTP/1.1\r\n\r\n',
    get('POST / HTTP/1.1', 'Content-Length: -1'),
    get('POST / HTTP/1.1', 'Content-Length: 99999999999999999999'),
    get('POST / HTTP/1.1', 'Transfer-Encoding: chunked', 'Content-Type: application/json') + 'zz\r\n',
    get('POST / HTTP/1.1', 'Content-Type: multipart/form-data; boundary=x', 'Content-Length: 30') +
      '--x\r\nContent-Disposition: x\r\n\r\n',
    get(`POST ${project}/looks HTTP/1.1`, 'Content-Type: multipart/form-data', 'Content-Length: 3') + 'abc',
    get(
      `POST ${project}/log HTTP/1.1`,
      'Content-Type: application/json',
      'Content-Encoding: gzip',
      'Content-Length: 3',
    ) + 'abc',
    get(`GET ${project} HTTP/1.1`, 'Upgrade: websocket', 'Connection: Upgrade'),
    get('GET / HTTP/1.1', 'Cookie: ' + 'a=b; '.repeat(1000)),
    get('GET / HTTP/1.1', 'Accept-Encoding: ' + 'gzip;q=0.1,'.repeat(500)),
  ];
}

/** Uploads (tus 1.0) that are wrong in every way that the protocol knows. */
async function abuseUploads(send: Send, known: Known, random: Random): Promise<void> {
  const tus = { 'Tus-Resumable': '1.0.0' };
  const meta = `projectId ${base64(known.projectId!)},filename ${base64('boat.mp4')}`;
  const create = (length: string, metadata = meta) =>
    send('POST', '/upload', { ...tus, 'Upload-Length': length, 'Upload-Metadata': metadata });
  for (const length of ['-1', 'x', '0', '1e9', '999999999999999999', '9007199254740993', '', '1.5', '0x10'])
    await create(length);
  for (const metadata of [
    '',
    'x',
    'projectId',
    `projectId ${base64('nobody')}`,
    'projectId !!!',
    `${meta},filename ${base64('../../../../tmp/evil')}`,
    `projectId ${base64(known.projectId!)},filename ${base64('a\0b')}`,
    `${meta},binId ${base64('x')}`,
    `${meta},binId ${base64(known.id!)}`,
    `${meta},__proto__ ${base64('x')}`,
    `projectId ${base64(known.projectId!)},filename ${Buffer.from([0xff, 0xfe, 0x80]).toString('base64')}`,
    'x '.repeat(3000),
  ])
    await create('3', metadata);
  await send('POST', '/upload', { ...tus, 'Upload-Defer-Length': '1', 'Upload-Metadata': meta });
  await send('POST', '/upload', { ...tus, 'Upload-Concat': 'final;/upload/x /upload/y', 'Upload-Metadata': meta });
  const made = await create('6');
  const address = made?.headers.get('location') ?? '/upload/x';
  const part = (offset: string, body: string, type = 'application/offset+octet-stream') =>
    send('PATCH', address, { ...tus, 'Upload-Offset': offset, 'Content-Type': type }, body);
  for (const offset of ['-1', 'x', '5', '99999999999999999999', '']) await part(offset, 'abc');
  await part('0', 'abc', 'application/json');
  await part('0', 'abcdefghijkl');
  await part('0', 'abc');
  await Promise.all([part('3', 'def'), part('3', 'def'), part('3', 'xyz'), send('DELETE', address, tus)]);
  for (const id of ['..%2f..%2fetc%2fpasswd', '%2e%2e', 'x'.repeat(300), '', '%00', '..', 'a/b/c'])
    for (const method of ['HEAD', 'PATCH', 'DELETE', 'GET', 'OPTIONS'])
      await send(
        method,
        `/upload/${id}`,
        { ...tus, 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' },
        method === 'PATCH' ? 'x' : undefined,
      );
  await send('POST', '/upload', { 'Upload-Length': '3' });
  await send('POST', '/upload', { 'Tus-Resumable': '9.9.9', 'Upload-Length': '3' });
  await send('POST', '/upload', { ...tus, 'X-HTTP-Method-Override': 'DELETE', 'Upload-Length': '3' });
  // Whatever the seed gives.
  for (let times = 0; times < 40; times++) {
    const bytes = Buffer.from(Array.from({ length: 40 }, () => Math.floor(random() * 256)));
    await send(
      random() < 0.5 ? 'PATCH' : 'POST',
      `/upload/${random() < 0.5 ? '' : bytes.toString('hex').slice(0, 32)}`,
      {
        ...tus,
        'Upload-Offset': String(Math.floor(random() * 1e6)),
        'Upload-Length': String(Math.floor((random() - 0.2) * 1e6)),
        'Upload-Metadata': bytes.toString('base64'),
        'Content-Type': 'application/offset+octet-stream',
      },
      bytes,
    );
  }
}

/** Archives that are none, that are more than they say, that lead elsewhere. */
async function abuseArchives(place: Installation, send: Send, known: Known, random: Random): Promise<void> {
  const open = (body: Buffer, type = 'application/zip') => send('POST', '/archives', { 'Content-Type': type }, body);
  const head = (rows: unknown, files: unknown = []) =>
    JSON.stringify({ format: 'Bright Reel project', version: 1, files, rows });
  const real = await fetch(`${place.url}/projects/${known.projectId}/archive`).then(async (answer) =>
    Buffer.from(await answer.arrayBuffer()),
  );
  await open(real);
  for (let times = 0; times < 60; times++) {
    const own = Buffer.from(real);
    const changes = 1 + Math.floor(random() * 20);
    // Near the ends lie the names, sizes and checks of a ZIP.
    for (let change = 0; change < changes; change++) {
      const near = Math.floor(random() * 2000);
      own[random() < 0.5 ? near % own.length : Math.max(0, own.length - 1 - near)] = Math.floor(random() * 256);
    }
    await open(random() < 0.2 ? own.subarray(0, Math.floor(own.length * random())) : own);
  }
  for (const body of [
    Buffer.from(''),
    Buffer.from('PK'),
    Buffer.alloc(1000),
    Buffer.from('PK\x05\x06' + '\0'.repeat(18)),
  ])
    await open(body);
  await open(await bomb('project.json', 700_000_000));
  await open(await bomb(`files/${'a'.repeat(64)}.mp4`, 300_000_000));
  // The library that writes it refuses such a name; whoever attacks does not.
  const leading = await zipOf({ 'aa/aa/aa/aa/tmp/evil': 'x', 'project.json': head({ projects: [{}] }) });
  await open(Buffer.from(leading.toString('latin1').replaceAll('aa/aa/aa/aa', '../../../..'), 'latin1'));
  await open(await zipOf(Object.fromEntries(Array.from({ length: 3000 }, (_, at) => [`readings/${at}.json`, '{}']))));
  for (const rows of [
    null,
    [],
    {},
    { projects: 'x' },
    { projects: [null] },
    { projects: [{ id: known.projectId, name: 'Mine' }] },
    {
      projects: [
        { id: known.id, name: 'x' },
        { id: known.id, name: 'y' },
      ],
    },
    {
      projects: [{ id: known.id, name: 'x' }],
      bins: [{ id: known.id, project_id: known.projectId, name: 'smuggled' }],
    },
    { projects: [{ id: known.id, name: 'x' }], nonsense: [{}] },
    { projects: [{ id: known.id, name: 'x', created_at: 'never' }] },
  ])
    await open(await zipOf({ 'project.json': head(rows) }));
  for (const files of [
    null,
    'x',
    [null],
    [{ hash: 'x', size: -1, name: '../x' }],
    [{ hash: 'a'.repeat(64), size: 1, name: '../../../../etc/passwd' }],
  ])
    await open(await zipOf({ 'project.json': head({ projects: [{ id: known.id, name: 'x' }] }, files) }));
  await open(await zipOf({ 'project.json': '['.repeat(100_000) }));
  await open(Buffer.from('{}'), 'application/json');
}

/** Documents of other programs, large or broken. */
async function abuseDocuments(send: Send, known: Known): Promise<void> {
  const project = `/projects/${known.projectId}`;
  const json = (path: string, body: unknown) =>
    send('POST', path, { 'Content-Type': 'application/json' }, JSON.stringify(body));
  const form = (path: string, name: string, file: string, text: string) => {
    const body = `--x\r\nContent-Disposition: form-data; name="${name}"; filename="${file}"\r\nContent-Type: text/plain\r\n\r\n${text}\r\n--x--\r\n`;
    return send('POST', path, { 'Content-Type': 'multipart/form-data; boundary=x' }, body);
  };
  const cube = (size: number, rows: number) => `LUT_3D_SIZE ${size}\n${'0.5 0.5 0.5\n'.repeat(rows)}`;
  for (const text of [
    cube(129, 129 ** 3),
    cube(65, 65 ** 3),
    cube(1e9, 1),
    cube(-1, 1),
    cube(2, 7),
    'LUT_3D_SIZE x',
    `LUT_3D_SIZE 2\n${'1e999 nan -inf\n'.repeat(8)}`,
    'TITLE "\0"\n',
  ])
    await form(`${project}/looks`, 'file', 'evil.cube', text);
  const srt = (count: number) =>
    Array.from({ length: count }, (_, at) => `${at}\n00:00:00,000 --> 99:59:59,999\nx\n`).join('\n');
  for (const text of [
    srt(20_000),
    srt(3),
    '1\n99:99:99,999 --> 00:00:00,000\nx',
    `WEBVTT\n\n${'00:00.000 --> 00:01.000\nx\n\n'.repeat(30_000)}`,
    '[Script Info]\n[Events]\nDialogue: x',
    '{"words": [{"start": -1, "end": 1e308, "text": 5}]}',
    '['.repeat(50_000),
  ])
    await send(
      'POST',
      `/media/${known.mediaId}/words`,
      { 'Content-Type': 'application/x-www-form-urlencoded' },
      new URLSearchParams({ intent: 'import', text, name: 'x.srt', anyway: 'true' }).toString(),
    );
  const otio = (depth: number) => `${'{"OTIO_SCHEMA": "Stack.1", "children": ['.repeat(depth)}${']}'.repeat(depth)}`;
  const clip = (rate: number, value: number) => ({
    OTIO_SCHEMA: 'Timeline.1',
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      children: [
        {
          OTIO_SCHEMA: 'Track.1',
          kind: 'Video',
          children: [
            { OTIO_SCHEMA: 'Clip.2', source_range: { start_time: { rate, value: 0 }, duration: { rate, value } } },
          ],
        },
      ],
    },
  });
  for (const text of [
    otio(5),
    otio(3000),
    ...[
      [1e308, 1],
      [1e-300, 1e308],
      [25, -5],
      [25, 1e308],
      [0, 0],
      [NaN, 1],
    ].map(([rate, value]) => JSON.stringify(clip(rate!, value!))),
    'TITLE: X\n' + '001  AX V C 00:00:00:00 99:99:99:99 00:00:00:00 00:00:00:01\n'.repeat(20_000),
    'TITLE: X\n001  AX V C 00:00:05:00 00:00:01:00 00:00:09:00 00:00:00:01\n',
  ])
    await json(`${project}/reels/import`, { text, name: 'x', rate: '25', anyway: true });
  for (const format of ['constructor', '__proto__', 'toString', 'otio', 'edl', 'srt', 'vtt', 'ass', 'x', '%00'])
    await send('GET', `${project}/reels/${known.reelId}/export/${format}`);
  // A form of 100 MB, and one that says so and sends nothing.
  await send(
    'POST',
    `${project}/footage`,
    { 'Content-Type': 'application/x-www-form-urlencoded' },
    `intent=${'x'.repeat(100_000_000)}`,
  );
  await json(`${project}/log`, { kind: 'pick', value: Array.from({ length: 400_000 }, () => ({})) });
}

/** Everything that HTTP, uploads, archives and documents can be abused for. @returns how much was tried */
export async function besiegeProtocol(place: Installation, known: Known, seed: number, found: Found): Promise<number> {
  const random = seededRandom(seed ^ 0x70726f74);
  let tried = 0;
  const send: Send = async (method, path, headers = {}, body) => {
    tried++;
    const about = `${method} ${path} ${JSON.stringify(headers).slice(0, 200)} ${body ? `${body.length} bytes ${createHash('sha1').update(body).digest('hex').slice(0, 8)}` : ''}`;
    try {
      const answer = await fetch(place.url + path, {
        method,
        headers,
        redirect: 'manual',
        signal: AbortSignal.timeout(hangSeconds * 1000),
        ...(body === undefined ? {} : { body: body as string }),
      });
      const text = await answer.clone().text();
      if (answer.status >= 500)
        found.add(
          'faults',
          `${answer.status} ${about} → ${place.faultOf(answer.headers.get('x-request-id')) ?? text.slice(0, 200)}`,
        );
      if (text.includes('root:x:0:0')) found.add('letIns', about);
      return answer;
    } catch (error) {
      // A server may close the line on what is far too long.
      const cause = String((error as { cause?: unknown }).cause ?? error);
      if (/TimeoutError|timeout/i.test(cause)) found.add('hangs', about);
      else if (!/EPIPE|ECONNRESET|other side closed|Invalid|socket/i.test(cause))
        found.add('faults', `${cause}: ${about}`);
      return null;
    }
  };
  const port = Number(new URL(place.url).port);
  for (const line of oddLines(`127.0.0.1:${port}`, known)) {
    tried++;
    const status = await raw(port, line);
    if (status === 'hang') found.add('hangs', JSON.stringify(line.slice(0, 100)));
    if (/^HTTP\/1\.1 5/.test(status)) found.add('faults', `${status}: ${JSON.stringify(line.slice(0, 100))}`);
  }
  await abuseUploads(send, known, random);
  await abuseArchives(place, send, known, random);
  await abuseDocuments(send, known);
  await place.untilWell();
  const smuggled = await place.rows('select 1 from bins where project_id = $1 and name = $2', [
    known.projectId,
    'smuggled',
  ]);
  if (smuggled.length) found.add('letIns', 'a bin was smuggled into another project');
  return tried;
}

/** Many at once: all are answered. @returns median and slowest answer in seconds */
export async function ask200(
  place: Installation,
  known: Known,
  found: Found,
): Promise<{ median: number; slowest: number }> {
  const project = `${place.url}/projects/${known.projectId}`;
  const paths = [
    '/footage',
    '/moments',
    '/reels',
    '/outputs',
    '/tasks',
    '/spoken',
    '/footage/people',
    `/reels/${known.reelId}`,
  ];
  const times = await Promise.all(
    Array.from({ length: 200 }, async (_, index) => {
      const began = performance.now();
      const answer = await fetch(project + paths[index % paths.length]!, { signal: AbortSignal.timeout(60_000) }).catch(
        () => null,
      );
      await answer?.arrayBuffer();
      if (!answer) found.add('hangs', `one of 200 at once: ${paths[index % paths.length]}`);
      else if (answer.status >= 500)
        found.add('faults', `one of 200 at once: ${answer.status} ${paths[index % paths.length]}`);
      return (performance.now() - began) / 1000;
    }),
  );
  times.sort((a, b) => a - b);
  return { median: times[100]!, slowest: times.at(-1)! };
}
