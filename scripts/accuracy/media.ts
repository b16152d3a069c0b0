import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Clip, Reel } from '#core/reel';
import { rates } from '#core/time';
import { describeMedia } from '../../cli/analyze';
import { probe } from '../../media/probe/probe';
import { ffmpeg } from '../../media/testMedia';
import { makeBase, material, placeIn, type MadeFile, type MadeIn } from '../../media/testMaterial';
import { readMedia } from '../../media/read/read';
import { renderReel } from '../../media/render/render';
import { add } from './table';

/** Seconds at which films are looked at: a frame of every rate lies there. */
const soon = 0.52;
const small = { width: 120, height: 68 };
const rgb = (...args: string[]): Uint8Array =>
  new Uint8Array(ffmpeg(...args, '-frames:v', '1', '-pix_fmt', 'rgb24', '-f', 'rawvideo', '-'));
const shrink = `scale=${small.width}:${small.height}:flags=area+accurate_rnd+full_chroma_int`;
/** What a program shows of a film that says how its colours are coded. */
const fromFilm = (file: string, seconds: number) =>
  rgb(
    ...(seconds ? ['-ss', seconds.toFixed(3)] : []),
    '-i',
    file,
    '-vf',
    `${shrink}:in_color_matrix=auto,format=rgb24`,
  );

/** Structural similarity of two pictures by ffmpeg's own filter (Wang et al. 2004), and how far their brightness is apart. */
function compare(folder: string, ours: Uint8Array, truth: Uint8Array): { alike: number; brightness: number } {
  const write = (name: string, pixels: Uint8Array) => {
    const file = join(folder, name);
    execFileSync(
      'ffmpeg',
      [
        '-v',
        'error',
        '-y',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'rgb24',
        '-s',
        `${small.width}x${small.height}`,
        '-i',
        '-',
        file,
      ],
      { input: pixels },
    );
    return file;
  };
  const said = execFileSync(
    'ffmpeg',
    [
      ...['-hide_banner', '-i', write('ours.png', ours), '-i', write('truth.png', truth)],
      ...['-lavfi', '[0]format=gbrp[a];[1]format=gbrp[b];[a][b]ssim=stats_file=-', '-f', 'null', '-'],
    ],
    { stdio: ['ignore', 'pipe', 'ignore'] },
  ).toString();
  const apart = [0, 1, 2].map((channel) => {
    let sum = 0;
    for (let at = channel; at < truth.length; at += 3) sum += ours[at]! - truth[at]!;
    return Math.abs(sum) / (truth.length / 3);
  });
  return { alike: Number(/All:([\d.]+)/.exec(said)?.[1] ?? 0), brightness: Math.max(...apart) };
}

/** Every way in which a file is shown, half a second in, against what is to be seen there. */
async function waysOf(each: MadeFile, place: MadeIn, folder: string): Promise<Map<string, Uint8Array>> {
  const file = place.at(each.file);
  const own = join(folder, `${each.file}.read`);
  const inputLook = each.inputLook && place.at(each.inputLook);
  const options = { folder: own, proxy: true, ...(inputLook ? { inputLook } : {}) };
  const { probe: info, sheets, copy, proxy } = await readMedia(file, options);
  const photo = info.kind === 'photo';
  const at = photo ? 0 : soon;
  const ways = new Map<string, Uint8Array>();
  const { width, height, columns, hz } = sheets!;
  const tile = Math.round(at * hz);
  ways.set(
    'thumbnail',
    rgb(
      '-i',
      join(
        own,
        readdirSync(own).find((name) => name.startsWith('sheet-'))!,
      ),
      '-vf',
      `crop=${width}:${height}:${(tile % columns) * width}:0,${shrink}:in_color_matrix=bt601:in_range=pc,format=rgb24`,
    ),
  );
  const played = copy ? join(own, copy) : proxy ? join(own, 'proxy.mp4') : file;
  // Programs that show photos know their EXIF; this one does not.
  if (copy?.endsWith('.png'))
    ways.set(
      'viewer',
      rgb('-i', played, '-vf', `format=gbrap,premultiply=inplace=1,format=gbrp,${shrink},format=rgb24`),
    );
  else if (!photo || copy) ways.set('viewer', fromFilm(played, at));
  const size = { width: 480, height: Math.round((480 * info.height) / info.width / 2) * 2 };
  const clip: Clip = { kind: 'clip', id: 'a', media: 'm', name: each.name, sourceIn: 0, frames: 15 };
  const reel: Reel = {
    schema: 'BrightReel.Reel.1',
    name: each.name,
    rate: rates['25'],
    size,
    tracks: [{ kind: 'picture', name: 'Main', items: [clip] }],
  };
  const out = join(folder, 'render.mp4');
  await renderReel(
    reel,
    new Map([
      [
        'm',
        {
          file: copy ? played : file,
          hasPicture: true,
          hasSound: info.hasSound,
          photo,
          width: info.width,
          height: info.height,
          ...(info.coding ? { coding: info.coding } : {}),
        },
      ],
    ]),
    out,
    { size, quality: 'best' },
  );
  ways.set('render', fromFilm(out, soon));
  return ways;
}

