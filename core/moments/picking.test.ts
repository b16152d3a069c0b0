import { describe, expect, it } from 'vitest';
import { lookHz } from '#core/readings';
import { coveredSeconds, lengthOf, totalLength } from '#core/time';
import {
  chooseAbove,
  cutPoints,
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  emptyBoard,
  findRemedies,
  fitLogistic,
  joinScene,
  layGround,
  layOut,
  leavesAt,
  examplesOf,
  learnPreference,
  markSilences,
  moveScene,
  partScene,
  photoFootage,
  prepare,
  proposeMix,
  readyMixes,
  reweigh,
  sceneCells,
  separate,
  separationChoice,
  tagScene,
  weightShares,
  withoutSilence,
  type Decision,
  type Footage,
  type SeparationChoice,
  type Mix,
  type Remedy,
} from '.';
import { isKeptAbove } from './choose';
import { flawedStretches } from './limits';
import { shownStretches, type FilterContext } from './filter';
import { footage, randomFootage } from './testFootage';

const settings = { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength };
const nothing: FilterContext = { moments: [], decisions: [], markers: new Map(), person: new Map(), found: new Map() };

function run<T>(generator: Generator<void, T>): T {
  for (;;) {
    const step = generator.next();
    if (step.done) return step.value;
  }
}

describe('what would bring it in', () => {
  const of = footage(60, { motion: (t) => (t > 10 && t < 13 ? 0.9 : 0), speech: (t) => (t > 30 && t < 40 ? 1 : 0) }, [
    { kind: 'speech', start: 30, end: 40 },
  ]);
  const mix: Mix = { people: 20, talk: 60, action: 10, camera: 20, sound: 20, picture: 10 };
  const ground = layGround(prepare(of), { ...settings, mix }, []);
  const moment = { start: 10, end: 13 };
  // A little over where it is in.
  const threshold = leavesAt(chooseAbove([ground], 0), { media: 'a', ...moment })! + 1;
  const isIn = (changed: Mix) =>
    coveredSeconds(moment, chooseAbove([reweigh(ground, changed)], threshold).moments) > lengthOf(moment) / 2;

  it('is true: with each remedy it is in, with a point less it is not', () => {
    expect(isIn(mix)).toBe(false);
    const remedies = run(findRemedies([ground], { media: 'a', ...moment }, mix, threshold));
    const action = remedies.find((each) => each.ingredient === 'action')!;
    expect(action.by).toBeGreaterThan(0);
    for (const { ingredient, by } of remedies) {
      expect(isIn({ ...mix, [ingredient]: mix[ingredient] + by })).toBe(true);
      expect(isIn({ ...mix, [ingredient]: mix[ingredient] + by - Math.sign(by) })).toBe(false);
    }
    // Talk has nothing to say about this moment: only less of it helps.
    expect(remedies.every((each) => each.ingredient !== 'talk' || each.by < 0)).toBe(true);
  });
  it('stops in between, and answers as the choice does for every mix', () => {
    const grounds = [1, 2, 3, 4, 5, 6].map((seed) => {
      const { footage: own } = prepare(randomFootage(seed));
      return layGround(prepare({ ...own, id: String(seed) }), settings, []);
    });
    const { threshold, worths } = chooseAbove(grounds, 25);
    let stops = 0;
    const said = worths
      .filter((_, index) => index % 40 === 0)
      .flatMap((asked) =>
        [0, 60, 100].map((talk) => {
          const changed = grounds.map((ground) => reweigh(ground, { ...defaultMix, talk }));
          const search = isKeptAbove(changed, threshold, asked);
          let step = search.next();
          for (; !step.done; step = search.next()) stops++;
          const own = chooseAbove(changed, threshold).moments.filter(({ media }) => media === asked.media);
          expect(step.value).toBe(coveredSeconds(asked, own) > lengthOf(asked) / 2);
          return step.value;
        }),
      );
    expect(new Set(said)).toEqual(new Set([true, false]));
    expect(stops).toBeGreaterThan(said.length);
  });
  it('says for what is in how it would go', () => {
    const high = { ...mix, action: 90 };
    const own = reweigh(ground, high);
    const remedies = run(findRemedies([own], { media: 'a', ...moment }, high, threshold)).filter(
      (each: Remedy) => each.ingredient === 'action',
    );
    expect(remedies).toHaveLength(1);
    expect(isIn({ ...high, action: 90 + remedies[0]!.by })).toBe(false);
  });
});

