import { displayTraceNames, type DisplayTraces, type Run } from '#core/readings';
import { seededRandom } from '#core/signal';
import { sentences, spread, type Word } from '#core/words';
import type { Recording } from './types';

/** For tests and measurements: made-up recordings, whose subjects, pauses and loud moments are known. */
/** A text spoken from `start` on, with pauses between its sentences. */
export function say(text: string, start: number, pause = 0.7, perSecond = 14): Word[] {
  let at = start;
  return (text.match(/[^.!?]+[.!?]+/g) ?? [text]).flatMap((sentence) => {
    const own = spread(sentence.trim().split(/\s+/), at, at + sentence.trim().length / perSecond);
    at = own.at(-1)!.end + pause;
    return own;
  });
}

export function recording(
  words: Word[],
  seconds: number,
  set: (traces: DisplayTraces) => void = () => undefined,
  runs: Run[] = [],
): Recording {
  const count = Math.round(seconds * 10);
  const traces = Object.fromEntries(
    displayTraceNames.map((name) => [
      name,
      new Float32Array(count).fill(name === 'sharpness' || name === 'exposure' ? 0.8 : 0),
    ]),
  ) as DisplayTraces;
  for (const { start, end } of sentences(words)) traces.speech.fill(1, Math.floor(start * 10), Math.ceil(end * 10));
  set(traces);
  return {
    footage: {
      id: 'm',
      durationSeconds: seconds,
      hz: 10,
      traces,
      runs: [...runs, ...sentences(words).map(({ start, end }) => ({ kind: 'speech' as const, start, end }))],
    },
    words,
  };
}

/** Four subjects of a made-up lecture, about as long each. */
export const subjects = [
  'The hull of a cardboard boat is folded from one sheet. A fold is stronger than a seam. Every seam of the hull must be taped twice. Tape on the inside of the hull keeps the seam closed. A hull with a flat bottom carries more weight. Cut the cardboard along the grain and fold the hull against it. The fold of the hull takes the weight of the rower. A wet seam opens, a taped fold does not.',
  'Ducks nest in the reeds in spring. A duck lays nine eggs and sits on the nest for a month. The ducklings swim on the first day. Reeds hide the nest from the heron. A heron eats ducklings when the reeds are thin. The duck leads her ducklings through the reeds at dusk. In summer the ducks lose their feathers. Without feathers a duck hides in the reeds.',
  'Bread for the regatta is baked at night. The baker kneads flour and water and salt. The dough rests for two hours in the bakery. A hot oven gives the bread its crust. The baker sells every loaf before noon. Old bread becomes crumbs, and crumbs become dumplings. The flour comes from the mill. A baker tastes the dough before the oven is hot.',
  'The drum band plays when a boat crosses the line. A drummer counts four beats before the song. The trumpet plays the melody and the drums keep the beat. The song has three verses. In the last verse the trumpet rests and the drums play alone. The band plays the song again for the winner. A drummer breaks two sticks a song. The trumpet is louder than the drums.',
];

/** A made-up hour: subjects over and over, with some noise in everything. */
export function longTalk(seed: number, minutes: number): Recording {
  const random = seededRandom(seed);
  const words: Word[] = [];
  let at = 2;
  for (let index = 0; at < minutes * 60 - 30; index++) {
    const own = say(
      subjects[Math.floor(random() * 4)]!.split('. ')
        .sort(() => random() - 0.5)
        .join('. ')
        .replace(/\.?$/, '.'),
      at,
      0.3 + random(),
      12 + random() * 4,
    );
    words.push(...own);
    at = own.at(-1)!.end + 1 + random() * 5;
    if (index > 10_000) break;
  }
  return recording(words, minutes * 60, (traces) => {
    for (let index = 0; index < traces.faces.length; index++) {
      traces.faces[index] = Math.floor(index / 300) % 3;
      traces.faceArea[index] = 0.04;
      traces.motion[index] = random() * 0.4;
      traces.bursts[index] = random() > 0.997 ? 1 : 0;
    }
  });
}
