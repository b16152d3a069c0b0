import { describe, expect, it } from 'vitest';
import { lookHz } from '#core/readings';
import { coveredSeconds, lengthOf, overlap } from '#core/time';
import {
  chooseAbove,
  chooseForTarget,
  cutPoints,
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  explainScore,
  ingredientNames,
  ingredientPhrases,
  layGround,
  leavesAt,
  reweigh,
  momentTitle,
  prepare,
  suggestedTarget,
  type ChoiceSettings,
  type Decision,
  type Footage,
  momentReason,
} from '.';
import { flawedStretches, shutOut } from './limits';
import { scoreCurve } from './score';
import { sentencesOf } from './talk';
import { footage, randomFootage } from './testFootage';

const settings: ChoiceSettings = { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength };

const ground = (of: Footage, decisions: Decision[] = [], with_: Partial<ChoiceSettings> = {}) =>
  layGround(prepare(of), { ...settings, ...with_ }, decisions);

describe('why a piece was picked, in one line', () => {
  const phrases = {
    people: '2 faces, close',
    talk: 'a few words',
    action: 'hardly anything moves',
    camera: 'still',
    sound: 'nothing loud but speech',
    picture: 'sharp, well lit',
  };
  it('names what gives most of its score, strongest first, and who chose it', () => {
    const shares = { people: 40, talk: 20, action: 1, camera: 3, sound: 0, picture: 10 };
    expect(momentReason({ score: 74.2, shares, kept: 'score' }, phrases)).toBe(
      '74 of 100: 2 faces, close; a few words; sharp, well lit',
    );
    expect(
      momentReason(
        { score: 0, shares: { ...shares, people: 0, talk: 0, action: 0, camera: 0, picture: 0 }, kept: 'hand' },
        phrases,
      ),
    ).toBe('kept by hand, 0 of 100');
  });
});

describe('score', () => {
  it('by hand: talk alone, a quarter of the weight, full: 100 * sqrt(1/4) = 50', () => {
    const prepared = prepare(footage(20, { speech: () => 1, sharpness: () => 0 }));
    const curve = scoreCurve(prepared, { people: 50, talk: 25, action: 25, camera: 0, sound: 0, picture: 0 });
    expect(curve[100]).toBeCloseTo(50, 3);
  });
  it('opens into shares that add up to it', () => {
    const prepared = prepare(randomFootage(3));
    const shares = explainScore(prepared, defaultMix, 10, 16, 61.5);
    expect(ingredientNames.reduce((sum, name) => sum + shares[name], 0)).toBeCloseTo(61.5, 6);
  });
  it('a heavier weight raises what it is about', () => {
    const prepared = prepare(footage(20, { motion: () => 0.8 }));
    expect(scoreCurve(prepared, { ...defaultMix, action: 100 })[50]).toBeGreaterThan(
      scoreCurve(prepared, { ...defaultMix, action: 20 })[50]!,
    );
  });
  it('says in words what it saw', () => {
    const prepared = prepare(
      footage(20, { faces: () => 2, faceArea: () => 0.1, speech: () => 1 }, [{ kind: 'speech', start: 0, end: 20 }]),
    );
    expect(ingredientPhrases(prepared, { start: 2, end: 8 })).toMatchObject({
      people: '2 faces, close',
      talk: 'somebody speaks throughout',
      action: 'hardly anything moves',
      camera: 'still',
    });
    expect(momentTitle(prepared, { start: 2, end: 8 })).toMatch(/talk/i);
  });
});

