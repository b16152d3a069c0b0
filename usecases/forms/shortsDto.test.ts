import { describe, expect, it } from 'vitest';
import { check } from '#usecases/validate';
import { FramingDto, ShortsChangeDto, ShortsWishDto } from './shortsDto';

const id = '0b0a7000-0000-4000-8000-000000000001';
const form = (values: Record<string, string>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(values)) data.set(name, value);
  return data;
};
const wish = {
  media: id,
  count: '5',
  minSeconds: '15',
  maxSeconds: '45',
  material: '',
  form: 'stretch',
  cutPauses: 'on',
  from: '',
  to: '',
  request: '  the boat sinks ',
  shape: '9:16',
  houseStyle: '',
};

describe('what shorts are wished for', () => {
  it('comes out of a form with numbers, choices and nothing where nothing was chosen', () => {
    const checked = check(ShortsWishDto, form(wish));
    expect(checked.ok && { ...checked.value }).toEqual({
      media: id,
      count: 5,
      minSeconds: 15,
      maxSeconds: 45,
      material: null,
      form: 'stretch',
      cutPauses: true,
      cutRepeats: false,
      from: null,
      to: null,
      request: 'the boat sinks',
      shape: '9:16',
      houseStyle: null,
    });
    expect(
      check(ShortsWishDto, form({ ...wish, from: '125.5', to: '900', material: 'sport', houseStyle: id })),
    ).toMatchObject({ ok: true, value: { from: 125.5, to: 900, material: 'sport', houseStyle: id } });
  });
  it.each([
    [{ media: 'x' }, 'Choose a recording.'],
    [{ count: '0' }, 'Give a number of shorts, 1 to 20.'],
    [{ count: '2.5' }, 'Give a number of shorts, 1 to 20.'],
    [{ count: '21' }, 'Give a number of shorts, 1 to 20.'],
    [{ minSeconds: 'two' }, 'Give a length in seconds.'],
    [{ minSeconds: '1' }, 'A short is at least 3 seconds long.'],
    [{ maxSeconds: '601' }, 'A short is at most ten minutes long.'],
    [{ from: 'soon' }, 'Give times as minutes and seconds, such as 2:00.'],
    [{ request: 'a'.repeat(301) }, 'A request has at most 300 characters.'],
  ])('%j is refused with a sentence', (over, sentence) => {
    const checked = check(ShortsWishDto, form({ ...wish, ...over }));
    expect(checked.ok ? null : Object.values(checked.problems)).toEqual([sentence]);
  });
  it.each([[{ shape: '2:1' }], [{ material: 'opera' }], [{ form: 'heap' }], [{ houseStyle: 'mine' }]])(
    '%j cannot be chosen',
    (over) => expect(check(ShortsWishDto, form({ ...wish, ...over })).ok).toBe(false),
  );
});

describe('changes of a set', () => {
  it('each has what it needs and no more', () => {
    expect(check(ShortsChangeDto, { intent: 'thumb', id: 'a', thumb: null })).toMatchObject({
      ok: true,
      value: { thumb: null },
    });
    expect(check(ShortsChangeDto, { intent: 'order', order: ['b', 'a'], extra: 1 })).toMatchObject({
      ok: true,
      value: { order: ['b', 'a'] },
    });
    expect(
      check(ShortsChangeDto, { intent: 'render', reels: [id], lines: '1080', pattern: '{n} {title}' }),
    ).toMatchObject({ ok: true, value: { lines: 1080 } });
  });
  it.each([
    [{ intent: 'thumb', id: 'a', thumb: 'sideways' }],
    [{ intent: 'order' }],
    [{ intent: 'render', reels: [] }],
    [{ intent: 'render', reels: ['x'] }],
    [{ intent: 'render', reels: [id], lines: 900 }],
    [{ intent: 'burn' }],
    [null],
  ])('%j is refused', (given) => expect(check(ShortsChangeDto, given).ok).toBe(false));
});

describe('a stretch to be framed', () => {
  const framing = {
    start: 1,
    end: 9,
    width: 1080,
    height: 1920,
    subject: 'auto',
    zoom: 1,
    keys: [{ seconds: 2, x: 0.5, y: 0.5 }],
  };
  it('follows what may be followed', () => {
    for (const subject of ['auto', 'fixed', 'stack', 'face:12.3', 'thing:2.00:0.250:0.500:potted plant'])
      expect(check(FramingDto, { ...framing, subject }).ok, subject).toBe(true);
    for (const subject of [
      '',
      'face:',
      'face:a b',
      'thing:2:0.25:0.5:boat',
      'thing:2.00:0.250:0.500:<b>',
      'everything',
    ])
      expect(check(FramingDto, { ...framing, subject }).ok, subject).toBe(false);
  });
  it.each([
    [{ zoom: 0.5 }],
    [{ width: 5000 }],
    [{ keys: [{ seconds: 2, x: 1.5, y: 0 }] }],
    [{ keys: Array.from({ length: 501 }, () => ({ seconds: 0, x: 0, y: 0 })) }],
    [{ start: -1 }],
  ])('%o is refused', (over) => expect(check(FramingDto, { ...framing, ...over }).ok).toBe(false));
});