const isTrue = (got: unknown, wanted: unknown): boolean =>
  typeof wanted === 'number' ? Math.abs((got as number) - wanted) < 1e-6 : got === wanted;

/** Small files of every kind: what each is, and what is seen of it in every way it is shown. */
export async function checkMedia(folder: string, only?: string): Promise<void> {
  const place = placeIn(join(folder, 'material'));
  mkdirSync(place.at('.'), { recursive: true });
  makeBase(place);
  const wrong: string[] = [];
  let right = 0;
  for (const each of material) {
    if (only && !each.name.includes(only)) continue;
    const faults: string[] = [];
    try {
      await each.make(place);
      const info = await probe(place.at(each.file));
      const { soundTracks, ...got } = describeMedia(info);
      for (const [name, wanted] of Object.entries(each.truth))
        if (name === 'soundTracks') {
          const channels = soundTracks.map((track) => track.channels).join();
          if (channels !== each.truth.soundTracks!.map((track) => track.channels).join())
            faults.push(`channels ${channels}`);
        } else if (!isTrue(got[name as keyof typeof got], wanted))
          faults.push(`${name} ${String(got[name as keyof typeof got])} instead of ${String(wanted)}`);
      if (each.seconds && Math.abs(info.durationSeconds - each.seconds) > 0.1)
        faults.push(`${info.durationSeconds} s long`);
      if (each.looks) {
        const own = place.at(`${each.file}.looks.png`);
        const truth = rgb('-i', existsSync(own) ? own : place.at(`${each.looks}.png`), '-vf', `${shrink},format=rgb24`);
        for (const [way, seen] of await waysOf(each, place, folder)) {
          const { alike, brightness } = compare(folder, seen, truth);
          // Thumbnails are small, compressed, and of the nearest half second.
          const wanted = (each.alike ?? 0.95) - (way === 'thumbnail' ? (each.looks === 'moving' ? 0.25 : 0.07) : 0);
          if (alike < wanted) faults.push(`${way}: alike ${alike.toFixed(3)}`);
          if (brightness > (each.brightness ?? 4)) faults.push(`${way}: brightness off by ${brightness.toFixed(1)}`);
        }
      }
    } catch (error) {
      faults.push((error as Error).message.slice(0, 300));
    }
    if (faults.length) wrong.push(`${each.name}: ${faults.join(', ')}`);
    else right++;
    console.error(`${faults.length ? '✗' : '✓'} ${each.name}${faults.length ? `: ${faults.join(', ')}` : ''}`);
  }
  add({
    reading: 'media',
    what: `kinds of files read and shown right, of ${right + wrong.length}`,
    ours: String(right),
    wanted: 'all',
    reached: wrong.length === 0,
    source: 'made on the spot; pictures by structural similarity (Wang et al. 2004)',
  });
}
