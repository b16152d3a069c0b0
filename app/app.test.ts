import { describe, expect, it } from 'vitest';
import { displayTraceNames, readingDefaults, type DisplayTraces, type RawReading } from '#core/readings';
import { StringOut } from '#core/time';
import { DecisionDto, MakeReelsDto, NameDto, PersonDto, PickDto, ReadingRangeDto, RulesDto } from '#usecases/forms/dto';
import { nextLineStep, readAddress, readPlace, writePlace } from './moments/model/address';
import { decideRange } from './moments/model/decide';
import { lengthWords, parseLength } from './moments/MomentsBar';
import { decodeRaw, decodeReadings, encodeRaw, encodeReadings } from './readings/readingCodec';
import { wrap } from './reel/stripLayout';
import { hangingLines } from './footage/TakeOut';
import { outside } from '#usecases/readRange';
import { parseRange } from './server/sendFile.server';
import { waitingSentence, type TaskLine } from '#usecases/tasks';
import { check } from '#usecases/validate';
import { tempoWords } from './music/tempoWords';
import { timeLeftOf } from './ui/RunningWork';

import { keySets, shortcuts } from './keys';

// Source: RFC 9110, section 14.1.2 (byte ranges).
it.each([
  ['bytes=0-499', { start: 0, end: 499 }],
  ['bytes=500-', { start: 500, end: 999 }],
  ['bytes=-100', { start: 900, end: 999 }],
  ['bytes=900-5000', { start: 900, end: 999 }],
  ['bytes=1000-', 'bad'],
  ['bytes=5-2', 'bad'],
  [null, null],
  ['lines=1-2', null],
  ['bytes=-', null],
] as const)('range %s', (header, range) => expect(parseRange(header, 1000)).toEqual(range));

describe('checks what screens send', () => {
  it('names the field that is wrong, in a sentence', () => {
    const form = new FormData();
    form.set('name', '   ');
    expect(check(NameDto, form)).toMatchObject({
      ok: false,
      sentence: 'Give a name of 1 to 120 characters.',
      problems: { name: 'Give a name of 1 to 120 characters.' },
    });
    form.set('name', '  Pond  ');
    expect(check(NameDto, form)).toMatchObject({ ok: true, value: { name: 'Pond' } });
  });
  it('reaches into lists and objects', () => {
    expect(
      check(MakeReelsDto, { reels: [{ name: 'x', pieces: [{ media: 'no', start: 0, end: 1, name: 'y' }] }] }),
    ).toMatchObject({ ok: false, problems: { 'reels.0.pieces.0.media': expect.any(String) as string } });
    expect(check(MakeReelsDto, { reels: [] })).toMatchObject({ ok: false });
    const mix = { people: 1, talk: 2, action: 3, camera: 4, sound: 5, picture: 600 };
    expect(
      check(PickDto, {
        mix,
        limits: { shake: 0, blur: 0, dark: 0, frozen: true },
        piece: { minSeconds: 1, preferredSeconds: 2, maxSeconds: 3 },
        targetSeconds: 60,
        water: null,
      }),
    ).toMatchObject({ ok: false, problems: { 'mix.picture': expect.any(String) as string } });
    expect(check(DecisionDto, null).ok).toBe(false);
  });
});

it('a reading survives the way to the browser', () => {
  const traces = Object.fromEntries(
    displayTraceNames.map((name, index) => [name, Float32Array.from([index, index / 3])]),
  ) as DisplayTraces;
  const reading = {
    durationSeconds: 0.2,
    hz: 10,
    runs: [{ kind: 'speech' as const, start: 0, end: 0.1, label: 'ä' }],
    traces,
    look: Float32Array.of(0.5),
    tint: Float32Array.of(0.25),
  };
  const bytes = encodeReadings([{ ...reading, durationSeconds: 7 }, null, reading]);
  const [first, none, back] = decodeReadings(bytes.buffer as ArrayBuffer, ['k', 'l', 'm']);
  expect([first?.durationSeconds, none]).toEqual([7, null]);
  expect(back).toMatchObject({ id: 'm', durationSeconds: 0.2, hz: 10, runs: [{ kind: 'speech', label: 'ä' }] });
  for (const name of displayTraceNames) expect(back!.traces[name]).toEqual(traces[name]);
  expect([...back!.look!.values]).toEqual([0.5]);
  expect([...back!.tint!.values]).toEqual([0.25]);
});

