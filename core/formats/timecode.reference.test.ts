import { describe, expect, it } from 'vitest';
import type { Clip, Reel } from '#core/reel';
import { rates, type Rate, type SourceStart } from '#core/time';
import { readEdl } from './edlRead';
import { reelNames, writeEdl } from './edlWrite';
import { readOtio, writeOtio } from './otio';
import { relink, type SourceInfo } from './source';

let count = 0;
const makeId = () => `id-${++count}`;
const camera = (id: string, start: SourceStart | null, more: Partial<SourceInfo> = {}): SourceInfo => ({
  id,
  name: `${id}.mov`,
  hash: null,
  durationSeconds: 600,
  start,
  ...more,
});
const at = (timecode: string, seconds: number, rate: Rate): SourceStart => ({ timecode, seconds, rate });
const clip = (media: string, sourceIn: number, frames: number, more: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id: makeId(),
  media,
  name: media,
  sourceIn,
  frames,
  ...more,
});
const reel = (rate: Rate, ...items: Clip[]): Reel => ({
  schema: 'BrightReel.Reel.1',
  name: 'Regatta',
  rate,
  size: { width: 1920, height: 1080 },
  tracks: [{ kind: 'picture', name: 'Main', items }],
});
const eventsOf = (text: string) => text.split('\r\n').filter((line) => /^\d{3} /.test(line));

// Labels worked by hand after SMPTE ST 12-1; the form of an event after CMX 3600, from memory.
describe('source times of a list, event by event', () => {
  it('at 25: the camera’s own labels, and past midnight', () => {
    const sources = [
      camera('bank', at('10:20:30:12', 37230.48, rates['25']), { reelName: 'POND12' }),
      camera('late', at('23:59:59:20', 86399.8, rates['25'])),
      camera('plain', null),
    ];
    const text = writeEdl(
      reel(rates['25'], clip('bank', 100, 50), clip('late', 10, 25), clip('plain', 25, 25)),
      sources,
    );
    expect(eventsOf(text)).toEqual([
      '001  POND12   B     C        10:20:34:12 10:20:36:12 01:00:00:00 01:00:02:00',
      '002  LATE     B     C        00:00:00:05 00:00:01:05 01:00:02:00 01:00:03:00',
      '003  PLAIN    B     C        00:00:01:00 00:00:02:00 01:00:03:00 01:00:04:00',
    ]);
  });
  it('at 29.97: labels 00 and 01 of a minute are left out where the camera leaves them out, whatever the list does', () => {
    const rate = rates['29.97'];
    const drop = camera('drop', at('10:20:59;20', 0, rate));
    const whole = camera('whole', at('01:00:00:00', 0, rate));
    for (const isDrop of [false, true]) {
      const text = writeEdl(reel(rate, clip('drop', 10, 30), clip('whole', 1800, 30)), [drop, whole], { drop: isDrop });
      expect(eventsOf(text).map((line) => line.slice(29, 52))).toEqual([
        '10:21:00;02 10:21:01;02',
        '01:01:00:00 01:01:01:00',
      ]);
    }
  });
  it('a camera of another rate keeps its seconds, and a list its lengths', () => {
    const sources = [camera('bank', at('10:00:00:00', 36000, rates['25']))];
    const text = writeEdl(reel(rates['24'], clip('bank', 48, 24), clip('bank', 12, 24)), sources);
    // Two seconds in; then half a second in, which is the camera's frame 13 of 25 and the list's 12 of 24.
    expect(eventsOf(text).map((line) => line.slice(29, 52))).toEqual([
      '10:00:02:00 10:00:03:00',
      '10:00:00:12 10:00:01:12',
    ]);
  });
  it('sound that counts in samples has the label of its second', () => {
    const recorder = camera('voice', { timecode: null, seconds: 37230.48, rate: null }, { soundOnly: true });
    const text = writeEdl(reel(rates['25'], clip('voice', 25, 25)), [recorder]);
    expect(eventsOf(text)[0]).toContain('10:20:31:12 10:20:32:12');
  });
  it('a dissolve leaves the camera before at its label, and a changed speed is told from there', () => {
    const sources = [
      camera('a', at('10:00:00:00', 36000, rates['25'])),
      camera('b', at('12:00:00:00', 43200, rates['25'])),
    ];
    const text = writeEdl(
      reel(
        rates['25'],
        clip('a', 0, 50),
        clip('b', 100, 50, { into: { kind: 'dissolve', frames: 10 } }),
        clip('a', 250, 25, { speed: 200 }),
      ),
      sources,
    );
    expect(eventsOf(text)).toEqual([
      '001  A        B     C        10:00:00:00 10:00:01:20 01:00:00:00 01:00:01:20',
      '002  A        B     C        10:00:01:20 10:00:01:20 01:00:01:20 01:00:01:20',
      '002  B        B     D    010 12:00:03:20 12:00:06:00 01:00:01:20 01:00:04:00',
      '003  A        B     C        10:00:10:00 10:00:12:00 01:00:04:00 01:00:05:00',
    ]);
    expect(text).toContain('M2   A           50.000       10:00:10:00');
  });
});

