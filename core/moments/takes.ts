import { lengthOf, type Range } from '#core/time';
import { kindOf } from './kinds';
import type { Prepared } from './score';

interface Feature {
  /** How far the other is above this one, in steps that somebody would notice. */
  steps: number;
  more: string;
  less: string;
}

const named = 2;

/** How another take of a thing is, beside this one: "slower, softer"; "much the same" where nobody would see or hear it. */
export function compareTake(own: Prepared, range: Range, other: Prepared, otherRange: Range): string {
  const [a, b] = [measured(own, range), measured(other, otherRange)];
  const seconds = Math.log(lengthOf(otherRange) / lengthOf(range)) / Math.log(1.12);
  const isSaid = kindOf(own, range) === 'talk';
  const area = a.area > 0 && b.area > 0 ? Math.log(b.area / a.area) / Math.log(1.35) : 0;
  const features: Feature[] = [
    { steps: seconds, more: isSaid ? 'slower' : 'longer', less: isSaid ? 'faster' : 'shorter' },
    { steps: area, more: 'closer', less: 'wider' },
    { steps: (b.sharpness - a.sharpness) / 0.08, more: 'sharper', less: 'softer' },
    { steps: (b.shake - a.shake) / 0.12, more: 'shakier', less: 'steadier' },
    { steps: (b.exposure - a.exposure) / 0.12, more: 'better lit', less: 'worse lit' },
    { steps: (b.smile - a.smile) / 0.25, more: 'with more of a smile', less: 'with less of a smile' },
    { steps: (b.loudness - a.loudness) / 4, more: 'louder', less: 'quieter' },
  ];
  const clear = features
    .filter(({ steps }) => Math.abs(steps) >= 1)
    .sort((one, two) => Math.abs(two.steps) - Math.abs(one.steps))
    .slice(0, named);
  return clear.length > 0
    ? clear.map(({ steps, more, less }) => (steps > 0 ? more : less)).join(', ')
    : 'much the same';
}

function measured({ footage: { traces, hz } }: Prepared, { start, end }: Range) {
  const from = Math.max(0, Math.round(start * hz));
  const to = Math.max(from + 1, Math.round(end * hz));
  const mean = (values: Float32Array) => {
    const part = values.subarray(from, to);
    return part.reduce((sum, value) => sum + value, 0) / Math.max(1, part.length);
  };
  return {
    area: mean(traces.faceArea),
    sharpness: mean(traces.sharpness),
    shake: mean(traces.shake),
    exposure: mean(traces.exposure),
    smile: mean(traces.smile),
    loudness: mean(traces.loudness),
  };
}