describe('limits', () => {
  const shaky = footage(20, {
    shake: (t) => (t >= 8 && t < 11 ? 0.8 : 0.1),
    exposure: (t) => (t >= 15 && t < 17 ? 0.01 : 1),
    sharpness: (t) => (t < 3 ? 0.1 : 0.9),
  });
  it('shut out shake (padded), blur and dark', () => {
    const flaws = flawedStretches(shaky, defaultLimits);
    expect(flaws.map((flaw) => flaw.kind)).toEqual(['shaky', 'blurred', 'dark']);
    expect(flaws[0]!.start).toBeCloseTo(7.85);
    expect(flaws[0]!.end).toBeCloseTo(11.15);
  });
  it('can be switched off one by one', () => {
    expect(flawedStretches(shaky, { shake: 1, blur: 0, dark: 0, frozen: false })).toEqual([]);
    expect(flawedStretches(shaky, { ...defaultLimits, shake: 0.85 }).map((flaw) => flaw.kind)).toEqual([
      'blurred',
      'dark',
    ]);
  });
  it('shut out fog and what is burnt out; clipped sound only when asked', () => {
    const hazy = footage(
      20,
      {
        contrast: (t) => (t >= 2 && t < 5 ? 0.02 : 0.2),
        white: (t) => (t >= 8 && t < 12 ? 0.8 : 0.1),
      },
      [
        { kind: 'clipped', start: 15, end: 17 },
        { kind: 'wind', start: 18, end: 20 },
      ],
    );
    const flaws = flawedStretches(hazy, defaultLimits);
    expect(flaws.map(({ kind, start, end }) => [kind, start, end])).toEqual([
      ['flat', 2, 5],
      ['white', 8, 12],
    ]);
    expect(flawedStretches(hazy, { ...defaultLimits, contrast: 0, white: 1, clipped: true, wind: true })).toEqual([
      { kind: 'clipped', start: 15, end: 17 },
      { kind: 'wind', start: 18, end: 20 },
    ]);
    // Choices that were saved before these limits were there let everything through.
    const { contrast: _, white: __, ...earlier } = defaultLimits;
    expect(flawedStretches(hazy, earlier)).toEqual([]);
  });
  it('let a whip pan through', () => {
    const whip = { ...shaky, runs: [{ kind: 'whip' as const, start: 8, end: 11 }] };
    expect(flawedStretches(whip, defaultLimits).map((flaw) => flaw.kind)).toEqual(['blurred', 'dark']);
  });
});

