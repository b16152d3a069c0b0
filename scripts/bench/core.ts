/** Speed as ratios against plain ffmpeg, measured in one run on made material. Prints a table; asserts nothing. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  chooseAbove,
  chooseForTarget,
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  layGround,
  prepare,
  reweigh,
  type Footage,
} from '#core/moments';
import { derive, lookColumns, lookHz, lookRows, readingDefaults, type ReadingRules } from '#core/readings';
import { hearMusic } from '#core/sound';
import { findShorts, layShorts, shortsDefaults } from '#core/shorts';
import { followPath } from '#core/framing';
import { longTalk } from '../../core/shorts/testTalks';
import { testSong } from '../../core/sound/beats/testSongs';
import { assembleReel, planSegments } from '#core/reel';
import { rates } from '#core/time';
import { readMedia } from '../../media/read/read';
import { readCoarse } from '../../media/read/readCoarse';
import { unpackReading } from '../../media/read/readingPack';
import { renderReel } from '../../media/render/render';
import { madeReading } from './madeReading';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-bench-'));
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 1 << 30 });
const seconds = async (work: () => unknown) => {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
};
const row = (name: string, value: string) => console.log(`${name.padEnd(58)} ${value}`);

async function reading(size: string, rate: string) {
  const file = join(folder, `${size}.mp4`);
  ffmpeg(
    '-stream_loop',
    '3',
    '-i',
    'demo/media/walk-to-the-pier.mp4',
    '-t',
    '60',
    '-vf',
    `scale=${size.replace('x', ':')},noise=alls=12:allf=t`,
    '-b:v',
    rate,
    '-preset',
    'veryfast',
    '-g',
    '60',
    file,
  );
  // Nets are opened once a process; a worker has them open from its first file on.
  await readMedia('demo/media/captain-close.mp4', { folder: join(folder, 'first') });
  const plain = await seconds(() => ffmpeg('-i', file, '-f', 'null', '-'));
  const ours = await seconds(() => readMedia(file, { folder: join(folder, `read-${size}`) }));
  const again = await seconds(() => ffmpeg('-i', file, '-f', 'null', '-'));
  const decode = (plain + again) / 2;
  row(
    `reading 60 s of ${size} at ${rate} ÷ plain decode`,
    `${(ours / decode).toFixed(2)}  (${ours.toFixed(1)} s ÷ ${decode.toFixed(1)} s)`,
  );
  // Five minutes of the same: programs and nets are started once a file, whatever its length.
  const long = join(folder, `${size}-long.mp4`);
  ffmpeg('-stream_loop', '4', '-i', file, '-c', 'copy', long);
  const keys = await seconds(() => ffmpeg('-skip_frame', 'nokey', '-i', long, '-map', '0:v', '-f', 'null', '-'));
  const rough = await seconds(() => readCoarse(long, { folder: join(folder, `rough-${size}`) }));
  const short = await seconds(() => readCoarse(file, { folder: join(folder, `short-${size}`) }));
  row(
    `rough first reading of five minutes of it ÷ running time`,
    `${(rough / 300).toFixed(3)}  (of one minute ${(short / 60).toFixed(3)}; all key frames alone ${(keys / 300).toFixed(3)})`,
  );
  row('largest memory of this process so far', `${Math.round(process.resourceUsage().maxRSS / 1024)} MB`);
}

/** Two hours in forty files with speech, faces, motion and flaws. */
const twoHours = (): Footage[] =>
  Array.from({ length: 40 }, (_, file) => {
    const { traces, runs, look } = madeReading(file);
    return {
      id: String(file),
      durationSeconds: 180,
      hz: 10,
      traces,
      runs,
      look: { hz: lookHz, cells: lookColumns * lookRows, values: look },
    };
  });

async function moments() {
  const prepared = twoHours().map(prepare);
  const budget = 0.1;
  const settings = (talk: number) => ({
    mix: { ...defaultMix, talk },
    limits: defaultLimits,
    piece: defaultPieceLength,
  });
  const grounds = prepared.map((each) => layGround(each, settings(50), []));
  const weight =
    (await seconds(() => {
      for (let talk = 0; talk < 5; talk++)
        chooseForTarget(
          grounds.map((ground) => reweigh(ground, settings(talk * 20).mix)),
          600,
        );
    })) / 5;
  const water =
    (await seconds(() => {
      for (let level = 0; level < 10; level++) chooseAbove(grounds, 20 + level * 4);
    })) / 10;
  row(
    'a weight moved over two hours of traces ÷ 100 ms',
    `${(weight / budget).toFixed(2)}  (${(weight * 1000).toFixed(0)} ms)`,
  );
  row(
    'the waterline moved over two hours of traces ÷ 100 ms',
    `${(water / budget).toFixed(2)}  (${(water * 1000).toFixed(0)} ms)`,
  );
}

