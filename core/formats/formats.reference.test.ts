import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { captionDefaults } from '#core/captions';
import type { Framing } from '#core/framing';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  mainTrack,
  musicDefaults,
  reelFrames,
  type Clip,
  type Reel,
  type ReelCommand,
  type ReelItem,
  type Source,
} from '#core/reel';
import { rates, type Rate } from '#core/time';
import { parseSubtitles, type Word } from '#core/words';
import {
  captionCues,
  FormatError,
  readEdl,
  readOtio,
  relink,
  wordsInReel,
  writeAss,
  writeChapters,
  writeEdl,
  writeOtio,
  writePieces,
  writeSrt,
  writeVtt,
  type SourceInfo,
} from '.';
import { reelNames } from './edlWrite';
import { notInEdl } from './losses';

const infos: SourceInfo[] = [
  { id: 'a', name: 'race day.mp4', hash: 'h1', durationSeconds: 100 },
  { id: 'b', name: 'race-day.mov', hash: 'h2', durationSeconds: 50 },
  { id: 'p', name: 'photo.jpg', hash: 'h3', durationSeconds: 0, photo: true },
];
const sources = new Map<string, Source>(infos.map((each) => [each.id, each]));
const make = (rate: Rate = rates['25']): Reel => {
  let next = 0;
  return assembleReel(
    'Pond, "best"',
    [
      { media: 'a', start: 2, end: 6, name: 'one' },
      { media: 'b', start: 10, end: 11.2, name: 'two' },
      { media: 'p', start: 0, end: 3, name: 'photo' },
    ],
    sources,
    rate,
    { width: 1280, height: 720 },
    () => `c${next++}`,
  );
};
const edited = (reel: Reel): Reel => {
  const lift = applyCommand(reel, { type: 'lift', clip: 'c1' }, sources);
  const above = lift.ok
    ? applyCommand(
        lift.reel,
        { type: 'put', how: 'above', at: 20, clips: [{ id: 'up', media: 'b', name: 'over', sourceIn: 5, frames: 30 }] },
        sources,
      )
    : lift;
  if (!above.ok) throw new Error(above.reason);
  return above.reel;
};
let made = 0;
const makeId = () => `n${made++}`;

