import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { readFile, readlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { seededRandom, type Random } from '#core/signal';
import type { Installation } from './installation';
import type { Found } from './report';
import type { Known } from './samples';
import { sendWhole } from './tus';

/** All that a worker and its programs may take together, in bytes; more than any good file here needs. */
const mostBytes = 4e9;
/** Without any progress of any file. */
const stillSeconds = 90;
/** For some files at once, the longest of which says that it lasts for hours. */
const longestSeconds = 1800;
const atOnce = 12;

interface Hostile {
  name: string;
  content: Buffer;
}

/** Good files of two seconds, of many kinds, that are then made bad. */
function goodFiles(folder: string): Hostile[] {
  const make = (name: string, ...args: string[]) =>
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=320x180:r=25:d=2',
      '-f',
      'lavfi',
      '-i',
      'sine=d=2',
      ...args,
      join(folder, name),
    ]);
  const film = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p'];
  make('good.mp4', ...film, '-c:a', 'aac');
  make('good.mov', ...film, '-c:a', 'pcm_s16le');
  make('good.mkv', ...film, '-c:a', 'flac');
  make('good.webm', '-c:v', 'libvpx', '-c:a', 'libopus');
  make('good.avi', '-c:v', 'mpeg4', '-c:a', 'mp3');
  make('good.ts', ...film, '-c:a', 'aac');
  make('fragments.mp4', ...film, '-c:a', 'aac', '-movflags', 'frag_keyframe+empty_moov');
  make('good.gif', '-map', '0:v', '-r', '10');
  for (const name of ['good.m4a', 'good.mp3', 'good.wav', 'good.ogg', 'good.flac']) make(name, '-map', '1:a');
  for (const name of ['good.jpg', 'good.png', 'good.webp', 'good.tiff', 'good.bmp'])
    make(name, '-map', '0:v', '-frames:v', '1');
  return readdirSync(folder).map((name) => ({ name, content: readFileSync(join(folder, name)) }));
}

/** Files that lie about what they are, each in a way of its own. */
function liars(folder: string): Hostile[] {
  const make = (name: string, ...args: string[]) => {
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, join(folder, name)]);
    return { name, content: readFileSync(join(folder, name)) };
  };
  const text = (name: string, content: string) => ({ name, content: Buffer.from(content) });
  const long = make(
    'long.mp4',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=64x64:r=1:d=3',
    '-c:v',
    'libx264',
    '-pix_fmt',
    'yuv420p',
  );
  /** A 32-bit number behind the name of a box (ISO/IEC 14496-12). */
  const patched = (name: string, box: string, at: number, value: number): Hostile => {
    const content = Buffer.from(long.content);
    for (let from = content.indexOf(box); from >= 0; from = content.indexOf(box, from + 4))
      content.writeUInt32BE(value >>> 0, from + 4 + at);
    return { name, content };
  };
  return [
    // Durations and scales of the film, a track and its media; counts of its tables.
    ...['mvhd', 'mdhd'].flatMap((box) => [
      patched(`${box}-length.mp4`, box, 16, 0xffffffff),
      patched(`${box}-scale.mp4`, box, 12, 1),
      patched(`${box}-zero.mp4`, box, 12, 0),
    ]),
    ...['stts', 'stsz', 'stsc', 'stco', 'ctts', 'elst', 'dref', 'stsd'].map((box) =>
      patched(`${box}.mp4`, box, 4, 0x7fffffff),
    ),
    patched('times.mp4', 'stts', 12, 0x7fffffff),
    patched('wide.mp4', 'avc1', 24, 0xffffffff),
    make(
      'tracks.mkv',
      '-f',
      'lavfi',
      '-i',
      'sine=d=1',
      ...Array.from({ length: 200 }, () => ['-map', '0']).flat(),
      '-c:a',
      'pcm_s16le',
    ),
    make(
      'no-samples.mkv',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=64x64:d=3',
      '-f',
      'lavfi',
      '-i',
      'sine=d=3',
      '-c:a',
      'aac',
      '-bsf:a',
      'noise=drop=1',
    ),
    make('large.png', '-f', 'lavfi', '-i', 'color=black:s=16000x16000', '-frames:v', '1'),
    make('fast.mkv', '-f', 'lavfi', '-i', 'color=black:s=16x16:r=1000:d=20', '-c:v', 'ffv1'),
    make('tiny.mp4', '-f', 'lavfi', '-i', 'testsrc2=s=2x2:d=1', '-c:v', 'libx264', '-pix_fmt', 'yuv420p'),
    text('playlist.m3u8', '#EXTM3U\n#EXTINF:10,\nfile:///etc/passwd\n#EXT-X-ENDLIST\n'),
    text('playlist.mp4', '#EXTM3U\n#EXTINF:10,\nhttp://127.0.0.1:1/x.ts\n'),
    text('concat.mp4', "ffconcat version 1.0\nfile '/etc/passwd'\n"),
    text(
      'picture.svg',
      '<svg xmlns="http://www.w3.org/2000/svg" width="1e9" height="1e9"><image href="file:///etc/passwd"/></svg>',
    ),
    text('picture.jpg', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'),
    text('page.mp4', '<!doctype html><script>alert(1)</script>'),
    text('words.mp4', 'x'.repeat(100_000)),
    text('words.wav', `RIFF\xff\xff\xff\xffWAVEfmt ${'\0'.repeat(100)}`),
    text('-i.mp4', 'x'),
    text('$(touch evil).mp4', 'x'),
    text('photo-%02d.jpg', 'x'),
  ];
}