describe('tapes', () => {
  const second = (seconds: number) => ({ timecode: null, seconds, rate: null });
  it('recordings of one card share its name where their labels do not meet', () => {
    const names = reelNames([
      camera('one', second(0), { reelName: 'Card 7', durationSeconds: 60 }),
      camera('two', second(60), { reelName: 'Card 7', durationSeconds: 60 }),
      camera('three', second(90), { reelName: 'Card 7', durationSeconds: 60 }),
      camera('card7', null, { name: 'card7.mov' }),
    ]);
    expect([...names.values()]).toEqual(['CARD7', 'CARD7', 'CARD72', 'CARD73']);
  });
});

describe('a list that comes back', () => {
  const sources = [
    camera('bank', at('10:20:30:12', 37230.48, rates['25']), { reelName: 'POND12' }),
    camera('drop', at('01:00:00;00', 3600, rates['29.97']), { reelName: 'POND13' }),
    camera('plain', null),
  ];
  it.each([
    ['25', [100, 3000, 14_999]],
    ['29.97', [10, 1800, 17_000]],
    ['24', [48, 240, 2400]],
  ] as const)('shows the same frames at %s', (rate, places) => {
    const made = reel(
      rates[rate],
      ...sources.flatMap(({ id }) => places.slice(0, 2).map((place) => clip(id, place, 25))),
    );
    const back = relink(readEdl(writeEdl(made, sources), rates[rate], makeId), sources).reel;
    const ins = (of: Reel) =>
      of.tracks[0]!.items.map((item) => (item.kind === 'clip' ? [item.media, item.sourceIn] : null));
    // Between rates a label finds a frame to within one.
    ins(back).forEach((found, index) => {
      expect(found![0]).toBe(ins(made)[index]![0]);
      expect(Math.abs(Number(found![1]) - Number(ins(made)[index]![1]))).toBeLessThanOrEqual(rate === '25' ? 0 : 1);
    });
  });
  it('finds its footage by tape and label alone', () => {
    const text = [
      'TITLE: FROM ELSEWHERE',
      'FCM: NON-DROP FRAME',
      '001  POND12   V     C        10:21:30:12 10:21:32:12 01:00:00:00 01:00:02:00',
      '002  POND12   V     C        08:00:00:00 08:00:01:00 01:00:02:00 01:00:03:00',
    ].join('\n');
    const { reel: found, missing } = relink(readEdl(text, rates['25'], makeId), sources);
    expect(found.tracks[0]!.items).toMatchObject([
      { kind: 'clip', media: 'bank', sourceIn: 1500, frames: 50 },
      { kind: 'gap', frames: 25 },
    ]);
    expect(missing).toEqual(['POND12']);
  });
  it('and one that counts from the first frame of each file is read as such', () => {
    const text = [
      'FCM: NON-DROP FRAME',
      '001  AX       V     C        00:00:04:00 00:00:05:00 01:00:00:00 01:00:01:00',
      '* SOURCE FILE: bank.mov',
    ].join('\n');
    expect(relink(readEdl(text, rates['25'], makeId), sources).reel.tracks[0]!.items[0]).toMatchObject({
      sourceIn: 100,
    });
  });
});

// OpenTimelineIO: a clip's source range lies in the count of its media's available range.
it('OpenTimelineIO has source ranges in the count of the camera, and comes back', () => {
  const sources = [camera('bank', at('10:20:30:12', 37230.48, rates['25']), { reelName: 'POND12' })];
  const made = reel(rates['25'], clip('bank', 100, 50));
  const text = writeOtio(made, sources);
  const timeline = JSON.parse(text) as {
    tracks: {
      children: {
        children: { source_range: unknown; media_references: { DEFAULT_MEDIA: { available_range: unknown } } }[];
      }[];
    };
  };
  const piece = timeline.tracks.children[0]!.children[0]!;
  // 10:20:30:12 is (((10 × 60 + 20) × 60) + 30) × 25 + 12 = 930,762 frames after midnight.
  expect(piece.source_range).toMatchObject({ start_time: { value: 930_862, rate: 25 }, duration: { value: 50 } });
  expect(piece.media_references.DEFAULT_MEDIA.available_range).toMatchObject({
    start_time: { value: 930_762 },
    duration: { value: 15_000 },
  });
  expect(relink(readOtio(text, makeId), sources).reel.tracks[0]!.items[0]).toMatchObject({ sourceIn: 100, frames: 50 });
});