describe('CMX 3600', () => {
  it('by hand: events, record time from one hour, names of eight letters', () => {
    expect(writeEdl(make(), infos).split('\r\n')).toEqual([
      'TITLE: Pond, "best"',
      'FCM: NON-DROP FRAME',
      '',
      '001  RACEDAY  B     C        00:00:02:00 00:00:06:00 01:00:00:00 01:00:04:00',
      '* FROM CLIP NAME: one',
      '* SOURCE FILE: race day.mp4',
      '',
      '002  RACEDAY2 B     C        00:00:10:00 00:00:11:05 01:00:04:00 01:00:05:05',
      '* FROM CLIP NAME: two',
      '* SOURCE FILE: race-day.mov',
      '',
      '003  PHOTO    B     C        00:00:00:00 00:00:03:00 01:00:05:05 01:00:08:05',
      '* FROM CLIP NAME: photo',
      '* SOURCE FILE: photo.jpg',
      '',
      '* REEL: 1280X720 AT 25/1',
      '',
    ]);
    expect([...reelNames(infos).values()]).toEqual(['RACEDAY', 'RACEDAY2', 'PHOTO']);
  });
  it('drop-frame labels as in SMPTE ST 12-1: a minute at 29.97 ends at 01:00:59;29, the next label is 01:01:00;02', () => {
    let next = 0;
    const reel = assembleReel(
      'Drop',
      [
        { media: 'a', start: 0, end: 1800 / (30000 / 1001), name: 'minute' },
        { media: 'a', start: 0, end: 1, name: 'rest' },
      ],
      sources,
      rates['29.97'],
      { width: 2, height: 2 },
      () => `c${next++}`,
    );
    const text = writeEdl(reel, infos, { drop: true });
    expect(text).toContain('FCM: DROP FRAME');
    expect(text).toContain('01:00:00;00 01:01:00;02');
    expect(text).toContain('01:01:00;02 01:01:01;02');
    expect(() => writeEdl(make(), infos, { drop: true })).toThrow(/29\.97/);
  });
  it('what lies above is seen in V events, the sound stays in A events', () => {
    const text = writeEdl(edited(make()), infos);
    expect(text.match(/^\d{3} .*$/gm)!.map((line) => line.slice(5, 19).trim().replace(/\s+/g, ' '))).toEqual([
      'RACEDAY V',
      'RACEDAY2 V',
      'RACEDAY V',
      'BL V',
      'PHOTO V',
      'RACEDAY A',
      'PHOTO A',
    ]);
  });
  it.each(['23.976', '24', '25', '29.97', '30', '50', '59.94', '60'] as const)(
    'comes back as it went, at %s',
    (name) => {
      const reel = make(rates[name]);
      const { reel: back, missing } = relink(readEdl(writeEdl(reel, infos), reel.rate, makeId), infos);
      expect(missing).toEqual([]);
      expect(clipsOf(back).map(({ id: _, ...clip }) => clip)).toEqual(clipsOf(reel).map(({ id: _, ...clip }) => clip));
    },
  );
  it('comes back with its size, its rate, its levels and what is not heard, whatever rate is asked', () => {
    const reel: Reel = { ...make(rates['29.97']), size: { width: 1080, height: 1920 } };
    const [one, two, three] = mainTrack(reel).items as [Clip, Clip, Clip];
    reel.tracks = [{ ...mainTrack(reel), items: [{ ...one, levelDb: -6 }, { ...two, muted: true }, three] }];
    const text = writeEdl(reel, infos);
    expect(text.match(/^\d{3} .*$/gm)!.map((line) => line.slice(14, 15))).toEqual(['B', 'V', 'B']);
    const back = readEdl(text, rates['25'], makeId);
    expect([back.size, back.rate]).toEqual([reel.size, reel.rate]);
    expect(back.tracks[0]!.items).toMatchObject([{ levelDb: -6 }, { muted: true }, {}]);
    expect(back.tracks[0]!.items[2]).not.toHaveProperty('muted');
    // A rate or a size that nothing can have is passed over.
    const spoilt = text.replace('1080X1920 AT 30000/1001', '1080X1920 AT 30000/1');
    expect(readEdl(spoilt, rates['25'], makeId).rate).toEqual(rates['25']);
  });
  it('what it cannot hold is said, and stands in it as comments', () => {
    const plain = make();
    expect(notInEdl(plain)).toEqual([]);
    const [one, two, ...rest] = mainTrack(plain).items as Clip[];
    const reel: Reel = {
      ...plain,
      titles: [{ id: 't', kind: 'opening', frame: 0, frames: 50, text: 'Pond' }],
      music: { ...musicDefaults, media: 'song', name: 'Paper\nsails' },
      markers: [
        { id: 'm', frame: 3, note: '' },
        { id: 'n', frame: 9, note: '' },
      ],
      tracks: [{ ...mainTrack(plain), items: [{ ...one!, fadeIn: 12 }, { ...two!, fit: 'fill' }, ...rest] }],
    };
    const losses = [
      '1 title',
      'the music “Paper\nsails”',
      '2 markers',
      'the framing of 1 piece',
      'the fades of 1 piece',
    ];
    expect(notInEdl(reel)).toEqual(losses);
    const text = writeEdl(reel, infos);
    expect(text.split('\r\n').filter((line) => line.startsWith('* NOT IN THIS LIST: '))).toHaveLength(5);
    expect(text).toContain('* NOT IN THIS LIST: the music “Paper sails”');
  });
  it('reads lists of others: gaps, drop frame said at the top only, dissolves told about, sound under its picture', () => {
    const text =
      'TITLE: OLD LIST\nFCM: DROP FRAME\n\n001  TAPE1    V     C        00:00:01:00 00:00:02:00 01:00:00:00 01:00:01:00\n* FROM CLIP NAME: RACE DAY\n002  TAPE1    V     D    015 00:00:05:00 00:00:07:00 01:00:02:00 01:00:04:00\n* FROM CLIP NAME: nobody.mp4\n003  TAPE1    A     C        00:00:05:00 00:00:07:00 01:00:02:00 01:00:04:00\n';
    const foreign = readEdl(text, rates['29.97'], makeId);
    expect(foreign.left).toEqual(['Line 6: a dissolve became a cut.']);
    // The second picture has its sound under it, the first has none.
    expect(foreign.tracks).toHaveLength(1);
    expect(foreign.tracks[0]!.items.map((item) => (item.kind === 'clip' ? (item.muted ?? false) : null))).toEqual([
      true,
      null,
      false,
    ]);
    const { reel, missing } = relink(foreign, infos);
    expect(reel.tracks[0]!.items.map((item) => [item.kind, item.frames])).toEqual([
      ['clip', 30],
      ['gap', 30],
      ['gap', 60],
    ]);
    expect(missing).toEqual(['nobody.mp4']);
    expect(clipsOf(relink(foreign, infos, { 'nobody.mp4': 'b' }).reel).map((clip) => clip.media)).toEqual(['a', 'b']);
  });
  it('sound that is cut apart from its picture: a split edit, and a second channel', () => {
    // The sound of the second piece begins half a second before its picture (an L cut, worked by hand), music lies on channel 2.
    const text =
      'TITLE: SPLIT\n001  ONE  V  C  00:00:01:00 00:00:03:00 01:00:00:00 01:00:02:00\n* FROM CLIP NAME: RACE DAY\n002  ONE  V  C  00:00:10:00 00:00:12:00 01:00:02:00 01:00:04:00\n* FROM CLIP NAME: RACE DAY\n003  ONE  A  C  00:00:01:00 00:00:02:12 01:00:00:00 01:00:01:12\n* FROM CLIP NAME: RACE DAY\n004  ONE  A  C  00:00:09:12 00:00:12:00 01:00:01:12 01:00:04:00\n* FROM CLIP NAME: RACE DAY\n005  ONE  A2  C  00:00:20:00 00:00:21:00 01:00:01:00 01:00:02:00\n* FROM CLIP NAME: RACE DAY\n';
    const foreign = readEdl(text, rates['25'], makeId);
    expect(foreign.left).toEqual([]);
    const items = (index: number) =>
      foreign.tracks[index]!.items.map((item) =>
        item.kind === 'gap' ? item.frames : [item.sourceIn, item.frames, item.muted ?? false],
      );
    expect(foreign.tracks.map((track) => track.kind)).toEqual(['picture', 'sound', 'sound']);
    expect(items(0)).toEqual([
      [25, 50, true],
      [250, 50, true],
    ]);
    expect(items(1)).toEqual([
      [25, 37, false],
      [237, 63, false],
    ]);
    expect(items(2)).toEqual([25, [500, 25, false]]);
  });
  it('a list without any sound events leaves the pictures their own', () => {
    const foreign = readEdl('001  ONE  V  C  00:00:01:00 00:00:03:00 01:00:00:00 01:00:02:00\n', rates['25'], makeId);
    expect(foreign.tracks[0]!.items[0]).not.toHaveProperty('muted');
  });
  it.each([
    ['hello', /No event was found/],
    ['001  TAPE  V  C  00:00:01:00 00:00:04:00 01:00:00:00', /Line 1 begins like an event/],
    ['TITLE: x\n001  TAPE  V  C  00:00:01:00 00:00:04:00 01:00:00:00 01:00:03:77', /Line 2: .*out of range/],
    [
      '001  T  V  C  00:00:01:00 00:00:04:00 01:00:00:00 01:00:03:00\n002  T  V  C  00:00:01:00 00:00:04:00 01:00:02:00 01:00:05:00',
      /Line 2: .*before the one in front/,
    ],
    ['001  T  A  C  00:00:01:00 00:00:04:00 01:00:00:00 01:00:03:00', /sound events only/],
  ])('refuses with a sentence: %s', (text, sentence) =>
    expect(() => readEdl(text, rates['25'], makeId)).toThrow(sentence),
  );
});

