import { runsOf } from '#core/readings';
import { coveredSeconds, mergeRanges, type Range } from '#core/time';
import { materialNames, type Material, type Recording } from './types';

/** What a recording is, and why that is thought. */
export interface MaterialVerdict {
  material: Material;
  /** A sentence: what it was taken for, and why. */
  because: string;
}

const teaches =
  /\b(first|then|next|step|steps|how|rule|remember|need|should|always|never|example|means|called|learn|lesson|because)\b/gi;

/** Between words so near to one another somebody goes on speaking. */
const breathSeconds = 0.6;

/** What a recording is taken for: by how much of it is speech, faces, motion of things and of the camera, and by its words. */
export function judgeMaterial(
  { footage, words }: Recording,
  range: Range = { start: 0, end: footage.durationSeconds },
): MaterialVerdict {
  const length = Math.max(1, range.end - range.start);
  const { traces, hz } = footage;
  const [from, to] = [
    Math.floor(range.start * hz),
    Math.max(Math.floor(range.start * hz) + 1, Math.floor(range.end * hz)),
  ];
  const mean = (values: Float32Array) =>
    values.subarray(from, to).reduce((sum, value) => sum + value, 0) / Math.max(1, Math.min(to, values.length) - from);
  const share = (values: Float32Array, over: number) =>
    values.subarray(from, to).reduce((sum, value) => sum + (value > over ? 1 : 0), 0) /
    Math.max(1, Math.min(to, values.length) - from);
  // Words that somebody brought are speech, whatever the sound was heard as.
  const talk =
    Math.max(
      coveredSeconds(range, runsOf(footage.runs, 'speech')),
      coveredSeconds(range, mergeRanges(words, breathSeconds)),
    ) / length;
  const faces = share(traces.faces, 0.5);
  const close = share(traces.faceArea, 0.05);
  const motion = mean(traces.motion);
  const moves = coveredSeconds(range, runsOf(footage.runs, 'smooth', 'whip')) / length;
  const bursts = share(traces.bursts, 0.45);
  const said = words.filter((word) => word.start >= range.start && word.end <= range.end);
  const taught =
    said.length > 20
      ? (
          said
            .map((word) => word.text)
            .join(' ')
            .match(teaches) ?? []
        ).length / said.length
      : 0;
  const questions = said.filter((word) => /\?/.test(word.text)).length / Math.max(1, length / 60);
  const per = (value: number) => `${Math.round(value * 100)} %`;
  const verdicts: [Material, number, string][] = [
    [
      'talk',
      0.9 * talk + 0.5 * Math.min(1, faces) + 0.12 * Math.min(3, questions),
      `${per(talk)} of it is speech, faces are seen for ${per(faces)}${questions > 0.5 ? ', and questions are asked' : ''}`,
    ],
    [
      'sport',
      2.2 * Math.min(0.5, motion) + 3 * Math.min(0.2, bursts) + 0.25 * (1 - talk),
      `things move a lot${bursts > 0.02 ? ', it gets loud' : ''}, and ${per(1 - talk)} of it goes by without words`,
    ],
    [
      'lesson',
      0.85 * talk + 6 * Math.min(0.12, taught) + 0.2 * (1 - Math.min(1, close * 2)),
      `${per(talk)} of it is speech, with many words that explain`,
    ],
    ['comment', 0.75 * talk + 0.75 * Math.min(1, close), `one close face speaks for ${per(talk)} of it`],
    [
      'travel',
      1.3 * Math.min(0.6, moves) + 0.75 * (1 - talk) * (1 - Math.min(1, faces)),
      `the camera moves for ${per(moves)} of it and few people speak`,
    ],
  ];
  const [material, , because] = verdicts.reduce((best, each) => (each[1] > best[1] ? each : best));
  return { material, because: `${materialNames[material]}: ${because}.` };
}
