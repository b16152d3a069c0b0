import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { MotionEstimator, luma709 } from '#core/picture';
import { changedParts, derive, displayTraceNames, partSince, readerVersion, runsOf, type Run } from '#core/readings';
import { speechRuns } from '#core/sound';
import { overlap, totalLength, type Range } from '#core/time';
import { contentHash } from '../../data/contentHash';
import { demoFiles } from '../../demo/project';
import { readMedia } from './read';
import { packReading, unpackReading } from './readingPack';
import { decodeGray, decodeMono, ffmpeg, realPicture, realSpeech, testFolder } from '../testMedia';
import { VoiceDetector } from '../nets/voiceDetector';

const folder = testFolder();

/** Share of overlap in both directions: F1 of seconds. */
function f1(found: Range[], truth: Range[]): number {
  const shared = found.reduce((sum, a) => sum + truth.reduce((part, b) => part + overlap(a, b), 0), 0);
  return (2 * shared) / (totalLength(found) + totalLength(truth));
}

// Source: ITU-R BT.709-6; ffmpeg decodes a file flagged BT.709, our grey must be its luma over the full range.
it('grey frames carry BT.709 luma', () => {
  const file = join(folder, 'red.mp4');
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'color=c=0xC04020:s=320x180:d=0.2',
    '-vf',
    'scale=out_color_matrix=bt709',
    '-colorspace',
    'bt709',
    '-pix_fmt',
    'yuv420p',
    file,
  );
  expect(Math.abs(decodeGray(file, 320, 180)[3000]! - luma709(0xc0, 0x40, 0x20))).toBeLessThan(3);
});

// Source: pocketsphinx-testdata (Debian), recorded sentences laid at known times into silence.
it('Silero finds real speech at the times it was laid', async () => {
  const clips = ['cards/001.wav', 'cards/003.wav', 'cards/005.wav'].map((name) => decodeMono(realSpeech(name), 16000));
  const samples = new Float32Array(16000 * 20);
  const truth: Range[] = clips.map((clip, index) => {
    const start = 2 + index * 6;
    samples.set(clip, start * 16000);
    const loud = [...clip.keys()].filter((at) => Math.abs(clip[at]!) > 0.03);
    return { start: start + loud[0]! / 16000, end: start + loud.at(-1)! / 16000 };
  });
  const detector = await VoiceDetector.load();
  await detector.push(samples);
  await detector.end();
  const found = speechRuns(detector.probabilities, VoiceDetector.hz, 20);
  const merged = truth
    .map(({ start, end }) => found.filter((run) => overlap(run, { start, end }) > 0))
    .map((runs) => ({ start: runs[0]!.start, end: runs.at(-1)!.end }));
  for (const [index, run] of merged.entries()) {
    expect(Math.abs(run.start - truth[index]!.start)).toBeLessThan(0.25);
    expect(Math.abs(run.end - truth[index]!.end)).toBeLessThan(0.35);
  }
  expect(found.every((run) => truth.some((each) => overlap(run, each) > 0))).toBe(true);
});

// Source: photographs of opencv-doc (Debian); reference detector: ffmpeg's scene filter at 0.4.
it('hard cuts between real pictures: every one found, as by ffmpeg, and none besides', async () => {
  const pictures = ['aero1.jpg', 'building.jpg', 'butterfly.jpg', 'fruits.jpg', 'home.jpg', 'aloeL.jpg'].map(
    realPicture,
  );
  const file = join(folder, 'cuts.mp4');
  const inputs = pictures.flatMap((picture) => ['-loop', '1', '-t', '1.5', '-r', '30', '-i', picture]);
  const drift = pictures
    .map(
      (_, index) =>
        `[${index}]scale=1400:800:force_original_aspect_ratio=increase,crop=1280:720:x='20+20*t':y=10,setsar=1[v${index}]`,
    )
    .join(';');
  ffmpeg(
    ...inputs,
    '-filter_complex',
    `${drift};${pictures.map((_, index) => `[v${index}]`).join('')}concat=n=${pictures.length}`,
    '-pix_fmt',
    'yuv420p',
    file,
  );
  const ours = runsOf(derive((await readMedia(file, { folder: join(folder, 'cuts') })).raw).runs, 'scene')
    .map((scene) => scene.start)
    .slice(1);
  const said = execFileSync('sh', [
    '-c',
    `ffmpeg -i "${file}" -vf "select='gt(scene,0.4)',showinfo" -f null - 2>&1`,
  ]).toString();
  const theirs = [...said.matchAll(/pts_time:([\d.]+)/g)].map((match) => Number(match[1]));
  expect(ours).toHaveLength(5);
  for (const [index, cut] of ours.entries()) expect(Math.abs(cut - (index + 1) * 1.5)).toBeLessThan(0.034);
  for (const cut of theirs) expect(ours.some((own) => Math.abs(own - cut) < 0.05)).toBe(true);
});