describe('OpenTimelineIO', () => {
  it('loses nothing on the way out and in: ids, gaps, tracks above, exact rate, size', () => {
    for (const rate of [rates['25'], rates['29.97'], rates['23.976']]) {
      const reel = edited(make(rate));
      const foreign = readOtio(writeOtio(reel, infos), makeId);
      expect(foreign.left).toEqual([]);
      expect(relink(foreign, infos)).toEqual({ reel, missing: [] });
    }
  });
  it('is what the published schema asks for: schema names, a stack of tracks, time as rate and value', () => {
    const document = JSON.parse(writeOtio(make(), infos)) as {
      OTIO_SCHEMA: string;
      tracks: {
        OTIO_SCHEMA: string;
        children: { OTIO_SCHEMA: string; kind: string; children: Record<string, unknown>[] }[];
      };
    };
    expect([
      document.OTIO_SCHEMA,
      document.tracks.OTIO_SCHEMA,
      ...document.tracks.children.map((track) => `${track.OTIO_SCHEMA} ${track.kind}`),
    ]).toEqual(['Timeline.1', 'Stack.1', 'Track.1 Video', 'Track.1 Audio']);
    expect(document.tracks.children[0]!.children[1]).toMatchObject({
      OTIO_SCHEMA: 'Clip.2',
      name: 'two',
      source_range: {
        OTIO_SCHEMA: 'TimeRange.1',
        start_time: { OTIO_SCHEMA: 'RationalTime.1', rate: 25, value: 250 },
        duration: { rate: 25, value: 30 },
      },
      active_media_reference_key: 'DEFAULT_MEDIA',
      media_references: {
        DEFAULT_MEDIA: {
          OTIO_SCHEMA: 'ExternalReference.1',
          target_url: 'race-day.mov',
          available_range: { duration: { value: 1250 } },
        },
      },
    });
  });
  it('finds a renamed file by its content, and a moved one by its name', () => {
    const text = writeOtio(make(), infos);
    const renamed = infos.map((info) => (info.id === 'a' ? { ...info, name: 'other.mp4' } : { ...info, hash: 'new' }));
    expect(relink(readOtio(text, makeId), renamed).missing).toEqual([]);
  });
  it('reads documents of others: Clip.1, nested stacks, transitions, timecode that does not begin at zero', () => {
    const time = (value: number, rate = 24) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });
    const range = (start: number, frames: number, rate = 24) => ({
      OTIO_SCHEMA: 'TimeRange.1',
      start_time: time(start, rate),
      duration: time(frames, rate),
    });
    const text = JSON.stringify({
      OTIO_SCHEMA: 'SerializableCollection.1',
      children: [
        {
          OTIO_SCHEMA: 'Timeline.1',
          name: 'foreign',
          tracks: {
            OTIO_SCHEMA: 'Stack.1',
            children: [
              {
                OTIO_SCHEMA: 'Track.1',
                kind: 'Video',
                name: 'V1',
                children: [
                  {
                    OTIO_SCHEMA: 'Clip.1',
                    name: 'c',
                    source_range: range(86424, 48),
                    media_reference: {
                      OTIO_SCHEMA: 'ExternalReference.1',
                      target_url: 'file:///footage/race%20day.mp4',
                      available_range: range(86400, 2400),
                    },
                  },
                  { OTIO_SCHEMA: 'Transition.1', in_offset: time(6), out_offset: time(6) },
                  { OTIO_SCHEMA: 'Stack.1', name: 'nest', source_range: range(0, 12), children: [] },
                  {
                    OTIO_SCHEMA: 'Clip.1',
                    name: 'd',
                    source_range: range(30, 30, 30),
                    media_reference: { OTIO_SCHEMA: 'MissingReference.1', name: 'lost' },
                  },
                ],
              },
              { OTIO_SCHEMA: 'Track.1', kind: 'Audio', name: 'A1', children: [] },
            ],
          },
        },
      ],
    });
    const foreign = readOtio(text, makeId);
    expect(foreign).toMatchObject({ name: 'foreign', rate: { num: 24, den: 1 } });
    expect(foreign.left).toEqual([
      expect.stringMatching(/Transitions become cuts \(item 2/),
      expect.stringMatching(/Stack.1 became a gap \(item 3/),
    ]);
    const { reel, missing } = relink(foreign, infos);
    expect(
      reel.tracks[0]!.items.map((item) => [item.kind, item.frames, item.kind === 'clip' ? item.sourceIn : null]),
    ).toEqual([
      ['clip', 48, 24],
      ['gap', 12, null],
      ['gap', 24, null],
    ]);
    expect(missing).toEqual(['lost']);
  });
  it.each([
    ['{"OTIO_SCHEMA": "Timeline.1"', /not a whole OpenTimelineIO file/],
    ['{"a": 1}', /no timeline/],
    ['{"OTIO_SCHEMA": "Timeline.1", "name": "t", "tracks": {"children": []}}', /no picture track/],
    [
      '{"OTIO_SCHEMA": "Timeline.1", "tracks": {"children": [{"OTIO_SCHEMA": "Track.1", "kind": "Video", "children": []}]}}',
      /at what rate/,
    ],
    [
      '{"OTIO_SCHEMA": "Timeline.1", "metadata": {"bright_reel": {"rate": {"num": 25, "den": 1}}}, "tracks": {"children": [{"OTIO_SCHEMA": "Track.1", "name": "V", "kind": "Video", "children": [{"OTIO_SCHEMA": "Clip.2", "name": "x", "source_range": {"start_time": {"rate": 25}, "duration": {}}}]}]}}',
      /start_time of the item 1 of track “V” is not a RationalTime/,
    ],
  ])('refuses with a sentence: %s', (text, sentence) => {
    expect(() => readOtio(text, makeId)).toThrow(FormatError);
    expect(() => readOtio(text, makeId)).toThrow(sentence);
  });
});