describe('choice', () => {
  it('properties over random footage: no piece cuts a sentence, none over a limit, none overlapping, lengths kept', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const of = randomFootage(seed);
      const own = ground(of);
      const spoken = sentencesOf(of, defaultPieceLength.maxSeconds);
      for (const target of [10, 30, 70]) {
        const { moments, seconds, threshold } = chooseForTarget([own], target);
        expect(seconds).toBeLessThanOrEqual(target + 1e-6);
        expect(threshold).toBeGreaterThanOrEqual(0);
        for (const [index, piece] of moments.entries()) {
          for (const run of spoken)
            for (const edge of [piece.start, piece.end])
              expect(edge > run.start + 1e-6 && edge < run.end - 1e-6).toBe(false);
          // A sentence may begin in shake that ends late.
          expect(coveredSeconds(piece, shutOut(own.flaws))).toBeLessThanOrEqual(0.7);
          expect(lengthOf(piece)).toBeGreaterThanOrEqual(2 - 1e-6);
          if (index) expect(piece.start).toBeGreaterThanOrEqual(moments[index - 1]!.end - 1e-6);
        }
      }
    }
  });

  it('keeps less when the water rises, and of a higher level nothing that a lower one has not', () => {
    const grounds = [1, 2, 3, 4].map((seed) => ground(randomFootage(seed)));
    let last = chooseAbove(grounds, 0);
    for (let water = 4; water <= 80; water += 4) {
      const now = chooseAbove(grounds, water);
      expect(now.seconds).toBeLessThanOrEqual(last.seconds + 1e-6);
      for (const moment of now.moments)
        expect(
          coveredSeconds(
            moment,
            last.moments.filter(({ media }) => media === moment.media),
          ),
        ).toBeCloseTo(lengthOf(moment), 6);
      last = now;
    }
  });

  it('reaches a target to 3 % and never goes over it, as long as there is enough', () => {
    const grounds = [1, 2, 3, 4].map((seed) => ground(randomFootage(seed)));
    for (const target of [10, 30, 60, 120]) {
      const { seconds } = chooseForTarget(grounds, target);
      expect(seconds).toBeLessThanOrEqual(target + 1e-6);
      expect(seconds).toBeGreaterThan(0.97 * target);
    }
    expect(chooseForTarget(grounds, 1000).seconds).toBeLessThan(360);
  });

  it('what is taken stands at or above the water, everything else under it', () => {
    const grounds = [1, 2, 3].map((seed) => ground(randomFootage(seed)));
    for (const choice of [chooseForTarget(grounds, 45), chooseAbove(grounds, 25)]) {
      expect(choice.worths.some(({ taken }) => taken)).toBe(true);
      for (const { worth, taken } of choice.worths)
        expect(taken ? worth >= choice.threshold : worth < choice.threshold).toBe(true);
    }
  });

  it('takes the same thing once: a second take loses to anything else', () => {
    const cells = 4;
    const shot = (id: string, shape: (t: number) => number, light: number): Footage => ({
      ...footage(20, { motion: (t) => shape(t - 8) }, [{ kind: 'scene', start: 0, end: 20 }], id),
      look: {
        hz: lookHz,
        cells,
        values: Float32Array.from({ length: 20 * lookHz * cells }, (_, i) => light * (1 + (i % cells) / 2)),
      },
    });
    const jump = (t: number) => (t > 0 && t < 2 ? 0.9 : t > 2 && t < 2.8 ? 0.5 : 0);
    const run = (t: number) => (t > -1 && t < 0 ? 0.3 : t > 0 && t < 1 ? 0.6 : t > 1 && t < 3 ? 0.95 : 0);
    const choose = (others: Footage[], decisions: Decision[] = []) =>
      chooseAbove(
        [shot('a', jump, 0.2), ...others].map((each) => ground(each, decisions, { mix: onlyAction })),
        25,
      );
    const taken = (others: Footage[]) => choose(others).moments.map(({ media }) => media);
    const onlyAction = { people: 0, talk: 0, action: 100, camera: 0, sound: 0, picture: 0 };
    expect(taken([shot('b', run, 0.4)])).toEqual(['a', 'b']);
    // A little later and a little slower, from the same place.
    const again = shot('b', (t) => jump((t - 1) * 0.9), 0.2);
    const { moments, doubles } = choose([again]);
    expect(moments).toHaveLength(1);
    // Which one was left out, and for which.
    expect(doubles).toMatchObject([{ of: { media: moments[0]!.media } }]);
    expect(doubles[0]!.media).not.toBe(moments[0]!.media);
    expect(overlap(doubles[0]!.of, moments[0]!)).toBeGreaterThan(1);
    // Kept by hand, the one that was left out is in, and the other is not.
    const { media, start, end } = doubles[0]!;
    const byHand = choose([again], [{ id: 'k', media, start, end, verdict: 'keep' }]);
    expect(byHand.moments).toMatchObject([{ media, start, end, kept: 'hand' }]);
    expect(byHand.doubles).toMatchObject([{ media: moments[0]!.media, of: { media } }]);
  });

  it('what was decided by hand survives every mix', () => {
    const of = randomFootage(5);
    const decisions: Decision[] = [
      { id: 'k', media: of.id, start: 3.3, end: 5.1, verdict: 'keep' },
      { id: 'd', media: of.id, start: 40, end: 60, verdict: 'drop' },
      { id: 'x', media: 'other', start: 0, end: 9, verdict: 'keep' },
    ];
    for (const talk of [0, 50, 100])
      for (const threshold of [0, 30, 100]) {
        const mix = { ...defaultMix, talk };
        const { moments } = chooseAbove([ground(of, decisions, { mix })], threshold);
        const kept = moments.filter((moment) => moment.kept === 'hand');
        expect(kept).toHaveLength(1);
        expect(kept[0]).toMatchObject({ start: 3.3, end: 5.1, decision: 'k' });
        for (const moment of moments) expect(overlap(moment, decisions[1]!)).toBeLessThan(1e-6);
        for (const moment of moments)
          if (moment.kept === 'score') expect(overlap(moment, decisions[0]!)).toBeLessThan(1e-6);
      }
  });

  it('tells at which level a moment goes, and at which another one comes in', () => {
    const grounds = [2, 3].map((seed) => ground(randomFootage(seed)));
    const choice = chooseAbove(grounds, 20);
    for (const moment of choice.moments) {
      const level = leavesAt(choice, moment)!;
      expect(level).toBeGreaterThanOrEqual(20);
      const isIn = (water: number) =>
        chooseAbove(grounds, water).moments.some(
          ({ media, start }) => media === moment.media && start === moment.start,
        );
      expect(isIn(level - 1e-6)).toBe(true);
    }
    const out = choice.worths
      .filter(
        ({ taken, media, ...range }) =>
          !taken &&
          coveredSeconds(
            range,
            choice.moments.filter((moment) => moment.media === media),
          ) === 0,
      )
      .sort((a, b) => b.worth - a.worth)[0]!;
    expect(leavesAt(choice, out)).toBe(out.worth);
    expect(out.worth).toBeLessThan(20);
  });

  it('keeps a single short clip whole rather than nothing', () => {
    const clip = footage(1.5, { faces: () => 1, faceArea: () => 0.1, motion: () => 0.8, bursts: () => 1 });
    expect(chooseForTarget([ground(clip)], 5).moments).toMatchObject([{ start: 0, end: 1.5 }]);
  });

  it('suggests about five minutes for thirteen (common practice, no source)', () => {
    expect(suggestedTarget(13 * 60)).toBeGreaterThanOrEqual(280);
    expect(suggestedTarget(13 * 60)).toBeLessThanOrEqual(310);
    expect(suggestedTarget(20)).toBe(15);
  });
});