it('raw measurements survive the way to the browser, without what tells people apart', () => {
  const box = { x: 0.1, y: 0.2, width: 0.3, height: 0.4, score: 0.9, smile: 0.5, descriptor: [1, 2] };
  const raw: RawReading = {
    durationSeconds: 4,
    hasPicture: true,
    hasSound: true,
    range: { start: 1, end: 3 },
    objects: [],
    faces: [{ time: 0, boxes: [box] }],
    look: Float32Array.of(0.1),
    fine: Float32Array.of(0.2, 0.3),
    traces: new Map([
      ['camera.dx', { name: 'camera.dx', hz: 30, start: 0, values: Float32Array.of(1, 2, 3) }],
      ['sound.voice', { name: 'sound.voice', hz: 31.25, start: 0, values: Float32Array.of(0.5) }],
    ]),
  };
  const back = decodeRaw(encodeRaw(raw).buffer as ArrayBuffer);
  expect(back.traces.get('camera.dx')).toEqual(raw.traces.get('camera.dx'));
  expect(back.traces.get('sound.voice')!.hz).toBe(31.25);
  expect([...back.fine].map((value) => Math.round(value * 10))).toEqual([2, 3]);
  expect(back.range).toEqual({ start: 1, end: 3 });
  expect(back.faces[0]!.boxes[0]).toEqual({ x: 0.1, y: 0.2, width: 0.3, height: 0.4, score: 0.9, smile: 0.5 });
});

describe('what the reading report and the people screen send', () => {
  it('sensitivities: the usual ones pass, impossible ones are named', () => {
    expect(check(RulesDto, readingDefaults).ok).toBe(true);
    expect(
      check(RulesDto, { ...readingDefaults, silence: { thresholdDb: -40, minSeconds: 0.5, padSeconds: 0.1 } }).ok,
    ).toBe(true);
    expect(
      check(RulesDto, { ...readingDefaults, silence: { thresholdDb: 'loud', minSeconds: 0.5, padSeconds: 0 } }),
    ).toMatchObject({ ok: false, problems: { 'silence.thresholdDb': expect.any(String) as string } });
    expect(check(RulesDto, { ...readingDefaults, camera: { ...readingDefaults.camera, shakyFrom: 2 } })).toMatchObject({
      problems: { 'camera.shakyFrom': expect.any(String) as string },
    });
    expect(check(RulesDto, {}).ok).toBe(false);
  });
  it('persons are named by their id, found ones by file and track', () => {
    const form = (person: string) => {
      const data = new FormData();
      data.set('intent', 'hide');
      data.set('person', person);
      return data;
    };
    const id = '0b0a7000-0000-4000-8000-000000000001';
    expect([id, `auto:${id}/12.0`].map((person) => check(PersonDto, form(person)).ok)).toEqual([true, true]);
    for (const wrong of ['', 'auto:', "'; drop table people", `${id}/../x`])
      expect(check(PersonDto, form(wrong)).ok).toBe(false);
  });
  it('a single parted appearance is a list as well', () => {
    const data = new FormData();
    for (const [key, value] of [
      ['intent', 'split'],
      ['person', '0b0a7000-0000-4000-8000-000000000001'],
      ['tracks', 'm/1.0'],
    ] as const)
      data.set(key, value);
    expect(check(PersonDto, data)).toMatchObject({ ok: true, value: { tracks: ['m/1.0'] } });
  });
  it('a reading range may be open at either end', () => {
    const data = new FormData();
    data.set('from', '2:00');
    data.set('to', '');
    expect(check(ReadingRangeDto, data)).toMatchObject({ ok: true, value: { from: 120, to: null } });
    data.set('to', 'soon');
    expect(check(ReadingRangeDto, data)).toMatchObject({
      ok: false,
      problems: { to: 'Give times as minutes and seconds, such as 58:30.' },
    });
  });
});

