import type { Footage } from '#core/moments';
import type { DisplayTraces, Run } from '#core/readings';
import { overlap, type Range } from '#core/time';
import type { Word } from '#core/words';
import { footage } from '../moments/testFootage';
import { answerRequest } from './answer';
import type { AskContext } from './degrees';
import { lexiconOf } from './lexicon';
import { parseRequest } from './parse';
import { questions } from './testQuestions';
import { loadThesaurus } from './thesaurus';
import type { Lexicon } from './types';

/** Values of a trace by stretches; elsewhere the usual one. */
type Stretches = [from: number, to: number, value: number][];
type Fill = Partial<Record<keyof DisplayTraces, Stretches>>;

const usual: Fill = {
  sharpness: [[0, 1e4, 0.45]],
  exposure: [[0, 1e4, 0.6]],
  motion: [[0, 1e4, 0.15]],
  loudness: [[0, 1e4, -24]],
};

function file(id: string, seconds: number, fill: Fill, runs: Run[], scenes: number[]): Footage {
  const names = new Set([...Object.keys(usual), ...Object.keys(fill)] as (keyof DisplayTraces)[]);
  const valueAt = (name: keyof DisplayTraces) => (t: number) =>
    [...(usual[name] ?? []), ...(fill[name] ?? [])].findLast(([from, to]) => t >= from && t < to)?.[2] ?? 0;
  const cuts = [0, ...scenes, seconds];
  return footage(
    seconds,
    Object.fromEntries([...names].map((name) => [name, valueAt(name)])),
    [...cuts.slice(1).map((end, index): Run => ({ kind: 'scene', start: cuts[index]!, end })), ...runs],
    id,
  );
}

const thing = (label: string, start: number, end: number, amount = 1, size = 0.1): Run => ({
  kind: 'object',
  label,
  start,
  end,
  amount,
  size,
});
const coloured = (label: string, start: number, end: number): Run => ({ kind: 'coloured', label, start, end });
const run = (kind: Run['kind'], start: number, end: number, label?: string): Run => ({
  kind,
  start,
  end,
  ...(label ? { label } : {}),
});

/** Words from a second on, as fast as people talk. */
const said = (at: number, until: number, text: string): Word[] => {
  const words = text.split(' ');
  const each = (until - at) / words.length;
  return words.map((word, index) => ({
    text: word,
    start: at + index * each,
    end: at + (index + 0.9) * each,
    confidence: 1,
  }));
};