/** Everything a reel can hold, on the two pieces of footage of `make`. */
const finished = (): Reel => {
  const commands: ReelCommand[] = [
    { type: 'speed', clip: 'c1', percent: 50 },
    { type: 'transition', clip: 'c1', into: { kind: 'dissolve', frames: 12 } },
    { type: 'transition', clip: 'c2', into: { kind: 'wipe', frames: 10 } },
    { type: 'hold', clip: 'c2', at: 0, frames: 5, newId: 'h' },
    { type: 'detach', clip: 'c0', newId: 's' },
    { type: 'sound', clip: 's', levelDb: -3 },
    { type: 'put', how: 'sound', at: 60, clips: [{ id: 'x', media: 'b', name: 'more', sourceIn: 100.25, frames: 40 }] },
    { type: 'fade', clip: 'c2', edge: 'out', frames: 8 },
    { type: 'look', clip: 'c0', look: { exposure: 0.1, contrast: 0, saturation: 0, temperature: 0, named: 'Ember' } },
    { type: 'fit', clip: null, fit: 'blur' },
    { type: 'steady', clip: 'c0', steady: { position: 0.4, rotation: 0.2, scale: 0, edges: 'fill' } },
    {
      type: 'stillMove',
      clip: 'c2',
      move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 } },
    },
    { type: 'mark', marker: { id: 'm', frame: 33, note: 'splash' } },
    { type: 'title', title: { id: 't', kind: 'lower', frame: 10, frames: 50, text: 'The pond' } },
    {
      type: 'music',
      music: {
        media: 'b',
        name: 'song',
        levelDb: -12,
        startSeconds: 1,
        duckDb: 9,
        sinkSeconds: 0.2,
        riseSeconds: 0.6,
        fadeInSeconds: 1,
        fadeOutSeconds: 2,
      },
    },
    { type: 'track', track: 1, locked: true },
  ];
  return commands.reduce((reel, command) => {
    const result = applyCommand(reel, command, sources);
    if (!result.ok) throw new Error(`${command.type}: ${result.reason}`);
    return result.reel;
  }, make());
};

