import { describe, expect, it } from 'vitest';
import type { Trace } from '#core/signal';
import type { Range } from '#core/time';
import { cropReading, mergeStretches, orderParts, partsWithin } from './parts';
import {
  fineColumns,
  fineHz,
  fineRows,
  lookColumns,
  lookHz,
  lookRows,
  type RawReading,
  type RawTraceName,
} from './types';

const cells = { look: lookColumns * lookRows, fine: fineColumns * fineRows };

/** A reading in which every number tells its own time. */
function counting(seconds: number, hz: number): RawReading {
  const grid = (rate: number, each: number) =>
    Float32Array.from({ length: Math.round(seconds * rate) * each }, (_, at) => Math.floor(at / each) / rate);
  const trace = (name: RawTraceName, rate: number): [RawTraceName, Trace] => [
    name,
    {
      name,
      hz: rate,
      start: 0,
      values: Float32Array.from({ length: Math.round(seconds * rate) }, (_, at) => at / rate),
    },
  ];
  return {
    durationSeconds: seconds,
    hasPicture: true,
    hasSound: true,
    faces: Array.from({ length: seconds * 2 }, (_, at) => ({ time: at / 2, boxes: [] })),
    objects: Array.from({ length: seconds / 2 }, (_, at) => ({ time: at * 2, boxes: [] })),
    look: grid(lookHz, cells.look),
    fine: grid(fineHz, cells.fine),
    traces: new Map([
      trace('camera.dx', hz),
      trace('frame.change', hz),
      trace('frame.noise', hz / 15),
      trace('sound.level', 50),
    ]),
  };
}

describe('parts of a reading', () => {
  it('cover a range without gaps, and none is very short', () => {
    for (const range of [
      { start: 0, end: 7200 },
      { start: 0, end: 1000 },
      { start: 120, end: 1051.5 },
    ]) {
      const parts = partsWithin(range, 120);
      expect([parts[0]!.start, parts.at(-1)!.end]).toEqual([range.start, range.end]);
      parts.slice(1).forEach((part, index) => expect(part.start).toBe(parts[index]!.end));
      for (const { start, end } of parts) expect(end - start >= 60 && end - start <= 180).toBe(true);
    }
  });

  it.each([25, 30000 / 1001, 24000 / 1001])('put together are the whole again, at %f a second', (hz) => {
    const all = counting(480, hz);
    const stretches = partsWithin({ start: 0, end: 480 }, 120).map((range) => ({
      range,
      raw: cropReading(all, range),
    }));
    // As read: in an order of its own.
    const merged = mergeStretches(
      [2, 0, 3, 1].map((index) => stretches[index]!),
      {
        durationSeconds: 480,
        rough: null,
        sound: all,
      },
    );
    for (const [name, { values, hz: rate }] of all.traces) {
      const own = merged.traces.get(name)!;
      expect([own.hz, own.start, own.values]).toEqual([rate, 0, values]);
    }
    expect([merged.look, merged.fine, merged.faces, merged.objects]).toEqual([
      all.look,
      all.fine,
      all.faces,
      all.objects,
    ]);
  });

  it('keep what is roughly known elsewhere, and say nothing where nothing is known', () => {
    const all = counting(480, 25);
    const rough: RawReading = {
      ...counting(480, 25),
      faces: [
        { time: 10, boxes: [] },
        { time: 200, boxes: [] },
      ],
      objects: [],
      fine: new Float32Array(),
      traces: new Map([
        ['frame.noise', { name: 'frame.noise', hz: 0.25, start: 0, values: new Float32Array(120).fill(7) }],
        ['sound.level', { name: 'sound.level', hz: 1, start: 0, values: new Float32Array(480).fill(-30) }],
      ]),
    };
    const range: Range = { start: 120, end: 240 };
    const merged = mergeStretches([{ range, raw: cropReading(all, range) }], {
      durationSeconds: 480,
      rough,
      sound: null,
    });
    const at = (name: RawTraceName, seconds: number) => {
      const { values, hz } = merged.traces.get(name)!;
      return values[Math.round(seconds * hz)]!;
    };
    expect([at('frame.noise', 60), at('frame.noise', 180), at('sound.level', 60)]).toEqual([7, 180, -30]);
    expect([at('frame.change', 60), at('camera.dx', 60)]).toEqual([255, 0]);
    expect(at('camera.dx', 180)).toBeCloseTo(180, 4);
    expect(merged.faces.filter(({ time }) => time < 120 || time >= 240).map(({ time }) => time)).toEqual([10]);
    expect(merged.faces).toHaveLength(1 + 240);
    // Where no fine levels are known those beside them stand: there is no cut at the seam.
    expect([60, 118, 300].map((seconds) => merged.fine[seconds * fineHz * cells.fine]!.toFixed(1))).toEqual([
      '120.0',
      '120.0',
      '239.9',
    ]);
  });

  it('come in the order in which they matter: the playhead, marks, what ranks high, time', () => {
    const parts = partsWithin({ start: 0, end: 1200 }, 120);
    const order = orderParts(parts, {
      focus: 500,
      marked: [{ start: 1000, end: 1000 }],
      picked: [
        { start: 130, end: 140, score: 50 },
        { start: 700, end: 720, score: 80 },
      ],
    });
    expect(order.map(({ start }) => start)).toEqual([480, 600, 960, 120, 0, 240, 360, 720, 840, 1080]);
    expect(orderParts(parts, { focus: null, marked: [], picked: [] }).map(({ start }) => start)).toEqual(
      parts.map(({ start }) => start),
    );
  });
});
