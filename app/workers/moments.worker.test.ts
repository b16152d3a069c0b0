import { beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { defaultLimits, defaultMix, defaultPieceLength, type Decision, type Footage, type Moment } from '#core/moments';
import { lengthOf } from '#core/time';
import { randomFootage } from '../../core/moments/testFootage';
import type { WorkerAnswer, Ask, Chosen, AskAnswer, Learned, Why } from './protocol';

const answers: WorkerAnswer[] = [];
let ask: (question: Ask) => void;

const settings = { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength, variety: 50 };
const choose = (more: Partial<Extract<Ask, { kind: 'choose' }>> = {}): Chosen => {
  ask({
    kind: 'choose',
    settings,
    decisions: [],
    targetSeconds: 40,
    water: null,
    arrangement: 'story',
    columns: 50,
    ...more,
  });
  return answers.at(-1) as Chosen;
};
/** Columns are half a second wide, and an edge may lie inside one. */
const nearEdge = (moments: readonly Moment[], media: string, at: number) =>
  moments.some((moment) => moment.media === media && moment.start < at + 0.5 && moment.end > at - 0.5);
const files: Footage[] = [1, 2].map((seed) => ({ ...randomFootage(seed), id: `file ${seed}` }));

describe('the worker that chooses moments', () => {
  beforeAll(async () => {
    vi.stubGlobal('self', { postMessage: (answer: WorkerAnswer) => answers.push(answer) });
    await import('./moments.worker');
    const worker = self as unknown as { onmessage(event: { data: Ask }): void };
    ask = (data) => worker.onmessage({ data });
    files.forEach((footage, index) => ask({ kind: 'read', number: index + 1, footage }));
  });
  beforeEach(() => {
    answers.length = 0;
    ask({ kind: 'footage', numbers: [1, 2] });
  });

  it('chooses to a length, with titles and a landscape as wide as asked', () => {
    const chosen = choose();
    expect(chosen.seconds).toBeCloseTo(
      chosen.moments.reduce((sum, moment) => sum + lengthOf(moment), 0),
      6,
    );
    expect(chosen.seconds).toBeGreaterThan(25);
    expect(chosen.seconds).toBeLessThan(55);
    expect(chosen.moments.every((moment) => moment.title.length > 0)).toBe(true);
    expect([chosen.landscape.length, Object.keys(chosen.flaws)]).toEqual([50, ['file 1', 'file 2']]);
  });
  it('chooses what rises above a water level that was set, less of it the higher it is', () => {
    const [low, high] = [choose({ water: 20 }), choose({ water: 60 })];
    expect([low.water, high.water]).toEqual([20, 60]);
    expect(low.seconds).toBeGreaterThan(high.seconds);
  });
  it('only what is taken rises above the water of the landscape', () => {
    for (const water of [null, 15, 40]) {
      const { landscape, moments, water: level } = choose({ water, columns: 360 });
      for (const [column, height] of landscape.entries()) {
        const seconds = (column + 0.5) / 2;
        const [media, at] = seconds < 90 ? ['file 1', seconds] : ['file 2', seconds - 90];
        const isTaken = moments.some((moment) => moment.media === media && moment.start < at && moment.end > at);
        if (height > level + 1e-3) expect(isTaken || nearEdge(moments, media, at)).toBe(true);
        if (isTaken) expect(height).toBeGreaterThan(level - 0.02);
      }
    }
  });
  it('more variety, other moments; none of it changes what is shut out', () => {
    const [best, varied] = [0, 100].map((variety) => choose({ settings: { ...settings, variety } }));
    expect(varied!.moments).not.toEqual(best!.moments);
    expect(varied!.flaws).toEqual(best!.flaws);
    expect(new Set(varied!.moments.map(({ kind }) => kind)).size).toBeGreaterThanOrEqual(
      new Set(best!.moments.map(({ kind }) => kind)).size,
    );
  });
  it('keeps and drops hold under every mix', () => {
    const decisions: Decision[] = [
      { id: 'k', media: 'file 1', start: 10, end: 14, verdict: 'keep' },
      { id: 'd', media: 'file 2', start: 0, end: 90, verdict: 'drop' },
    ];
    for (const talk of [0, 100]) {
      const { moments } = choose({ decisions, settings: { ...settings, mix: { ...defaultMix, talk } } });
      expect(moments.some(({ media, start, end }) => media === 'file 1' && start <= 10 && end >= 14)).toBe(true);
      expect(moments.filter(({ media }) => media === 'file 2')).toEqual([]);
    }
  });
  it('another mix over the same footage gives what it would have given at first', () => {
    const mix = { ...defaultMix, talk: 100, action: 0 };
    choose();
    const after = choose({ settings: { ...settings, mix }, water: 30 });
    ask({ kind: 'footage', numbers: [1, 2] });
    const anew = choose({ settings: { ...settings, mix }, water: 30 });
    expect(after.moments).toEqual(anew.moments);
  });
  it('only files of the page count, in its order', () => {
    ask({ kind: 'footage', numbers: [2] });
    expect(new Set(choose().moments.map(({ media }) => media))).toEqual(new Set(['file 2']));
  });
  it('gives reasons at once, and what would change them afterwards', async () => {
    const { moments } = choose();
    const [best] = [...moments].sort((a, b) => b.score - a.score);
    ask({ kind: 'why', media: best!.media, start: best!.start, end: best!.end });
    const first = answers.at(-1) as Why;
    expect(first).toMatchObject({ kept: true, rank: 1, of: moments.length, verdict: null, remedies: null });
    expect(Object.values(first.shares).reduce((sum, share) => sum + share, 0)).toBeCloseTo(first.score, 4);
    await vi.waitFor(() => expect((answers.at(-1) as Why).remedies).not.toBeNull(), 10_000);
  });
  it('a question about other reasons ends the search for what would change the first', async () => {
    const { moments } = choose();
    for (const { media, start, end } of moments.slice(0, 2)) ask({ kind: 'why', media, start, end });
    await vi.waitFor(
      () => expect(answers.filter((each) => each.kind === 'why' && each.remedies)).toHaveLength(1),
      10_000,
    );
    expect((answers.at(-1) as Why).start).toBe(moments[1]!.start);
  });
  it('nothing is said of footage that it does not have', () => {
    choose();
    answers.length = 0;
    ask({ kind: 'why', media: 'gone', start: 0, end: 1 });
    expect(answers).toEqual([]);
  });
  it('says what it learns, and what that would change; nothing from nothing', () => {
    choose();
    ask({ kind: 'learn', decisions: [], others: [], targetSeconds: 40, water: null });
    expect(answers.at(-1)).toEqual({ kind: 'learned', preference: null, proposal: null });
    const verdicts = choose().moments.map((moment, index): Decision => {
      const { media, start, end } = moment;
      return { id: String(index), media, start, end, verdict: index % 2 ? 'keep' : 'drop' };
    });
    ask({ kind: 'learn', decisions: verdicts, others: [], targetSeconds: 40, water: null });
    const { preference, proposal } = answers.at(-1) as Learned;
    if (preference) expect(proposal).toMatchObject({ moments: expect.any(Number) as number });
    else expect(proposal).toBeNull();
  });
  it('finds what is asked for in words: something said, somebody, a marker', async () => {
    ask({
      kind: 'world',
      world: {
        people: [{ id: 'p', name: 'The builder', named: true, tracks: [{ media: 'file 2', start: 5, end: 9 }] }],
        words: { 'file 1': [{ text: 'paddle', start: 30, end: 30.5, confidence: 1 }] },
        names: [],
        starts: {},
        recorded: {},
        clocks: {},
        markers: [{ media: 'file 2', seconds: 60, note: 'the sinking' }],
      },
    });
    const hits = async (text: string) => {
      ask({ kind: 'ask', text });
      await vi.waitFor(() => expect(answers.at(-1)).toMatchObject({ kind: 'found', text }));
      return (answers.at(-1) as AskAnswer).hits.map(({ media, start, end }) => ({ media, start, end }));
    };
    const said = await hits('“paddle”');
    expect(said[0]!.media).toBe('file 1');
    expect(said[0]!.start).toBeLessThanOrEqual(30);
    expect(said[0]!.end).toBeGreaterThanOrEqual(30.5);
    expect((await hits('the builder')).every(({ media }) => media === 'file 2')).toBe(true);
  });
});
