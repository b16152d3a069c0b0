import { handheld, type Shot } from './camera';
import { speaking } from './longPiece';
import { ease } from './random';
import { alive, at, cast, crowd, race, scene, waiting } from './shots';
import { Mix, cheer, pondTone, splash } from './sound';
import { emptyTruth, type Truth } from './truth';
import type { SpokenLine } from './voice';

export interface Piece {
  file: string;
  shots: Shot[];
  mix: Mix;
  truth: Truth;
}

function piece(file: string, seed: number, shot: Shot, fill: Partial<Truth>, sound?: (mix: Mix) => void): Piece {
  const mix = new Mix(shot.seconds);
  mix.add(pondTone(seed, shot.seconds), 0, 1.2);
  sound?.(mix);
  return { file, shots: [shot], mix, truth: { ...emptyTruth(file, shot.seconds), ...fill } };
}

const people = (seconds: number, faceHeight: number, ...names: string[]): Truth['people'] =>
  names.map((who) => ({ who, start: 0, end: seconds, faceHeight }));

/** The eight short pieces. */
export function shortPieces(): Piece[] {
  const bursts: [number, number][] = [
    [4, 8],
    [12.5, 16],
  ];
  const strength = (t: number) =>
    1.2 + 15 * Math.max(...bursts.map(([a, b]) => ease(t, a - 0.15, a + 0.15) * (1 - ease(t, b - 0.15, b + 0.15))));
  const walk = handheld(61, strength);
  const whip = (t: number) => at(760 + 1250 * ease(t, 6, 6.45), 860);
  const slight = handheld(65, () => 0.9);
  return [
    piece(
      'pan-over-the-pond.mp4',
      101,
      scene(14, (t) => at(760 + 1300 * ease(t, 1.5, 12.5), 800), { boats: waiting }),
      {
        camera: [
          { start: 0, end: 1.5, kind: 'still' },
          { start: 1.5, end: 12.5, kind: 'smooth' },
          { start: 12.5, end: 14, kind: 'still' },
        ],
      },
    ),
    piece(
      'zoom-on-the-crowd.mp4',
      102,
      scene(12, (t) => at(1440, 850, 0.9 + 0.75 * ease(t, 1, 11)), {
        people: crowd(1440, 860, 50, (t) => 0.25 + 0.3 * Math.sin(t)),
      }),
      {
        camera: [{ start: 1, end: 11, kind: 'smooth' }],
        people: people(12, 0.12, 'neighbour', 'child', 'captain'),
      },
    ),
    piece(
      'tripod-start-line.mp4',
      103,
      scene(15, () => at(1440, 830), { boats: waiting }),
      { camera: [{ start: 0, end: 15, kind: 'still' }] },
    ),
    piece(
      'walk-to-the-pier.mp4',
      104,
      scene(20, (t) => walk(at(900 + 30 * t, 850), t), {
        boats: waiting,
        people: crowd(2000, 900, 46, () => 0.2).slice(0, 3),
        more: { exposures: 3 },
      }),
      {
        camera: bursts.map(([start, end]) => ({ start, end, kind: 'shaky' as const })),
      },
    ),
    piece(
      'whip-to-the-captain.mp4',
      105,
      scene(12, (t) => slight(whip(t), t), {
        people: [
          { who: cast.rower, x: 760, y: 850, unit: 90, pose: alive(1, () => ({ smile: 0.4 })) },
          { who: cast.captain, x: 2010, y: 850, unit: 96, pose: alive(4, () => ({ smile: 0.2 })) },
        ],
        more: { exposures: 4 },
      }),
      {
        camera: [
          { start: 0, end: 6, kind: 'still' },
          { start: 6, end: 6.45, kind: 'whip' },
          { start: 6.45, end: 12, kind: 'still' },
        ],
        people: [
          { who: 'rower', start: 0, end: 6.1, faceHeight: 0.22 },
          { who: 'captain', start: 6.35, end: 12, faceHeight: 0.23 },
        ],
      },
    ),
    piece(
      'captain-close.mp4',
      106,
      scene(9, () => at(1440, 860), {
        people: [{ who: cast.captain, x: 1440, y: 840, unit: 170, pose: alive(2, (t) => ({ smile: ease(t, 4, 5) })) }],
      }),
      {
        camera: [{ start: 0, end: 9, kind: 'still' }],
        people: people(9, 0.41, 'captain'),
      },
    ),
    piece(
      'child-laughs.mp4',
      107,
      scene(8, () => at(1440, 860), {
        people: [
          {
            who: cast.child,
            x: 1420,
            y: 850,
            unit: 130,
            pose: alive(5, (t) => ({ smile: 0.5 + 0.5 * ease(t, 2, 3), mouth: ease(t, 2, 3) * 0.5 })),
          },
        ],
      }),
      {
        camera: [{ start: 0, end: 8, kind: 'still' }],
        people: people(8, 0.32, 'child'),
      },
      (mix) => mix.add(cheer(108, 3), 2.2, 0.35),
    ),
    piece(
      'boats-cross-fast.mp4',
      108,
      scene(16, () => at(1500, 840), {
        boats: (t) => race(2)(t).map((boat, i) => ({ ...boat, x: boat.x + (i === 2 ? 260 * ease(t, 5, 9) : 0) })),
      }),
      {
        camera: [{ start: 0, end: 16, kind: 'still' }],
        bursts: [
          { start: 8, end: 9.6, kind: 'splash' },
          { start: 9.5, end: 14.5, kind: 'cheer' },
        ],
      },
      (mix) => {
        mix.add(splash(109), 8, 0.7);
        mix.add(cheer(110, 5), 9.5, 0.7);
      },
    ),
  ];
}