describe('learning', () => {
  it('fits the textbook example of hours of study and passing (20 students; intercept -4.08, weight 1.50; published example, values from memory)', () => {
    const hours = [0.5, 0.75, 1, 1.25, 1.5, 1.75, 1.75, 2, 2.25, 2.5, 2.75, 3, 3.25, 3.5, 4, 4.25, 4.5, 4.75, 5, 5.5];
    const passed = [0, 0, 0, 0, 0, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 1, 1, 1, 1, 1];
    const model = fitLogistic(
      hours.map((each) => [each]),
      passed.map(Boolean),
      0,
    );
    expect(model.intercept).toBeCloseTo(-4.0777, 3);
    expect(model.weights[0]).toBeCloseTo(1.5046, 3);
  });
  it('by hand: two examples a class at 0 and 1 give weight log(9) twice when 9 of 10 agree', () => {
    const rows = [...Array.from({ length: 10 }, () => [0]), ...Array.from({ length: 10 }, () => [1])];
    const labels = rows.map(([x], index) => (x ? index % 10 !== 0 : index % 10 === 0));
    const model = fitLogistic(rows, labels, 0);
    expect(model.intercept).toBeCloseTo(-Math.log(9), 6);
    expect(model.weights[0]).toBeCloseTo(2 * Math.log(9), 6);
  });
  const of = footage(100, { motion: (t) => (t < 50 ? 0.9 : 0.02), speech: (t) => (t < 50 ? 0 : 1) }, [
    { kind: 'speech', start: 50, end: 100 },
  ]);
  const prepared = [prepare(of)];
  const decided = (count: number): Decision[] =>
    Array.from({ length: count }, (_, index) => ({
      id: `d${index}`,
      media: 'a',
      start: (index % 2 ? 52 : 2) + index * 2,
      end: (index % 2 ? 52 : 2) + index * 2 + 2,
      verdict: index % 2 ? 'drop' : 'keep',
    }));

  it('who keeps motion and drops talk is offered more motion and less talk; ingredients that say nothing stay', () => {
    const preference = learnPreference(examplesOf(prepared, decided(12)))!;
    expect(preference).toMatchObject({ kept: 6, dropped: 6, agreement: 1 });
    const mix = proposeMix(preference, defaultMix);
    expect(mix.action).toBeGreaterThan(defaultMix.action + 15);
    expect(mix.talk).toBeLessThan(defaultMix.talk - 15);
    expect(Math.abs(mix.sound - defaultMix.sound)).toBeLessThan(3);
  });
  it('moves further the more it has seen, and not at all from one side only', () => {
    const few = proposeMix(learnPreference(examplesOf(prepared, decided(2)))!, defaultMix);
    const many = proposeMix(learnPreference(examplesOf(prepared, decided(20)))!, defaultMix);
    expect(many.action - defaultMix.action).toBeGreaterThan(few.action - defaultMix.action);
    expect(
      learnPreference(
        examplesOf(
          prepared,
          decided(12).filter((each) => each.verdict === 'keep'),
        ),
      ),
    ).toBeNull();
    expect(learnPreference(examplesOf(prepared, []))).toBeNull();
  });
  it('what was decided elsewhere teaches too, and what lies in files that are not there does not', () => {
    const here = examplesOf(
      prepared,
      decided(12).filter((each) => each.verdict === 'keep'),
    );
    expect(learnPreference(here)).toBeNull();
    const elsewhere = examplesOf(prepared, decided(12)).filter(({ kept }) => !kept);
    expect(learnPreference([...here, ...elsewhere])).toMatchObject({ kept: 6, dropped: 6 });
    expect(examplesOf([], decided(12))).toEqual([]);
  });
});