/** Deciding a reading, and deciding it anew as a sensitivity moves; figures per minute of footage, out of the long demo piece. */
async function deciding() {
  const { raw } = unpackReading(readFileSync('demo/readings/race-day.mp4/reading.json.gz'))!;
  const minutes = raw.durationSeconds / 60;
  const say = (name: string, taken: number) =>
    row(
      `${name} ÷ 100 ms, per minute of footage`,
      `${(taken / 0.1 / minutes).toFixed(3)}  (${((taken * 1000) / minutes).toFixed(1)} ms)`,
    );
  derive({ ...raw });
  say('deciding a reading from nothing', await seconds(() => derive({ ...raw })));
  derive(raw);
  const moved = async (rules: (step: number) => Partial<ReadingRules>) =>
    (await seconds(() => {
      for (let step = 1; step <= 8; step++) derive(raw, { ...readingDefaults, ...rules(step / 8) });
    })) / 8;
  say(
    'the speech sensitivity moved',
    await moved((step) => ({ speech: { ...readingDefaults.speech, enter: 0.3 + step / 2 } })),
  );
  say(
    'the shake sensitivity moved',
    await moved((step) => ({ camera: { ...readingDefaults.camera, shakyFrom: 0.1 + step / 2 } })),
  );
  say('the scene sensitivity moved', await moved((sceneSensitivity) => ({ sceneSensitivity })));
}

async function rendering() {
  const file = 'demo/media/race-day.mp4';
  const pieces = Array.from({ length: 10 }, (_, index) => ({
    media: 'a',
    start: 8 + index * 23,
    end: 14 + index * 23,
    name: 'x',
  }));
  const reel = assembleReel(
    'Bench',
    pieces,
    new Map([['a', { id: 'a', name: 'a', durationSeconds: 250 }]]),
    rates['30'],
    { width: 1280, height: 720 },
    () => crypto.randomUUID(),
  );
  const inputs = planSegments(reel).flatMap((segment) => [
    '-ss',
    String(segment.sourceSeconds),
    '-t',
    String(segment.frames / 30),
    '-i',
    file,
  ]);
  const joined = `${pieces.map((_, index) => `[${index}:v:0][${index}:a:0]`).join('')}concat=n=10:v=1:a=1[v][a]`;
  const plain = await seconds(() =>
    ffmpeg(
      ...inputs,
      '-filter_complex',
      joined,
      '-map',
      '[v]',
      '-map',
      '[a]',
      '-c:v',
      'libx264',
      '-preset',
      'veryfast',
      '-crf',
      '20',
      '-pix_fmt',
      'yuv420p',
      '-c:a',
      'aac',
      '-b:a',
      '192k',
      join(folder, 'plain.mp4'),
    ),
  );
  const ours = await seconds(() =>
    renderReel(
      reel,
      new Map([['a', { file, hasPicture: true, hasSound: true, photo: false }]]),
      join(folder, 'ours.mp4'),
      { size: reel.size },
    ),
  );
  row(
    'render of ten pieces, a minute of 720p ÷ plain ffmpeg',
    `${(ours / plain).toFixed(2)}  (${ours.toFixed(1)} s ÷ ${plain.toFixed(1)} s)`,
  );
}

/** Beats, bars and sections of four minutes of music, on one core; and of a minute, to show that it grows with the length. */
async function hearing() {
  const { samples } = testSong('rock', () => 118, 240, 1);
  const whole = await seconds(() => hearMusic(samples));
  const minute = await seconds(() => hearMusic(samples.subarray(0, 60 * 16000)));
  row(
    'hearing four minutes of music ÷ 5 s',
    `${(whole / 5).toFixed(2)}  (${whole.toFixed(1)} s; a minute ${minute.toFixed(1)} s)`,
  );
}

/** Ten shorts out of two hours that were read, and the way of a crop over a minute. */
async function shorts() {
  const recording = longTalk(6, 120);
  const found = await seconds(() => findShorts(layShorts(recording, { ...shortsDefaults, count: 10 })));
  row(
    'ten shorts of two hours of talk ÷ 3 s',
    `${(found / 3).toFixed(2)}  (${found.toFixed(2)} s, ${recording.words.length} words)`,
  );
  const track = {
    id: 'a',
    start: 0,
    end: 60,
    descriptor: null,
    smile: 0,
    size: 'medium' as const,
    boxes: Array.from({ length: 121 }, (_, index) => ({
      time: index / 2,
      box: { x: 0.45 + 0.3 * Math.sin(index / 9), y: 0.3, width: 0.1, height: 0.16, score: 0.9 },
    })),
  };
  const framed = await seconds(() =>
    followPath(
      {
        size: { width: 1920, height: 1080 },
        tracks: [track],
        objects: [],
        motion: null,
        cuts: [],
        turns: [],
        mouths: [],
      },
      { start: 0, end: 60 },
      { width: 1080, height: 1920 },
      'auto',
    ),
  );
  row('the way of a crop over a minute ÷ 1 s', `${framed.toFixed(2)}  (${(framed * 1000).toFixed(0)} ms)`);
}

try {
  await shorts();
  await hearing();
  await reading('1280x720', '6M');
  await reading('1920x1080', '12M');
  await moments();
  await deciding();
  await rendering();
} finally {
  rmSync(folder, { recursive: true, force: true });
}
process.exit(0);
