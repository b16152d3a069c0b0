import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { decodeGray, ffmpeg, numberFilm, numbersIn, realPicture, realSpeech, testFolder } from '../media/testMedia';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const run = (...args: string[]) => {
  const { status, stderr } = spawnSync('./bright-reel', args, { encoding: 'utf8' });
  return { status, said: stderr.trim() };
};

interface Piece {
  OTIO_SCHEMA: string;
  name: string;
  source_range: { start_time: { value: number; rate: number }; duration: { value: number; rate: number } };
  media_references?: { DEFAULT_MEDIA: { target_url: string; available_range: { duration: { value: number } } | null } };
}
const timeline = (name: string) =>
  JSON.parse(readFileSync(at(name), 'utf8')) as { name: string; tracks: { children: { children: Piece[] }[] } };
const piecesOf = (name: string) =>
  timeline(name).tracks.children[0]!.children.filter((piece) => piece.OTIO_SCHEMA.startsWith('Clip'));
const seconds = (time: { value: number; rate: number }) => time.value / time.rate;

beforeAll(() => {
  mkdirSync(at('camera A'));
  mkdirSync(at('camera B'));
  // Two cameras whose files have the same name, and whose frames show their numbers.
  ffmpeg(
    ...numberFilm(25, 8),
    '-pix_fmt',
    'yuv420p',
    '-crf',
    '8',
    '-g',
    '25',
    '-timecode',
    '10:20:30:12',
    at('camera A/0001.mov'),
  );
  ffmpeg(...numberFilm(25, 8, 400), '-pix_fmt', 'yuv420p', '-crf', '8', '-g', '25', at('camera B/0001.mov'));
});

/** An edit as another program would write it: three pieces, of both cameras. */
function foreignEdit(): void {
  const clip = (path: string, start: number, frames: number, first = 0) => ({
    OTIO_SCHEMA: 'Clip.1',
    name: path,
    source_range: {
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: { OTIO_SCHEMA: 'RationalTime.1', rate: 25, value: first + start },
      duration: { OTIO_SCHEMA: 'RationalTime.1', rate: 25, value: frames },
    },
    media_reference: {
      OTIO_SCHEMA: 'ExternalReference.1',
      target_url: encodeURI(path),
      available_range: {
        OTIO_SCHEMA: 'TimeRange.1',
        start_time: { OTIO_SCHEMA: 'RationalTime.1', rate: 25, value: first },
        duration: { OTIO_SCHEMA: 'RationalTime.1', rate: 25, value: 200 },
      },
    },
  });
  const children = [
    clip('camera A/0001.mov', 50, 10, 930_762),
    clip('camera B/0001.mov', 20, 5),
    clip('camera A/0001.mov', 0, 10, 930_762),
  ];
  writeFileSync(
    at('edit.otio'),
    JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      name: 'Edit',
      tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', name: 'V', kind: 'Video', children }] },
    }),
  );
}
const shown = [
  ...Array.from({ length: 10 }, (_, i) => 50 + i),
  ...Array.from({ length: 5 }, (_, i) => 420 + i),
  ...Array.from({ length: 10 }, (_, i) => i),
];