it('wraps whole pieces into lines, a piece longer than a line alone in its own', () => {
  const pieces = [10, 10, 15, 50, 5].map((length, index, all) => {
    const startSeconds = all.slice(0, index).reduce((sum, each) => sum + each, 0);
    return {
      id: String(index),
      media: 'm',
      name: '',
      track: 0,
      startFrame: 0,
      frames: 1,
      startSeconds,
      endSeconds: startSeconds + length,
      sourceSeconds: 0,
      samples: 1,
      gain: 1,
      speed: 1,
      clip: null,
      into: 0,
    };
  });
  expect(wrap(pieces, 30)).toEqual([[0, 1], [2], [3], [4]]);
});

it('reads lengths as people type them', () => {
  expect([lengthWords(151, 300), lengthWords(300.2, 300), lengthWords(172, 40)]).toEqual([
    '2:31 of 5:00',
    '5:00 of 5:00',
    '2:52, 2:12 over 0:40',
  ]);
  expect([parseLength('2:30'), parseLength('90'), parseLength('1:00:00'), parseLength(' 0:05 ')]).toEqual([
    150, 90, 3600, 5,
  ]);
  expect([parseLength('abc'), parseLength(''), parseLength('-5'), parseLength('1:2:3:4'), parseLength('0')]).toEqual([
    null,
    null,
    null,
    null,
    null,
  ]);
});

it('says no time left while one of the tasks has no pace yet', () => {
  const task = (state: string, endsIn: number | null, kind = 'read') =>
    ({
      id: '1',
      kind,
      title: '',
      state,
      progress: 0,
      secondsLeft: null,
      endsIn,
      sentence: null,
      subject: '',
      waits: null,
    }) as TaskLine;
  // They go on side by side: all is over when the last is.
  expect(timeLeftOf([task('running', 20), task('running', 10), task('done', null)])).toBe(20);
  expect(timeLeftOf([task('running', 20), task('running', null, 'glance')])).toBe(20);
  expect(timeLeftOf([task('running', 20), task('queued', null)])).toBeNull();
});

describe('what is said of waiting work', () => {
  it('names what it waits for, also in another project', () => {
    const running = { kind: 'read' as const, title: 'talk.mp4', project: 'Club night' };
    expect(waitingSentence({ count: 1, running, seconds: null }, 'Club night')).toBe('waits until “talk.mp4” is read');
    expect(waitingSentence({ count: 3, running, seconds: 130 }, 'Pond')).toBe(
      'waits until “talk.mp4” of “Club night” is read, and 2 more before it; begins in about 2:10',
    );
    expect(waitingSentence({ count: 2, running: null, seconds: null }, 'Pond')).toBe('waits for a worker; 2 before it');
  });
});

describe('what is said before a file is taken out', () => {
  it('names everything that goes with it, and nothing that does not', () => {
    expect(
      hangingLines({
        decisions: 1,
        markers: 2,
        words: 383,
        shorts: 5,
        montages: 0,
        variants: 3,
        reels: ['Cut', 'Selects'],
      }),
    ).toEqual([
      '1 keep or drop',
      '2 markers',
      '383 words corrected or brought in',
      '5 shorts that were found',
      '3 pieces of the variants',
      'pieces of “Cut”, “Selects”: the reels stay, and show nothing there',
    ]);
    expect(
      hangingLines({ decisions: 0, markers: 0, words: 0, shorts: 0, montages: 0, variants: 0, reels: [] }),
    ).toEqual([]);
  });
});

describe('a reading range', () => {
  // A file of 4:12, as it was found: 9:00 to 10:00 cost it its reading.
  it.each([
    [540, 600, /lasts 4:12\.0\. The range would begin after its end/],
    [60, 600, /The range would end after that/],
    [251.5, null, /at least a second/],
    [100, 100.4, /at least a second/],
    [252, null, /begin after its end/],
  ])('from %s to %s is refused', (from, to, sentence) =>
    expect(outside('talk.mp4', 252, from, to ?? Infinity)).toMatch(sentence),
  );
  it.each([
    [0, null],
    [60, 120],
    [0, 252],
    [250, 253],
  ])('from %s to %s is read', (from, to) => expect(outside('talk.mp4', 252, from, to ?? Infinity)).toBeNull());
});