describe('steady and shaky', () => {
  const of = footage(30, {}, [
    { kind: 'shaky', start: 5, end: 8 },
    { kind: 'shaky', start: 9.5, end: 12 },
    { kind: 'whip', start: 20, end: 20.5 },
    { kind: 'unread', start: 28, end: 30 },
  ]);
  it('by hand: what is steady for less than two seconds goes with the shaky; unread is neither', () => {
    expect(separate(of)).toEqual({
      steady: [
        { start: 0, end: 5 },
        { start: 12, end: 28 },
      ],
      shaky: [{ start: 5, end: 12 }],
    });
  });
  it('whip pans go where the switch says', () => {
    const { steady, shaky } = separate(of, { ...separationChoice, whips: 'shaky' });
    expect(shaky).toContainEqual({ start: 20, end: 20.5 });
    expect(steady).toContainEqual({ start: 12, end: 20 });
  });
  it.each([1, 2, 3, 4])('loses nothing and shares nothing (random footage %i)', (seed) => {
    const file = randomFootage(seed);
    file.runs.push(
      { kind: 'shaky', start: 10 + seed, end: 13 + seed },
      { kind: 'shaky', start: 14.2 + seed, end: 30 },
      { kind: 'whip', start: 40, end: 40.6 },
    );
    for (const whips of ['steady', 'shaky'] as const) {
      const { steady, shaky } = separate(file, { ...separationChoice, whips });
      expect(totalLength(steady) + totalLength(shaky)).toBeCloseTo(file.durationSeconds, 9);
      for (const range of steady) expect(coveredSeconds(range, shaky)).toBe(0);
    }
  });
  it('more is taken at both ends, and less shake or more counts', () => {
    const shaking = footage(30, { shake: (t) => (t < 5 ? 0.2 : t < 8 ? 0.5 : t < 15 ? 0 : t < 20 ? 0.9 : 0) }, [
      { kind: 'shaky', start: 5, end: 8 },
      { kind: 'shaky', start: 15, end: 20 },
    ]);
    const shaky = (rule: Partial<SeparationChoice>) => separate(shaking, { ...separationChoice, ...rule }).shaky;
    expect(shaky({})).toEqual([
      { start: 5, end: 8 },
      { start: 15, end: 20 },
    ]);
    expect(shaky({ padSeconds: 1 })).toEqual([
      { start: 4, end: 9 },
      { start: 14, end: 21 },
    ]);
    // Only the second shakes by 0.7; with 0.15 the beginning shakes as well, and what lies between is led in.
    expect(shaky({ shakyFrom: 0.7 })).toEqual([{ start: 15, end: 20 }]);
    expect(shaky({ shakyFrom: 0.15 })[0]).toMatchObject({ start: 0, end: 8.15 });
    // Ten steady seconds at the end, seven in the middle.
    expect(shaky({ minSteadySeconds: 8 })).toEqual([{ start: 0, end: 20 }]);
  });
  it('a short file that does not shake is steady', () =>
    expect(separate(footage(1.5, {})).steady).toEqual([{ start: 0, end: 1.5 }]));
});

