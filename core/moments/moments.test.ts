import { describe, expect, it } from 'vitest';
import { lookHz } from '#core/readings';
import { coveredSeconds, lengthOf, overlap, type Range } from '#core/time';
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
  type Decision,
  type Footage,
  momentReason,
} from '.';
import { choosePieces, nearPoints, type ChoiceSettings } from './choose';
import { flawedStretches } from './limits';
import { scoreCurve } from './score';
import { footage, hz, randomFootage } from './testFootage';

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
  it('let a whip pan through', () => {
    const whip = { ...shaky, runs: [{ kind: 'whip' as const, start: 8, end: 11 }] };
    expect(flawedStretches(whip, defaultLimits).map((flaw) => flaw.kind)).toEqual(['blurred', 'dark']);
  });
});

describe('choice', () => {
  it('finds the same best set as trying all of them', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const own = ground(randomFootage(seed, 24));
      // Without looks and with pieces far apart the likeness cost is part of both; compare by value over cut points.
      const points = own.points.filter((_, index) => index % 2 === 0).slice(0, 11);
      const small = { ...own, points, near: nearPoints(own.prepared.footage, points) };
      const threshold = 25;
      const value = (pieces: Range[]) =>
        pieces.reduce((sum, piece, index) => {
          const integral = (own.sums[Math.round(piece.end * hz)]! - own.sums[Math.round(piece.start * hz)]!) / hz;
          const octaves = Math.log2(lengthOf(piece) / 6);
          const gap = index ? piece.start - pieces[index - 1]!.end : 99;
          return (
            sum +
            integral -
            threshold * lengthOf(piece) -
            25 -
            (octaves > 0 ? 45 : 10) * octaves * octaves -
            45 * Math.min(1, Math.max(0, 1 - gap / 8))
          );
        }, 0);
      let best = 0;
      const search = (from: number, chosen: Range[]) => {
        best = Math.max(best, value(chosen));
        for (let p = from; p < points.length; p++)
          for (let q = p + 1; q < points.length; q++) {
            const piece = { start: points[p]!, end: points[q]! };
            if (
              lengthOf(piece) >= 2 &&
              lengthOf(piece) <= 20 &&
              own.shut.every((range) => overlap(range, piece) < 1e-6)
            )
              search(q, [...chosen, piece]);
          }
      };
      search(0, []);
      expect(value(choosePieces(small, threshold))).toBeCloseTo(best, 6);
    }
  });

  it('properties over random footage: no piece inside a word, none over a limit, none overlapping, lengths kept', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const of = randomFootage(seed);
      const own = ground(of);
      for (const threshold of [5, 20, 40]) {
        const pieces = choosePieces(own, threshold);
        for (const [index, piece] of pieces.entries()) {
          for (const run of of.runs)
            if (run.kind === 'speech')
              for (const edge of [piece.start, piece.end])
                expect(edge > run.start + 1e-9 && edge < run.end - 1e-9).toBe(false);
          expect(coveredSeconds(piece, own.shut)).toBeLessThan(1e-6);
          expect(lengthOf(piece)).toBeGreaterThanOrEqual(2 - 1e-6);
          if (index) expect(piece.start).toBeGreaterThanOrEqual(pieces[index - 1]!.end);
        }
      }
    }
  });

  it('keeps less when the threshold rises, and never more than the target', () => {
    const grounds = [1, 2, 3, 4].map((seed) => ground(randomFootage(seed)));
    let last = Infinity;
    for (let threshold = 0; threshold <= 80; threshold += 4) {
      const { seconds } = chooseAbove(grounds, defaultMix, threshold);
      expect(seconds).toBeLessThanOrEqual(last + 1e-6);
      last = seconds;
    }
    for (const target of [10, 30, 60, 120, 1000])
      expect(chooseForTarget(grounds, defaultMix, target).seconds).toBeLessThanOrEqual(target + 1e-6);
    expect(chooseForTarget(grounds, defaultMix, 60).seconds).toBeGreaterThan(45);
  });

  it('near-identical neighbours do not both win: a look-alike close by loses to another picture', () => {
    const same = footage(26, { speech: (t) => ((t > 2 && t < 8) || (t > 9 && t < 15) ? 1 : 0) }, [
      { kind: 'speech', start: 2, end: 8 },
      { kind: 'speech', start: 9, end: 15 },
    ]);
    const cells = 4;
    const look = (other: number) => ({
      hz: lookHz,
      cells,
      values: Float32Array.from({ length: 26 * lookHz * cells }, (_, i) => (i / cells / lookHz > 8.5 ? other : 0.2)),
    });
    const weights = { people: 0, talk: 100, action: 0, camera: 0, sound: 0, picture: 0 };
    const count = (of: Footage) =>
      choosePieces(ground(of, [], { mix: weights, piece: { minSeconds: 2, preferredSeconds: 6, maxSeconds: 7 } }), 86)
        .length;
    expect(count({ ...same, look: look(0.9) })).toBe(2);
    expect(count({ ...same, look: look(0.2) })).toBe(1);
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
        const { moments } = chooseAbove([ground(of, decisions, { mix })], mix, threshold);
        const kept = moments.filter((moment) => moment.kept === 'hand');
        expect(kept).toHaveLength(1);
        expect(kept[0]).toMatchObject({ start: 3.3, end: 5.1, decision: 'k' });
        for (const moment of moments) expect(overlap(moment, decisions[1]!)).toBeLessThan(1e-6);
        for (const moment of moments)
          if (moment.kept === 'score') expect(overlap(moment, decisions[0]!)).toBeLessThan(1e-6);
      }
  });

  it('tells at which threshold a moment goes', () => {
    const own = ground(randomFootage(2));
    const piece = choosePieces(own, 15)[0]!;
    const level = leavesAt(own, piece)!;
    expect(level).toBeGreaterThanOrEqual(14.5);
    expect(coveredSeconds(piece, choosePieces(own, Math.min(100, level + 2)))).toBeLessThan(lengthOf(piece) * 0.51);
  });

  it('keeps a single short clip whole rather than nothing', () => {
    const clip = footage(1.5, { faces: () => 1, faceArea: () => 0.1, motion: () => 0.8, bursts: () => 1 });
    expect(choosePieces(ground(clip), 0)).toEqual([{ start: 0, end: 1.5 }]);
  });

  it('suggests about five minutes for thirteen (common practice, no source)', () => {
    expect(suggestedTarget(13 * 60)).toBeGreaterThanOrEqual(280);
    expect(suggestedTarget(13 * 60)).toBeLessThanOrEqual(310);
    expect(suggestedTarget(20)).toBe(15);
  });
});

it('the search for a target finds the same level wherever it begins', () => {
  const grounds = [1, 2, 3].map((seed) => ground(randomFootage(seed)));
  for (const target of [5, 40, 90, 1000]) {
    const { threshold, moments } = chooseForTarget(grounds, defaultMix, target);
    for (const near of [0, 13.3, threshold, threshold + 0.05, 60, 100]) {
      const again = chooseForTarget(grounds, defaultMix, target, near);
      expect(again.threshold).toBe(threshold);
      expect(again.moments).toEqual(moments);
    }
    if (threshold > 0) expect(chooseAbove(grounds, defaultMix, threshold - 0.05).seconds).toBeGreaterThan(target);
  }
});

it('another mix on the same ground chooses as if the ground were laid anew', () => {
  const of = randomFootage(4);
  const mix = { ...defaultMix, talk: 95, action: 5 };
  const anew = ground(of, [], { mix });
  const again = reweigh(ground(of), mix);
  expect([...again.curve]).toEqual([...anew.curve]);
  expect(choosePieces(again, 25)).toEqual(choosePieces(anew, 25));
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