it.each(
  Object.entries({
    ...keySets,
    pageWithScenes: [...keySets.page, ...keySets.scenes],
    reelWithAnother: [...keySets.reel, ...keySets.twoReels],
  }),
)('no two shortcuts share a key: %s', (_, names) => {
  const keys = names.flatMap((name) => shortcuts[name].keys.split(','));
  expect(keys.filter((key, index) => keys.indexOf(key) !== index)).toEqual([]);
});
it('every shortcut stands in the sheet', () =>
  expect(Object.keys(shortcuts).sort()).toEqual([...new Set<string>(Object.values(keySets).flat())].sort()));

describe('keeps and drops', () => {
  const decided = [
    { id: 'd1', media: 'a', start: 2, end: 6, verdict: 'keep' as const },
    { id: 'd2', media: 'b', start: 2, end: 6, verdict: 'keep' as const },
  ];
  it('what was decided inside gives way, other files are left alone', () => {
    expect(decideRange(decided, 'a', { start: 4, end: 9 }, 'drop', 'n')).toEqual([
      ['decision:d1', null],
      ['decision:n', { id: 'n', media: 'a', start: 4, end: 9, verdict: 'drop' }],
    ]);
    expect(decideRange(decided, 'a', { start: 6, end: 9 }, 'drop', 'n')).toHaveLength(1);
  });
  it('the same again takes it back', () =>
    expect(decideRange(decided, 'a', { start: 2.01, end: 6 }, 'keep', 'n')).toEqual([['decision:d1', null]]));
});

describe('the address', () => {
  it('holds what the page shows; nonsense is passed over', () => {
    expect(
      readAddress(new URLSearchParams('view=silence&show=shaky&bin=b1&order=score&line=90&ask=two+boats&panel=found')),
    ).toEqual({
      view: 'silence',
      show: 'shaky',
      bin: 'b1',
      order: 'score',
      person: null,
      ask: 'two boats',
      secondsPerLine: 90,
      panel: 'found',
    });
    expect(readAddress(new URLSearchParams('view=hat&show=hat&line=3&order=hat&panel=hat'))).toEqual({
      view: 'page',
      show: 'all',
      bin: null,
      order: 'order',
      person: null,
      ask: '',
      secondsPerLine: null,
      panel: 'why',
    });
  });
  it('a place is the same frame under another filter and order', () => {
    const all = new StringOut([
      { id: 'a', seconds: 30 },
      { id: 'b', seconds: 20 },
    ]);
    const some = new StringOut([
      { id: 'b', start: 5, seconds: 10 },
      { id: 'a', start: 8, seconds: 4 },
    ]);
    const link = writePlace(all, 9.5)!;
    expect(readPlace(all, link)).toBe(9.5);
    expect(some.locate(readPlace(some, link)!)).toEqual({ index: 1, id: 'a', seconds: 9.5 });
    expect([readPlace(all, null), readPlace(all, 'a~x'), readPlace(all, 'zz~3')]).toEqual([null, null, null]);
  });
  it('seconds a line go by steps, from 10 s to 10 min', () => {
    expect([
      nextLineStep(40, 1),
      nextLineStep(40, -1),
      nextLineStep(47, 1),
      nextLineStep(600, 1),
      nextLineStep(10, -1),
    ]).toEqual([60, 30, 60, 600, 10]);
  });
});

it('says the tempo of a song, how sure it is, or that there is none', () => {
  expect([tempoWords(112, 4, true), tempoWords(125.94, 4, false), tempoWords(0, 4, true)]).toEqual([
    '112.0 bpm · 4 beats a bar',
    '125.9 bpm, not sure',
    'no beats heard',
  ]);
});