describe('a finished reel', () => {
  it('comes back from OpenTimelineIO exactly: transitions, speeds, sounds, looks, titles, markers, music, framing, captions', () => {
    const framing: Framing = {
      subject: 'face:12.5',
      zoom: 1.4,
      keys: [{ seconds: 2, x: 0.3, y: 0.5 }],
      path: [
        [0, 0.5, 0.5],
        [2, 0.3, 0.5],
      ],
      follows: 'the speaker',
    };
    const made = finished();
    const framed = (item: ReelItem): ReelItem =>
      item.kind === 'clip' && item.id === 'c0' ? { ...item, framing, reason: '74 of 100: 2 faces, close' } : item;
    const tracks = made.tracks.map((track) => ({ ...track, items: track.items.map(framed) }));
    const reel: Reel = { ...made, tracks, captions: captionDefaults };
    const foreign = readOtio(writeOtio(reel, infos), makeId);
    expect(foreign.left).toEqual([]);
    expect(relink(foreign, infos)).toEqual({ reel, missing: [] });
  });
  it('uses the schema names of OpenTimelineIO for what it has names for', () => {
    const text = writeOtio(finished(), infos);
    for (const schema of ['Transition.1', 'LinearTimeWarp.1', 'FreezeFrame.1', 'Marker.2'])
      expect(text).toContain(`"OTIO_SCHEMA": "${schema}"`);
    expect(text).toContain('"transition_type": "SMPTE_Dissolve"');
  });
  it('metadata that was spoilt by hand is left out, the piece stays', () => {
    const text = writeOtio(finished(), infos)
      .replace('"exposure": 0.1', '"exposure": "bright"')
      .replace('"duckDb": 9', '"duckDb": null');
    const { reel } = relink(readOtio(text, makeId), infos);
    expect([clipsOf(reel)[0]!.look, reel.music, clipsOf(reel)[0]!.steady?.position]).toEqual([
      undefined,
      undefined,
      0.4,
    ]);
  });
  it('as CMX 3600: a dissolve is one event of two lines, speeds are M2 lines, other transitions comments', () => {
    const text = writeEdl(finished(), infos);
    const lines = text.split('\r\n');
    const dissolve = lines.findIndex((line) => / D {4}012 /.test(line));
    // By hand: the cut lies at 4 s, six frames of the dissolve before it; the first piece is left at its frame 150 − 6 = 144.
    expect(lines[dissolve - 1]).toBe('002  RACEDAY  V     C        00:00:05:19 00:00:05:19 01:00:03:19 01:00:03:19');
    expect(lines[dissolve]!.startsWith('002  RACEDAY2 V     D    012 00:00:09:22')).toBe(true);
    expect(lines[dissolve + 1]).toMatch(/^M2 {3}RACEDAY2 {4}12\.500/);
    expect(text).toContain('* EFFECT NAME: CROSS DISSOLVE');
    expect(text.match(/^\d{3} {2}\S+ +A\d? .*$/gm)!.length).toBeGreaterThan(1);
    const back = relink(readEdl(text, rates['25'], makeId), infos).reel;
    expect(
      back.tracks[0]!.items.map((item) => (item.kind === 'gap' ? item.frames : [item.frames, item.speed, item.into])),
    ).toEqual(
      finished().tracks[0]!.items.map((item) =>
        item.kind === 'gap' ? item.frames : [item.frames, item.speed, item.into],
      ),
    );
  });
});