describe('silence', () => {
  const found = [
    { start: 2, end: 4 },
    { start: 8, end: 10 },
  ];
  it('by hand: what is kept stays, the rest goes', () => {
    const silences = markSilences(found, [{ start: 8.1, end: 9.9 }]);
    expect(silences.map((each) => each.kept)).toEqual([false, true]);
    expect(withoutSilence(12, silences)).toEqual([
      { start: 0, end: 2 },
      { start: 4, end: 12 },
    ]);
  });
  it('a silence that was kept stays kept when the threshold makes it longer or shorter', () => {
    expect(markSilences([{ start: 7.5, end: 10.6 }], [{ start: 8, end: 10 }])[0]!.kept).toBe(true);
    expect(markSilences([{ start: 8.4, end: 9.6 }], [{ start: 8, end: 10 }])[0]!.kept).toBe(true);
    expect(markSilences([{ start: 9.8, end: 14 }], [{ start: 8, end: 10 }])[0]!.kept).toBe(false);
  });
  it('as a limit, silence longer than allowed is shut out', () => {
    const of = footage(20, {}, [
      { kind: 'silence', start: 2, end: 3 },
      { kind: 'silence', start: 6, end: 10 },
    ]);
    const silent = (silence?: number) =>
      flawedStretches(of, { ...defaultLimits, ...(silence === undefined ? {} : { silence }) })
        .filter((flaw) => flaw.kind === 'silent')
        .map(({ start, end }) => ({ start, end }));
    expect([silent(), silent(0), silent(2), silent(0.5)]).toEqual([
      [],
      [],
      [{ start: 6, end: 10 }],
      [
        { start: 2, end: 3 },
        { start: 6, end: 10 },
      ],
    ]);
  });
});

it('what lies outside the default in and out points of a file is shut out', () => {
  const of: Footage = { ...randomFootage(5), wanted: { start: 20, end: 60 } };
  expect(
    flawedStretches(of, defaultLimits)
      .filter((flaw) => flaw.kind === 'outside')
      .map(({ start, end }) => [start, end]),
  ).toEqual([
    [0, 20],
    [60, 90],
  ]);
  for (const piece of chooseAbove([layGround(prepare(of), settings, [])], 0).moments)
    expect(piece.start >= 20 && piece.end <= 60).toBe(true);
});

describe('scenes', () => {
  const files = [
    footage(
      30,
      {},
      [
        { kind: 'scene', start: 0, end: 10 },
        { kind: 'scene', start: 10, end: 20 },
        { kind: 'scene', start: 20, end: 30 },
      ],
      'a',
    ),
    footage(12, {}, [{ kind: 'scene', start: 0, end: 12 }], 'b'),
  ];
  const shown = (board = emptyBoard) =>
    sceneCells(files, board).map(({ media, start, end }) => `${media} ${start}-${end}`);
  const cell = (key: string, board = emptyBoard) => sceneCells(files, board).find((each) => each.key === key)!;

  it('one cell a scene, in the order of the footage', () =>
    expect(shown()).toEqual(['a 0-10', 'a 10-20', 'a 20-30', 'b 0-12']));
  it('joins and parts, each the other way round', () => {
    const joined = joinScene(emptyBoard, cell('a@0.00'), 30);
    expect(shown(joined)).toEqual(['a 0-20', 'a 20-30', 'b 0-12']);
    expect(partScene(joined, cell('a@0.00', joined), 10)).toEqual(emptyBoard);
    const parted = partScene(emptyBoard, cell('b@0.00'), 5);
    expect(shown(parted)).toEqual(['a 0-10', 'a 10-20', 'a 20-30', 'b 0-5', 'b 5-12']);
    expect(joinScene(parted, cell('b@0.00', parted), 12)).toEqual(emptyBoard);
    expect(joinScene(emptyBoard, cell('a@20.00'), 30)).toBe(emptyBoard);
    expect(partScene(emptyBoard, cell('b@0.00'), 0.01)).toBe(emptyBoard);
  });
  it('orders by hand; what was not moved follows what it follows', () => {
    const moved = moveScene(emptyBoard, sceneCells(files, emptyBoard), 'b@0.00', 'a@10.00');
    expect(shown(moved)).toEqual(['a 0-10', 'b 0-12', 'a 10-20', 'a 20-30']);
    const parted = partScene(moved, cell('b@0.00', moved), 6);
    expect(shown(parted)).toEqual(['a 0-10', 'b 0-6', 'b 6-12', 'a 10-20', 'a 20-30']);
    expect(shown(moveScene(moved, sceneCells(files, moved), 'a@0.00', null)).at(-1)).toBe('a 0-10');
  });
  it('tags, and takes a tag off again', () => {
    const tagged = tagScene(emptyBoard, 'a@10.00', 'leaf');
    expect(sceneCells(files, tagged).map((each) => each.tag)).toEqual([null, 'leaf', null, null]);
    expect(tagScene(tagged, 'a@10.00', 'leaf').tags).toEqual({});
    expect(tagScene(tagged, 'a@10.00', 'plum').tags).toEqual({ 'a@10.00': 'plum' });
  });
});