/** The interview from the side, started `late` seconds after the first camera, with its own poorer sound. */
export function secondCamera(lines: SpokenLine[], late: number): Piece {
  const seconds = Math.round(lines.at(-1)!.end + 3.5 - late);
  const truth: Truth = {
    ...emptyTruth('builder-camera-b.mp4', seconds),
    speech: lines
      .map(({ who, text, start, end }) => ({ who, text, start: start - late, end: end - late }))
      .filter((line) => line.end > 0 && line.start >= 0),
    camera: [{ start: 0, end: seconds, kind: 'still' }],
    people: people(seconds, 0.33, 'builder'),
  };
  const hold = handheld(121, () => 0.7);
  const shot = scene(seconds, (t) => hold(at(1950, 880, 1.5), t), {
    people: [
      { who: cast.builder, x: 1990, y: 880, unit: 92, pose: (t) => speaking(lines, 'builder', late, 2, -0.55)(t) },
    ],
  });
  const mix = new Mix(seconds);
  mix.add(pondTone(122, seconds), 0, 2.4);
  for (const line of lines) {
    mix.add(line.samples, line.start - late, line.who === 'builder' ? 0.4 : 0.25, 0.1);
    mix.add(line.samples, line.start - late + 0.031, 0.1, -0.3);
  }
  return { file: truth.file, shots: [shot], mix, truth };
}

/** The recorder on the table: clean voices, started `early` seconds before the first camera. */
export function cleanVoice(lines: SpokenLine[], early: number): Mix {
  const mix = new Mix(lines.at(-1)!.end + early + 4);
  for (const line of lines) mix.add(line.samples, line.start + early, 0.85);
  return mix;
}

/** The moments of the six photos: shots and the second at which they are taken. */
export function photos(): { file: string; shot: Shot; second: number }[] {
  const happy = alive(1, () => ({ smile: 1 }));
  return [
    { file: 'photo-start.jpg', shot: scene(9, () => at(1500, 820, 0.94), { boats: waiting }), second: 2 },
    {
      file: 'photo-crew.jpg',
      shot: scene(9, () => at(1440, 870), { people: crowd(1440, 860, 54, () => 0.9) }),
      second: 1.1,
    },
    {
      file: 'photo-captain.jpg',
      shot: scene(9, () => at(1440, 860), { people: [{ who: cast.captain, x: 1500, y: 850, unit: 160, pose: happy }] }),
      second: 1,
    },
    { file: 'photo-duel.jpg', shot: scene(9, () => at(1560, 840, 1.2), { boats: race(5) }), second: 1.5 },
    {
      file: 'photo-builders.jpg',
      shot: scene(9, () => at(1440, 860), {
        people: [
          { who: cast.builder, x: 1290, y: 830, unit: 96, pose: happy },
          { who: cast.child, x: 1580, y: 890, unit: 80, pose: happy },
        ],
      }),
      second: 1,
    },
    {
      file: 'photo-evening.jpg',
      shot: scene(9, () => at(900, 700, 0.85), { boats: (t) => waiting(t).slice(0, 1), more: { dark: () => 0.25 } }),
      second: 3,
    },
  ];
}