describe('edits as documents', () => {
  beforeAll(foreignEdit);
  it('are rendered, every frame the one that the edit names', () => {
    expect(run('render', at('edit.otio'), '--out', at('edit.mp4'), '--lines', '180', '--quality', 'best')).toEqual({
      status: 0,
      said: '',
    });
    expect(numbersIn(at('edit.mp4'))).toEqual(shown);
  });
  it('are rendered with captions where words are given', () => {
    writeFileSync(at('said.srt'), '1\n00:00:00,160 --> 00:00:00,400\nNever fold it twice\n');
    const asked = ['render', at('edit.otio'), '--lines', '360', '--quality', 'best', '--words', at('said.srt')];
    expect(run(...asked, '--out', at('said.mp4'))).toEqual({ status: 0, said: '' });
    // The bars are black and white; letters on them stand in the lower part, where the last piece says something.
    expect(run('render', at('edit.otio'), '--out', at('plain.mp4'), '--lines', '360', '--quality', 'best').status).toBe(
      0,
    );
    const plain = decodeGray(at('plain.mp4'), 320, 180);
    const captioned = decodeGray(at('said.mp4'), 320, 180);
    const changed = (frame: number) => {
      let count = 0;
      for (let at = frame * 57_600; at < (frame + 1) * 57_600; at++)
        if (Math.abs(plain[at]! - captioned[at]!) > 60) count++;
      return count / 57_600;
    };
    expect(changed(22)).toBeGreaterThan(0.01);
    expect(changed(5)).toBeLessThan(0.005);
    expect(run('render', at('edit.otio'), '--out', at('x.mp4'), '--words', at('none.srt'))).toMatchObject({
      status: 1,
    });
  });
  it('show photos that have to be decoded first', () => {
    ffmpeg('-f', 'lavfi', '-i', 'color=red:s=320x180', '-frames:v', '1', at('red.png'));
    spawnSync('heif-enc', ['-q', '90', at('red.png'), '-o', at('red.heic')]);
    const edit = readFileSync(at('edit.otio'), 'utf8').replaceAll('camera%20B/0001.mov', 'red.heic');
    writeFileSync(at('only.otio'), edit);
    expect(run('render', at('only.otio'), '--out', at('photo.mp4'), '--lines', '180')).toMatchObject({ status: 0 });
    const means = ffmpeg('-i', at('photo.mp4'), '-vf', 'scale=1:1,format=rgb24', '-f', 'rawvideo', '-');
    const isRed = (frame: number) => means[frame * 3]! > 180 && means[frame * 3 + 2]! < 60;
    expect([5, 12, 20].map(isRed)).toEqual([false, true, false]);
  });
  it('become lists with the camera’s labels, and those are rendered the same', () => {
    expect(run('convert', at('edit.otio'), '--out', at('edit.edl')).status).toBe(0);
    const events = readFileSync(at('edit.edl'), 'utf8')
      .split('\r\n')
      .filter((line) => /^\d{3} /.test(line));
    expect(events.map((line) => line.slice(29))).toEqual([
      '10:20:32:12 10:20:32:22 01:00:00:00 01:00:00:10',
      '00:00:00:20 00:00:01:00 01:00:00:10 01:00:00:15',
      '10:20:30:12 10:20:30:22 01:00:00:15 01:00:01:00',
    ]);
    expect(
      run('render', at('edit.edl'), '--out', at('again.mp4'), '--lines', '180', '--quality', 'best', '--rate', '25')
        .status,
    ).toBe(0);
    expect(numbersIn(at('again.mp4'))).toEqual(shown);
  });
  it('are brought to another rate with their cuts at their times', () => {
    expect(run('convert', at('edit.otio'), '--out', at('fifty.otio'), '--rate', '50').status).toBe(0);
    expect(piecesOf('fifty.otio').map((piece) => seconds(piece.source_range.duration))).toEqual([0.4, 0.2, 0.4]);
    expect(piecesOf('fifty.otio')[0]!.source_range.duration.rate).toBe(50);
  });
  it('are converted without their footage too; rendering says what is missing', () => {
    writeFileSync(at('gone.otio'), readFileSync(at('edit.otio'), 'utf8').replaceAll('camera%20B', 'camera%20C'));
    expect(run('convert', at('gone.otio'), '--out', at('gone.edl')).status).toBe(0);
    expect(readFileSync(at('gone.edl'), 'utf8')).toContain('00:00:00:20 00:00:01:00 01:00:00:10 01:00:00:15');
    const { status, said } = run('render', at('gone.otio'), '--out', at('gone.mp4'));
    expect([status, existsSync(at('gone.mp4'))]).toEqual([1, false]);
    expect(said).toMatch(/needs “camera C\/0001\.mov”, which is not where it says, nor beside it\.$/);
  });
  it.each([
    [['convert', 'edit.otio', '--out', 'x.doc'], 1, /^A reel can be written as \.otio, \.edl.*“\.doc” is none of them/],
    [['convert', 'edit.otio', '--out', 'x.srt'], 1, /Captions need words/],
    [['convert', 'edit.otio', '--out', 'x.edl', '--rate', '31'], 2, /--rate is 23\.976/],
    [['render', 'edit.otio', '--out', 'x.mov'], 1, /“\.mov” is none of them/],
    [['render', 'edit.otio', '--out', 'x.mp4', '--quality', 'superb'], 1, /--quality is draft, good, best/],
    [['render', 'nothing.otio', '--out', 'x.mp4'], 1, /cannot be read/],
    [['highlights', '--out', 'x.otio'], 2, /Give files/],
    [['montage', 'edit.otio', '--out', 'x.otio'], 2, /montage SONG FILE/],
  ] as const)('%j is refused in one line', (args, status, sentence) => {
    const made = run(...args.map((arg) => (/^\w+\.\w+$/.test(arg) && !/^2/.test(arg) ? at(arg) : arg)));
    expect(made.status).toBe(status);
    expect(made.said.split('\n')).toHaveLength(1);
    expect(made.said).toMatch(sentence);
  });
});