// Source: a photograph of opencv-doc: dark hair, a striped jersey, a yellow ball, as anybody sees.
it('in a real photograph hair, clothes and ball have their colours', async () => {
  const { raw } = await readMedia(realPicture('messi5.jpg'), { folder: join(folder, 'coloured') });
  const labels = runsOf(derive(raw).runs, 'coloured').map((run) => run.label);
  expect(labels).toContain('yellow sports ball');
  expect(labels).toContain('black head');
  expect(labels.some((label) => label === 'red clothes' || label === 'blue clothes')).toBe(true);
  expect(labels).not.toContain('green clothes');
});

// Source: photographs of opencv-doc shifted by ffmpeg by whole pixels of a picture four times as wide.
it('camera shifts over real pictures are measured within half a pixel of 320', () => {
  for (const name of ['building.jpg', 'fruits.jpg', 'aero1.jpg', 'home.jpg'])
    for (const [x, y] of [
      [6, 2],
      [22, -10],
      [1, 1],
      [90, 14],
    ] as const) {
      const frame = (dx: number, dy: number) => {
        const data = new Uint8Array(
          ffmpeg(
            '-i',
            realPicture(name),
            '-vf',
            `scale=1480:880:force_original_aspect_ratio=increase,crop=1280:720:${60 + dx}:${40 + dy},scale=320:180:flags=area,format=gray`,
            '-frames:v',
            '1',
            '-f',
            'rawvideo',
            '-',
          ),
        );
        return { width: 320, height: 180, data };
      };
      const estimator = new MotionEstimator();
      estimator.next(frame(0, 0));
      const motion = estimator.next(frame(x, y));
      expect(Math.hypot(motion.dx * 320 + x / 4, motion.dy * 320 + y / 4), `${name} by ${x}, ${y}`).toBeLessThan(0.5);
    }
});

interface Truth {
  seconds: number;
  cuts: number[];
  people: { who: string; start: number; end: number }[];
  speech: Range[];
  camera: (Range & { kind: string })[];
  flaws: (Range & { kind: string })[];
}
const truthOf = (name: string) => JSON.parse(readFileSync(`demo/media/${name}.truth.json`, 'utf8')) as Truth;
const shipped = (file: string) => unpackReading(readFileSync(`demo/readings/${file}/reading.json.gz`));

describe("the demo's own truth", () => {
  it('ships readings of this version that belong to the media', async () => {
    for (const file of demoFiles) {
      expect(shipped(file), file).not.toBeNull();
      expect(await contentHash(`demo/media/${file}`), file).toBe(readFileSync(`demo/readings/${file}/hash`, 'utf8'));
    }
  });

  it('a fresh reading says what the shipped one says', async () => {
    const { raw } = await readMedia('demo/media/captain-close.mp4', { folder: join(folder, 'fresh') });
    const fresh = derive(raw);
    const kept = derive(shipped('captain-close.mp4')!.raw);
    for (const name of displayTraceNames)
      for (const [index, value] of fresh.traces[name].entries())
        expect(Math.abs(value - kept.traces[name][index]!), `${name} ${index}`).toBeLessThan(0.02);
    expect(existsSync(join(folder, 'fresh', 'sheet-0001.jpg'))).toBe(true);
  });

  it('the long piece: cuts, speech, flaws, shake', () => {
    const truth = truthOf('race-day');
    const { runs, durationSeconds } = derive(shipped('race-day.mp4')!.raw);
    expect(durationSeconds).toBeCloseTo(truth.seconds, 1);
    const cuts = runsOf(runs, 'scene')
      .map((scene) => scene.start)
      .slice(1);
    expect(truth.cuts.filter((cut) => !cuts.some((own) => Math.abs(own - cut) < 0.05))).toEqual([]);
    expect(cuts.filter((own) => !truth.cuts.some((cut) => Math.abs(own - cut) < 0.05))).toEqual([]);
    expect(f1(runsOf(runs, 'speech'), truth.speech)).toBeGreaterThan(0.88);
    expect(
      f1(
        runsOf(runs, 'shaky'),
        truth.camera.filter((run) => run.kind === 'shaky'),
      ),
    ).toBeGreaterThan(0.9);
    expect(
      f1(
        runsOf(runs, 'black'),
        truth.flaws.filter((flaw) => flaw.kind === 'dark'),
      ),
    ).toBeGreaterThan(0.95);
    expect(
      f1(
        runsOf(runs, 'blurred'),
        truth.flaws.filter((flaw) => flaw.kind === 'blurred'),
      ),
    ).toBeGreaterThan(0.85);
  });

  it('faces: the right number nearly always', () => {
    const truth = truthOf('race-day');
    const { traces, hz } = derive(shipped('race-day.mp4')!.raw);
    const blurred = truth.flaws[0]!;
    let right = 0;
    let all = 0;
    for (let index = 0; index < traces.faces.length; index++) {
      const time = index / hz;
      if (time >= blurred.start && time < blurred.end) continue;
      all++;
      if (traces.faces[index] === truth.people.filter((person) => time >= person.start && time < person.end).length)
        right++;
    }
    expect(right / all).toBeGreaterThan(0.9);
  });

  it.each(['walk-to-the-pier', 'whip-to-the-captain', 'pan-over-the-pond', 'tripod-start-line', 'boats-cross-fast'])(
    'camera of %s',
    (name) => {
      const truth = truthOf(name);
      const { runs } = derive(shipped(`${name}.mp4`)!.raw);
      const of = (list: (Range & { kind: string })[], kind: string) => list.filter((run) => run.kind === kind);
      expect(of(runs, 'shaky').length).toBe(of(truth.camera, 'shaky').length);
      expect(of(runs, 'whip').length).toBe(of(truth.camera, 'whip').length);
      for (const kind of ['shaky', 'whip'])
        if (of(truth.camera, kind).length)
          expect(f1(of(runs, kind) as Run[], of(truth.camera, kind))).toBeGreaterThan(0.8);
      if (name === 'tripod-start-line' || name === 'boats-cross-fast')
        expect(runsOf(runs, 'still', 'smooth', 'shaky', 'whip').map((run) => run.kind)).toEqual(['still']);
    },
  );
});