it('another mix on the same ground chooses as if the ground were laid anew', () => {
  const of = randomFootage(4);
  const mix = { ...defaultMix, talk: 95, action: 5 };
  const anew = ground(of, [], { mix });
  const again = reweigh(ground(of), mix);
  expect([...again.curve]).toEqual([...anew.curve]);
  expect(chooseAbove([again], 25)).toEqual(chooseAbove([anew], 25));
});

it('whip pans are let through unless they are shut out, unread stretches never are', () => {
  const of = footage(20, {}, [
    { kind: 'whip', start: 5, end: 5.5 },
    { kind: 'unread', start: 12, end: 20 },
  ]);
  const kinds = (whips: boolean) =>
    flawedStretches(of, { shake: 1, blur: 0, dark: 0, frozen: false, whips }).map((flaw) => flaw.kind);
  expect([kinds(false), kinds(true)]).toEqual([['unread'], ['whip', 'unread']]);
});

it('cut points lie at scene boundaries and in pauses, at least 0.3 s apart', () => {
  const points = cutPoints(
    footage(12, {}, [
      { kind: 'scene', start: 0, end: 6 },
      { kind: 'scene', start: 6, end: 12 },
      { kind: 'speech', start: 2, end: 4 },
      { kind: 'speech', start: 4.2, end: 5 },
    ]),
    [],
  );
  expect(points[0]).toBe(0);
  expect(points.at(-1)).toBe(12);
  expect(points).toContain(6);
  expect(points.some((point) => point > 4 && point < 4.2)).toBe(true);
  expect(points.some((point) => (point > 2 && point < 4) || (point > 4.2 && point < 5))).toBe(false);
  for (let index = 1; index < points.length; index++) expect(points[index]! - points[index - 1]!).toBeGreaterThan(0.29);
});

it('a short stretch between two pieces is bridged, but never one that was dropped', () => {
  const runs = [
    { kind: 'speech' as const, start: 2, end: 6 },
    { kind: 'speech' as const, start: 6.7, end: 10 },
  ];
  const of = footage(12, { speech: (t) => ((t > 2 && t < 6) || (t > 6.7 && t < 10) ? 1 : 0) }, runs);
  const said = (decisions: Decision[]) =>
    chooseForTarget([ground(of, decisions, { piece: { ...defaultPieceLength, maxSeconds: 9 } })], 9).moments.filter(
      ({ kind }) => kind === 'talk',
    );
  expect(said([])).toMatchObject([{ kind: 'talk' }]);
  expect(lengthOf(said([])[0]!)).toBeGreaterThan(7.7);
  const dropped = { id: 'd', media: 'a', start: 6.3, end: 6.4, verdict: 'drop' as const };
  for (const moment of said([dropped])) expect(overlap(moment, dropped)).toBe(0);
  expect(said([dropped])).toHaveLength(2);
});