/** A good file with bytes changed, taken out, doubled, cut off, or numbers in it made large. */
function mutated({ name, content }: Hostile, index: number, random: Random): Hostile {
  let own = Buffer.from(content);
  const any = (below: number) => Math.floor(random() * below);
  const ways = 1 + any(3);
  for (let way = 0; way < ways && own.length > 16; way++) {
    switch (any(6)) {
      case 0:
        for (let times = 1 + any(200); times > 0; times--) own[any(own.length)] = any(256);
        break;
      case 1:
        // Headers lie at the beginning or at the end.
        for (let times = 1 + any(30); times > 0; times--) {
          const near = Math.min(own.length - 1, any(1500));
          own[random() < 0.5 ? near : own.length - 1 - near] = random() < 0.3 ? 255 : any(256);
        }
        break;
      case 2:
        own = own.subarray(0, 1 + any(own.length));
        break;
      case 3: {
        const at = any(own.length - 8);
        own.writeUInt32BE([0, 1, 0x7fffffff, 0xffffffff, 0x80000000][any(5)]!, at);
        break;
      }
      case 4: {
        const [from, to] = [any(own.length), any(own.length)].sort((a, b) => a - b) as [number, number];
        own = Buffer.concat([own.subarray(0, to), own.subarray(from)]);
        break;
      }
      case 5:
        own.fill(any(2) * 255, any(own.length), any(own.length));
    }
  }
  return { name: `${index}-${name}`, content: Buffer.from(own) };
}

/** Memory of a process and of all that it started, in bytes. */
async function treeBytes(root: number): Promise<number> {
  const parents = new Map<number, number>();
  const resident = new Map<number, number>();
  for (const entry of readdirSync('/proc')) {
    const pid = Number(entry);
    if (!pid) continue;
    const stat = await readFile(`/proc/${pid}/stat`, 'latin1').catch(() => '');
    const rest = stat.split(') ').at(-1)?.split(' ') ?? [];
    parents.set(pid, Number(rest[1]));
    resident.set(pid, Number(rest[21]) * 4096 || 0);
  }
  const isBelow = (pid: number): boolean => pid === root || (parents.has(pid) && pid > 1 && isBelow(parents.get(pid)!));
  return [...resident].reduce((sum, [pid, bytes]) => sum + (isBelow(pid) ? bytes : 0), 0);
}

/** Files that are broken or lie, as a seed gives them. */
function hostileFiles(seed: number, count: number): Hostile[] {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-hostile-'));
  const random = seededRandom(seed ^ 0x6d656469);
  const good = goodFiles(folder);
  const special = liars(folder);
  rmSync(folder, { recursive: true, force: true });
  const others = Array.from({ length: Math.max(0, count - special.length) }, (_, index) =>
    mutated(good[Math.floor(random() * good.length)]!, index, random),
  );
  return [...special, ...others].slice(0, count);
}

/** Gives a worker files that are broken or lie: each has to come to an end, within bounds of time and memory. */
export async function besiegeMedia(
  place: Installation,
  known: Known,
  options: { seed: number; count: number; until: number },
  found: Found,
): Promise<{ files: number; mostBytes: number }> {
  const list = hostileFiles(options.seed, options.count);
  let most = 0;
  let files = 0;
  for (let first = 0; first < list.length && Date.now() < options.until; first += atOnce) {
    const some = list.slice(first, first + atOnce);
    await Promise.all(
      some.map((each) =>
        sendWhole(place, known, each.name, each.content).catch((error: unknown) =>
          found.add('faults', `upload of ${each.name}: ${String(error)}`),
        ),
      ),
    );
    files += some.length;
    // What says that it is long may take long, but goes on all the time.
    let active: { title: string; progress: number }[] = [];
    let [stands, since, batch] = ['', Date.now(), 0];
    for (const began = Date.now(); ; await sleep(500)) {
      batch = Math.max(batch, await treeBytes(place.workerPid));
      active = await place.rows(
        "select kind, title, state, progress, sentence from tasks where state in ('queued', 'running') order by id",
      );
      const now = JSON.stringify(active);
      if (now !== stands) [stands, since] = [now, Date.now()];
      if (active.length === 0 || Date.now() - since > stillSeconds * 1000 || Date.now() - began > longestSeconds * 1000)
        break;
    }
    most = Math.max(most, batch);
    for (const task of active)
      found.add('unbounded', `${JSON.stringify(task)} of ${some.map(({ name }) => name).join(', ')}`);
    if (batch > mostBytes)
      found.add(
        'unbounded',
        `${Math.round(batch / 1e6)} MB while ${some.map(({ name }) => name).join(', ')} were read`,
      );
    if (active.length > 0) break;
  }
  // What failed says why, in a sentence that is no stack of a program.
  const silent = await place.rows<{ title: string; sentence: string | null }>(
    "select title, sentence from tasks where state = 'failed' and (sentence is null or sentence ~ 'at .*\\.ts:|undefined|TypeError|Cannot read')",
  );
  for (const { title, sentence } of silent) found.add('unbounded', `failed without a good word: ${title}: ${sentence}`);
  if (await readlink('evil').catch(() => null)) found.add('letIns', 'a name was run as a command');
  return { files, mostBytes: most };
}