describe('a reading by an earlier reader', () => {
  const film = 'demo/media/captain-close.mp4';
  it('gets only its changed part anew; everything else is taken over as it is', async () => {
    const { probe: _, ...whole } = shipped('captain-close.mp4')!;
    const spoiled = {
      ...whole,
      raw: {
        ...whole.raw,
        faces: [],
        traces: new Map(
          [...whole.raw.traces].map(([name, trace]) => [name, { ...trace, values: trace.values.map(() => 0.125) }]),
        ),
      },
    };
    const own = join(folder, 'sound-anew');
    const { raw, loudness } = await readMedia(film, { folder: own, renew: { parts: ['sound'], earlier: spoiled } });
    expect(raw.traces.get('camera.dx')!.values.every((value) => value === 0.125)).toBe(true);
    expect(raw.traces.get('sound.level')!.values).toEqual(whole.raw.traces.get('sound.level')!.values);
    expect(loudness!.integratedLufs).toBeCloseTo(whole.loudness!.integratedLufs!, 1);
    expect(raw.faces).toEqual([]);
    expect(existsSync(join(own, 'sheet-0001.jpg'))).toBe(false);

    const faces = await readMedia(film, {
      folder: join(folder, 'faces-anew'),
      renew: { parts: ['faces'], earlier: spoiled },
    });
    expect(faces.raw.faces.map((sample) => sample.boxes.length)).toEqual(
      whole.raw.faces.map((sample) => sample.boxes.length),
    );
    expect(faces.raw.traces.get('sound.level')!.values[3]).toBe(0.125);

    const picture = await readMedia(film, {
      folder: join(folder, 'picture-anew'),
      renew: { parts: ['picture'], earlier: spoiled },
    });
    expect(picture.raw.traces.get('frame.mean')!.values.length).toBe(whole.raw.traces.get('frame.mean')!.values.length);
    expect(picture.sheets).toEqual(whole.sheets);
    expect(existsSync(join(folder, 'picture-anew', 'sheet-0001.jpg'))).toBe(true);
  });

  it('is not decoded at all when only decisions have changed', async () => {
    const { probe: _, ...whole } = shipped('captain-close.mp4')!;
    const { raw } = await readMedia(film, {
      folder: join(folder, 'nothing-anew'),
      renew: { parts: [], earlier: whole },
    });
    for (const [name, trace] of whole.raw.traces) expect(raw.traces.get(name)!.values, name).toEqual(trace.values);
    expect(raw.look).toEqual(whole.raw.look);
  });

  it('asks for the parts that have changed since, and no other', () => {
    const since = { picture: 2, faces: 4, sound: 3 };
    expect(changedParts(1, since)).toEqual(['picture', 'faces', 'sound']);
    expect(changedParts(2, since)).toEqual(['faces', 'sound']);
    expect(changedParts(3, since)).toEqual(['faces']);
    expect(changedParts(4, since)).toEqual([]);
    expect(Math.max(...Object.values(partSince))).toBeLessThanOrEqual(readerVersion);
  });
});

it('packs and unpacks a reading without loss', () => {
  const reading = shipped('whip-to-the-captain.mp4')!;
  const again = unpackReading(packReading(reading))!;
  expect(again.raw.traces.get('camera.dx')!.values).toEqual(reading.raw.traces.get('camera.dx')!.values);
  expect(again.probe).toEqual(reading.probe);
});

// Source: the photographs that ship with @vladmandic/face-api, used in tests only. sample1.jpg shows people at a table.
it('finds faces in real photographs', async () => {
  const { raw } = await readMedia('node_modules/@vladmandic/face-api/demo/sample1.jpg', {
    folder: join(folder, 'photo'),
  });
  expect(raw.faces[0]!.boxes.length).toBeGreaterThanOrEqual(3);
});