const files = {
  morning: file(
    'morning',
    40,
    {
      motion: [[0, 40, 0.02]],
      exposure: [[0, 40, 0.95]],
      loudness: [
        [0, 40, -40],
        [0, 8, -24],
        [32, 40, -24],
      ],
    },
    [thing('bird', 5, 25), run('smooth', 26, 34, 'right')],
    [26],
  ),
  race: file(
    'race',
    120,
    {
      motion: [
        [0, 10, 0.02],
        [30, 40, 0.9],
        [110, 120, 0.02],
      ],
      faces: [
        [10, 20, 1],
        [40, 50, 6],
        [60, 75, 2],
        [100, 110, 1],
      ],
      faceArea: [
        [10, 20, 0.1],
        [40, 50, 0.005],
        [60, 75, 0.03],
        [100, 110, 0.1],
      ],
      smile: [
        [42, 47, 0.8],
        [102, 107, 0.9],
      ],
      bursts: [
        [36, 39, 1],
        [42, 46, 1],
      ],
      loudness: [
        [0, 10, -40],
        [36, 39, -10],
        [42, 46, -10],
        [80, 90, -65],
        [100, 110, -40],
      ],
      exposure: [[80, 90, 0.2]],
      sharpness: [[54, 58, 0.1]],
      speech: [
        [11, 18, 1],
        [62, 66, 1],
        [68, 71, 1],
      ],
      shake: [[50, 60, 0.9]],
    },
    [
      thing('boat', 0, 10, 3, 0.02),
      thing('boat', 20, 30, 2, 0.1),
      thing('boat', 30, 40, 2, 0.3),
      thing('boat', 50, 60),
      thing('dog', 90, 100),
      coloured('red boat', 20, 30),
      coloured('white boat', 30, 40),
      coloured('blue boat', 110, 120),
      coloured('brown dog', 90, 100),
      thing('boat', 110, 120, 1, 0.02),
      run('still', 0, 10),
      run('smooth', 20, 30, 'left'),
      run('shaky', 50, 60),
      run('whip', 75, 80),
      run('smooth', 90, 100, 'in'),
      run('speech', 11, 18),
      run('speech', 62, 66),
      run('speech', 68, 71),
      run('silence', 80, 90),
      run('music', 108, 120),
    ],
    [10, 20, 30, 40, 50, 60, 75, 80, 90, 100, 110],
  ),
  builders: file(
    'builders',
    90,
    {
      faces: [
        [0, 30, 1],
        [30, 60, 3],
      ],
      faceArea: [[0, 60, 0.03]],
      smile: [[50, 55, 0.8]],
      bursts: [[50, 55, 1]],
      loudness: [[70, 90, -65]],
      speech: [
        [5, 9, 1],
        [15, 18, 1],
        [35, 50, 1],
      ],
    },
    [
      coloured('red clothes', 0, 30),
      coloured('blue clothes', 30, 60),
      thing('scissors', 10, 20),
      thing('chair', 60, 90),
      run('still', 60, 90),
      run('speech', 5, 9),
      run('speech', 15, 18),
      run('speech', 35, 50),
      run('silence', 70, 90),
    ],
    [30, 60],
  ),
  prize: file(
    'prize',
    60,
    {
      faces: [
        [0, 20, 5],
        [20, 40, 3],
        [40, 60, 1],
      ],
      faceArea: [
        [0, 40, 0.02],
        [40, 60, 0.12],
      ],
      smile: [[45, 50, 0.9]],
      bursts: [[8, 12, 1]],
      exposure: [[20, 40, 0.2]],
      speech: [
        [13, 18, 1],
        [41, 43, 1],
      ],
    },
    [
      coloured('yellow head', 0, 20),
      coloured('black clothes', 40, 60),
      thing('cup', 14, 22),
      run('speech', 13, 18),
      run('music', 20, 40),
      run('speech', 41, 43),
    ],
    [20, 40],
  ),
  group: {
    ...file('group', 4, { faces: [[0, 4, 5]], faceArea: [[0, 4, 0.02]], smile: [[0, 4, 0.8]] }, [], []),
    whole: true,
  },
  boat: { ...file('boat', 4, {}, [thing('boat', 0, 4, 1, 0.3), coloured('red boat', 0, 4)], []), whole: true },
};
type FileName = keyof typeof files;

const words: Partial<Record<FileName, Word[]>> = {
  race: [
    ...said(11, 18, 'Good morning everyone we have twelve boats today.'),
    ...said(62, 66, 'The red one is taking on water.'),
    ...said(68, 71, 'Nobody sinks today.'),
  ],
  builders: [
    ...said(5, 9, 'Never fold the cardboard twice.'),
    ...said(15, 18, 'Use plenty of tape.'),
    ...said(36, 39, 'Hold the paddle low.'),
  ],
  prize: [...said(13, 18, 'The captain of the blue boat wins the cup.'), ...said(41, 43, 'Thank you all.')],
};
const people = {
  Willa: {
    race: [
      [10, 20],
      [60, 75],
    ],
    builders: [[0, 60]],
  },
  Otto: {
    race: [
      [60, 75],
      [100, 110],
    ],
    builders: [[30, 60]],
  },
  Tove: { builders: [[30, 60]], prize: [[40, 60]] },
} as const;
const recordedAt: Record<FileName, string> = {
  morning: '2026-06-13T07:30:00+02:00',
  race: '2026-06-13T10:00:00+02:00',
  builders: '2026-06-12T15:00:00+02:00',
  prize: '2026-06-13T18:30:00+02:00',
  group: '2026-06-13T10:05:00+02:00',
  boat: '2026-06-13T10:06:00+02:00',
};