describe('filters of the page', () => {
  const of = footage(30, {}, [
    { kind: 'speech', start: 3, end: 5 },
    { kind: 'speech', start: 5.2, end: 8 },
    { kind: 'shaky', start: 20, end: 25 },
  ]);
  const decisions: Decision[] = [
    { id: '1', media: 'a', start: 2, end: 6, verdict: 'drop' },
    { id: '2', media: 'b', start: 2, end: 6, verdict: 'keep' },
  ];
  const show = (name: Parameters<typeof shownStretches>[1], context: Partial<FilterContext> = {}) =>
    shownStretches(of, name, { ...nothing, ...context });
  it('shows what it names', () => {
    expect(show('all')).toEqual([{ start: 0, end: 30 }]);
    expect(show('talk')).toEqual([{ start: 3, end: 8 }]);
    expect(show('shaky')).toEqual([{ start: 20, end: 25 }]);
    expect(show('steady')).toEqual([
      { start: 0, end: 20 },
      { start: 25, end: 30 },
    ]);
    expect(show('dropped', { decisions })).toEqual([{ start: 2, end: 6 }]);
    expect(show('undecided', { decisions })).toEqual([
      { start: 0, end: 2 },
      { start: 6, end: 30 },
    ]);
    expect(show('marker', { markers: new Map([['a', [1, 29]]]) })).toEqual([
      { start: 0, end: 5 },
      { start: 27, end: 30 },
    ]);
    expect(show('person', { person: new Map([['a', [{ start: 4, end: 9 }]]]) })).toEqual([{ start: 4, end: 9 }]);
    expect(show('person')).toEqual([]);
  });
  it('lays them end to end', () => {
    expect(layOut([of], 'steady', nothing)).toEqual([
      { id: 'a', start: 0, seconds: 20 },
      { id: 'a', start: 25, seconds: 5 },
    ]);
  });
});

describe('photos', () => {
  const photo: Footage = {
    ...footage(1, { faces: () => 2, faceArea: () => 0.1, sharpness: () => 0.8 }),
    durationSeconds: 0,
    look: { hz: lookHz, cells: 2, values: Float32Array.of(0.1, 0.2) },
  };
  photo.traces = Object.fromEntries(
    Object.entries(photo.traces).map(([name, values]) => [name, values.slice(0, 1)]),
  ) as Footage['traces'];
  it('are picked whole or not at all, however long a piece may be', () => {
    const held = photoFootage(photo, 4);
    expect(cutPoints(held, [])).toEqual([0, 4]);
    const piece = { minSeconds: 1, preferredSeconds: 1, maxSeconds: 2 };
    const { moments } = chooseAbove([layGround(prepare(held), { ...settings, piece }, [])], 10);
    expect(moments).toMatchObject([{ start: 0, end: 4, kind: 'photo' }]);
    expect(held.look!.values).toHaveLength(16);
  });
  it('a sharp one with faces stands above a blurred one without', () => {
    const score = (of: Footage) => layGround(prepare(photoFootage(of)), settings, []).curve[20]!;
    const dull = {
      ...photo,
      traces: { ...photo.traces, faces: new Float32Array(1), sharpness: new Float32Array(1).fill(0.2) },
    };
    expect(score(photo)).toBeGreaterThan(score(dull) + 20);
  });
});

it('ready mixes point at different footage, and no two are alike', () => {
  const strongest = readyMixes.map(({ mix }) => Object.entries(weightShares(mix)).sort((a, b) => b[1] - a[1])[0]![0]);
  expect(strongest).toEqual(['talk', 'action', 'camera', 'people']);
});