describe('edits that are made', () => {
  const film = 'demo/media/captain-close.mp4';
  const others = ['demo/media/pan-over-the-pond.mp4', 'demo/media/boats-cross-fast.mp4'];
  const films = [film, ...others];
  it('highlights keep to the length and inside their footage; a second call finds what was read', () => {
    const make = (out: string, ...more: string[]) =>
      run('highlights', film, '--length', '6', '--out', at(out), '--cache', at('cache'), ...more);
    expect(make('best.otio')).toEqual({ status: 0, said: '' });
    const pieces = piecesOf('best.otio');
    const total = pieces.reduce((sum, piece) => sum + seconds(piece.source_range.duration), 0);
    expect(total).toBeGreaterThan(4);
    expect(total).toBeLessThanOrEqual(6.05);
    for (const piece of pieces)
      expect(piece.source_range.start_time.value + piece.source_range.duration.value).toBeLessThanOrEqual(
        piece.media_references!.DEFAULT_MEDIA.available_range!.duration.value,
      );
    // Nothing but the cache can give it so: the same document, and no decode, which needs the file's name on the way.
    expect(make('again.otio').status).toBe(0);
    expect(
      timeline('again.otio').tracks.children[0]!.children.map(({ name, source_range }) => [name, source_range]),
    ).toEqual(timeline('best.otio').tracks.children[0]!.children.map(({ name, source_range }) => [name, source_range]));
    expect(make('none.otio', '--mix', 'Nonsense').said).toMatch(
      /^There is no mix “Nonsense”; there are “People talking”/,
    );
  });
  it('highlights name what is said after a folder of texts, and say which texts they cannot use', () => {
    // Source of the speech: the recordings that ship with the recogniser.
    const speech = realSpeech('librivox/sense_and_sensibility_01_austen_64kb-0870.wav');
    const picture = ['-loop', '1', '-framerate', '25', '-t', '8', '-i', realPicture('messi5.jpg')];
    ffmpeg(
      ...picture,
      '-i',
      speech,
      '-vf',
      'scale=640:360,setsar=1',
      '-pix_fmt',
      'yuv420p',
      '-shortest',
      at('told.mp4'),
    );
    mkdirSync(at('texts'));
    writeFileSync(at('texts/told.mp4.srt'), '1\n00:00:00,000 --> 00:00:08,000\nThe river has no brakes\n');
    const make = (place: string) =>
      run('highlights', at('told.mp4'), film, '--words', at(place), '--out', at('said.otio'), '--cache', at('cache'));
    expect(make('texts')).toEqual({ status: 0, said: '' });
    expect(piecesOf('said.otio').map(({ name }) => name)).toContain('“The river has no brakes”');
    expect(make('texts/told.mp4.srt').said).toMatch(/is one text for 2 files; give a folder/);
    mkdirSync(at('no texts'));
    expect(make('no texts').said).toMatch(/^No text in .* is named like one of these files/);
    expect(make('missing').said).toMatch(/missing cannot be read/);
  });
  // Source of the beats: the demo's generator, which lays every stroke on a beat it knows.
  it('a montage cuts on the beats of its song, from its first to its last second', () => {
    const song = 'demo/media/paper-sails.m4a';
    expect(run('montage', song, ...films, '--every', '4', '--out', at('montage.otio'), '--cache', at('cache'))).toEqual(
      { status: 0, said: '' },
    );
    const { beats } = JSON.parse(readFileSync('demo/media/paper-sails.truth.json', 'utf8')) as { beats: number[] };
    const made = timeline('montage.otio').tracks.children[0]!.children;
    let place = 0;
    const cuts = made.map((piece) => (place += seconds(piece.source_range.duration))).slice(0, -1);
    expect(cuts.length).toBeGreaterThan(20);
    const onBeat = cuts.filter((cut) => beats.some((beat) => Math.abs(beat - cut) < 0.06));
    expect(onBeat.length / cuts.length).toBeGreaterThan(0.95);
  });
});