/** A made-up day of six files, and what words mean in it. */
export async function testDay(): Promise<{ lexicon: Lexicon; context: AskContext }> {
  let offset = 0;
  const laid = (Object.keys(files) as FileName[]).map((name) => {
    const own = {
      footage: files[name],
      offset,
      words: words[name] ?? [],
      recordedAt: recordedAt[name],
      start: name === 'race' ? { timecode: '10:00:00:00', seconds: 36_000, rate: { num: 25, den: 1 } } : null,
      people: new Map(
        Object.entries(people).map(([who, seen]) => [
          who,
          ((seen as Partial<Record<FileName, readonly (readonly [number, number])[]>>)[name] ?? []).map(
            ([start, end]): Range => ({ start, end }),
          ),
        ]),
      ),
    };
    offset += files[name].durationSeconds;
    return own;
  });
  const raceAt = laid.find(({ footage: { id } }) => id === 'race')!.offset;
  return {
    lexicon: lexiconOf(
      {
        people: Object.keys(people).map((name) => ({ id: name, name })),
        notes: ['start of the race', 'boat sinks'],
        names: [
          { what: 'file', name: 'pond-morning.mp4', media: ['morning'] },
          { what: 'file', name: 'race-day.mp4', media: ['race'] },
          { what: 'file', name: 'builders-at-work.mp4', media: ['builders'] },
          { what: 'file', name: 'prize-giving.mp4', media: ['prize'] },
          { what: 'file', name: 'IMG_2034.jpg', media: ['group'] },
          { what: 'file', name: 'IMG_2035.jpg', media: ['boat'] },
          { what: 'bin', name: 'Workshop', media: ['builders'] },
        ],
        thesaurus: await loadThesaurus(),
      },
      Object.values(words),
    ),
    context: {
      files: laid,
      totalSeconds: offset,
      markers: [
        { note: 'start of the race', seconds: raceAt + 30 },
        { note: 'boat sinks', seconds: raceAt + 52 },
      ],
    },
  };
}

/** "race 10-20, boat" as stretches; a file alone is all of it. */
const stretchesOf = (expected: string): (Range & { media: string })[] =>
  expected.split(', ').map((one) => {
    const [name, range] = one.split(' ');
    const [start, end] = range?.split('-').map(Number) ?? [0, files[name as FileName].durationSeconds];
    return { media: name!, start: start!, end: end! };
  });

/** How well one question is answered: F1 over seconds (van Rijsbergen 1979), 1 for the very stretches that are expected. */
export interface Answered {
  question: string;
  f1: number;
  found: string;
  expected: string;
}

/** Asks all questions and compares with what a person would want to see. */
export async function askEverything(): Promise<Answered[]> {
  const { lexicon, context } = await testDay();
  return questions.flatMap(([expected, asked]) =>
    asked.map((question): Answered => {
      const wanted = stretchesOf(expected);
      const { hits } = answerRequest(parseRequest(question, lexicon), context);
      const seconds = (list: readonly Range[]) => list.reduce((sum, { start, end }) => sum + end - start, 0);
      const shared = hits.reduce(
        (sum, hit) => sum + wanted.reduce((own, one) => own + (one.media === hit.media ? overlap(one, hit) : 0), 0),
        0,
      );
      return {
        question,
        f1: (2 * shared) / Math.max(1e-9, seconds(hits) + seconds(wanted)),
        found: [...hits]
          .sort((a, b) => a.media.localeCompare(b.media) || a.start - b.start)
          .map(({ media, start, end }) => `${media} ${start.toFixed(1)}-${end.toFixed(1)}`)
          .join(', '),
        expected,
      };
    }),
  );
}