describe('tables and captions, read back by ffmpeg', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-formats-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  const text =
    'Here we go again . The boats are on the water now and every one of them is made of nothing but cardboard and glue , so wish them luck .';
  const words: Word[] = text.split(' ').reduce<Word[]>((list, each, index) => {
    if (/^[.,]$/.test(each)) list.at(-1)!.text += each;
    else list.push({ text: each, start: index * 0.4, end: index * 0.4 + 0.35, confidence: 1 });
    return list;
  }, []);
  const cues = captionCues(words.map((word, index) => ({ ...word, media: 'a', index })));

  it('captions end with sentences, hold at most two rows of 42 letters, do not overlap, and say every word', () => {
    expect(cues[0]!.text).toBe('Here we go again.');
    expect(cues.map((cue) => cue.text).join(' ')).toBe(words.map((word) => word.text).join(' '));
    for (const [index, cue] of cues.entries()) {
      expect(cue.text.length).toBeLessThanOrEqual(84);
      expect(cue.end - cue.start).toBeLessThanOrEqual(7.01);
      if (index) expect(cue.start).toBeGreaterThanOrEqual(cues[index - 1]!.end);
    }
  });
  it.each(['srt', 'vtt', 'ass'] as const)('%s says the same to ffmpeg', (format) => {
    const file = join(folder, `captions.${format}`);
    writeFileSync(
      file,
      format === 'srt'
        ? writeSrt(cues)
        : format === 'vtt'
          ? writeVtt(cues)
          : writeAss(cues, { width: 1280, height: 720 }),
    );
    const back = parseSubtitles(execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'srt', '-']).toString());
    expect(back.map((cue) => cue.text)).toEqual(cues.map((cue) => cue.text));
    for (const [index, cue] of back.entries()) expect(Math.abs(cue.start - cues[index]!.start)).toBeLessThan(0.011);
  });
  it('names of speakers stand before the text, as voices, or in their field, and part captions', () => {
    const reel = assembleReel(
      'R',
      [{ media: 'a', start: 0, end: 60, name: 'x' }],
      sources,
      rates['25'],
      { width: 2, height: 2 },
      () => 'c',
    );
    const said = ['The', 'boats', 'are', 'out', 'there', 'again.'].map((text, index) => ({
      text,
      start: 1 + index * 0.3,
      end: 1.25 + index * 0.3,
      confidence: 1,
    }));
    // The captain says three words, somebody nobody knows the rest.
    const own = captionCues(
      wordsInReel(
        reel,
        () => said,
        (_, seconds) => (seconds < 1.9 ? { speaker: 'Captain <One>' } : {}),
      ),
    );
    expect(own.map(({ text, speaker }) => [speaker, text])).toEqual([
      ['Captain <One>', 'The boats are'],
      [undefined, 'out there again.'],
    ]);
    expect(writeSrt(own)).toContain('\nCaptain <One>: The boats are\n');
    expect(writeVtt(own)).toContain('\n<v Captain &lt;One&gt;>The boats are\n');
    expect(writeVtt(own)).toContain('\nout there again.\n');
    expect(writeAss(own, { width: 2, height: 2 })).toContain(',Default,Captain <One>,0,0,0,,The boats are');
  });
  it('words move with their pieces, and those that are cut off are left out', () => {
    let next = 0;
    const reel = assembleReel(
      'R',
      [
        { media: 'b', start: 0, end: 2, name: 'x' },
        { media: 'a', start: 1.2, end: 2, name: 'y' },
      ],
      sources,
      rates['25'],
      { width: 2, height: 2 },
      () => `c${next++}`,
    );
    const heard = wordsInReel(reel, (media) => (media === 'a' ? words : []));
    expect(heard.map((word) => word.text)).toEqual(['again.']);
    expect(heard[0]!.start).toBeCloseTo(2, 6);
    expect(reelFrames(reel)).toBe(70);
  });
  it('chapters are read by ffprobe', () => {
    const [sound, meta, film] = ['s.wav', 'c.txt', 'f.mka'].map((name) => join(folder, name)) as [
      string,
      string,
      string,
    ];
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'anullsrc', '-t', '9', sound]);
    writeFileSync(meta, writeChapters(make()));
    execFileSync('ffmpeg', ['-v', 'error', '-i', sound, '-i', meta, '-map_metadata', '1', '-c', 'copy', film]);
    const { chapters } = JSON.parse(
      execFileSync('ffprobe', ['-v', 'error', '-show_chapters', '-of', 'json', film]).toString(),
    ) as { chapters: { start_time: string; tags: { title: string } }[] };
    expect(chapters.map((chapter) => [Number(chapter.start_time), chapter.tags.title])).toEqual([
      [0, 'one'],
      [4, 'two'],
      [5.2, 'photo'],
    ]);
  });
  it('the table quotes as RFC 4180 says', () => {
    const reel = {
      ...make(),
      tracks: make().tracks.map((track) => ({
        ...track,
        items: track.items.map((item) => (item.kind === 'clip' ? { ...item, name: 'He said "go", then' } : item)),
      })),
    };
    expect(writePieces(reel, infos).split('\r\n')[1]).toBe(
      '1,Main,"He said ""go"", then",race day.mp4,00:00:02:00,00:00:06:00,00:00:00:00,00:00:04:00,4.000',
    );
  });
});
