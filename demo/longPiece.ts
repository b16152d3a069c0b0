import { frame, handheld, type Shot } from './camera';
import { ease } from './random';
import { alive, at, cast, crowd, race, scene, waiting, type Placed } from './shots';
import { Mix, bandNoise, cheer, horn, pondTone, splash } from './sound';
import { emptyTruth, type Truth } from './truth';
import { mouthAt, sayLines, type Line, type SpokenLine } from './voice';

interface Part {
  shot: Shot;
  camera: Truth['camera'][number]['kind'];
  people: [who: string, faceHeight: number][];
  flaw?: 'dark' | 'blurred';
}

const opening: Line[] = [
  { who: 'presenter', text: 'Good morning from the village pond.', pause: 0.9 },
  {
    who: 'presenter',
    text: 'Today grown people will try to cross it in boats made of cardboard and tape.',
    pause: 1.6,
  },
  { who: 'presenter', text: 'Nobody has a motor. Nobody has a plan. Everybody has brought dry socks.', pause: 0.8 },
  {
    who: 'presenter',
    text: 'The rule is simple. If it came in a box, it may go in the water. If it came from a shop, it may not.',
    pause: 1.1,
  },
  { who: 'presenter', text: 'Eight boats are on the grass, and the water is cold.', pause: 2.2 },
  { who: 'presenter', text: 'What floats, floats. Until it does not.', pause: 1 },
];
const interview: Line[] = [
  { who: 'presenter', text: 'You built this one yourself. How long did it take?', pause: 0.6 },
  { who: 'builder', text: 'Three weekends, two rolls of tape, and every box from the bakery.', pause: 0.7 },
  { who: 'presenter', text: 'And what is the secret?', pause: 0.8 },
  {
    who: 'builder',
    text: 'You fold every edge twice. Water looks for the edge, so you give it nothing to find.',
    pause: 1.1,
  },
  { who: 'builder', text: 'The first boat sank in the bath. The second one sank faster.', pause: 0.7 },
  { who: 'presenter', text: 'Did you ever think about giving up?', pause: 0.7 },
  { who: 'builder', text: 'Every evening. Then my daughter asked what colour the sail was going to be.', pause: 1 },
  { who: 'presenter', text: 'So this is number three.', pause: 0.5 },
  {
    who: 'builder',
    text: 'Number three is painted with candle wax. It smells of birthdays, and it stays dry.',
    pause: 1.2,
  },
  {
    who: 'builder',
    text: 'We tested it with four bags of flour. The flour came back dry, and we baked bread with it.',
    pause: 0.9,
  },
  { who: 'builder', text: 'If we reach the other side, my daughter steers it home.', pause: 0.8 },
  { who: 'presenter', text: 'Good luck to you both.', pause: 0.9 },
];
const captainTalk: Line[] = [
  { who: 'presenter', text: 'Captain, this is your eleventh race. How many have you finished?', pause: 0.8 },
  { who: 'captain', text: 'None. But I have started every one of them beautifully.', pause: 1.3 },
  { who: 'presenter', text: 'And this year?', pause: 0.6 },
  {
    who: 'captain',
    text: 'This year I have doubled the tape. If she goes down, she goes down in one piece.',
    pause: 1.1,
  },
  { who: 'captain', text: 'A boat is only a box with ambition. That is what I tell the young ones.', pause: 0.9 },
];
const calling: Line[] = [
  { who: 'caller', text: 'And they are off! The yellow sail is in front already!', pause: 0.5 },
  { who: 'caller', text: 'Blue is coming up on the inside. Look at that paddle go!', pause: 1.4 },
  { who: 'caller', text: 'They are side by side. This is very close!', pause: 0.5 },
  { who: 'caller', text: 'The pink one is drifting backwards, and waving about it!', pause: 0.9 },
  { who: 'caller', text: 'Yellow takes the lead again, ten metres to go!', pause: 0.4 },
];
const sinking: Line[] = [
  { who: 'caller', text: 'Oh no. The captain is taking on water.', pause: 0.7 },
  { who: 'caller', text: 'She is going down! The captain is going down with the ship!', pause: 2.4 },
  { who: 'captain', text: 'I regret nothing. The water is lovely.', pause: 0.8 },
];
const closing: Line[] = [
  { who: 'presenter', text: 'One winner, two swimmers, and a captain who lost his hat.', pause: 0.7 },
  { who: 'presenter', text: 'The bakery is out of boxes, and the ducks have moved to the other side.', pause: 0.9 },
  { who: 'presenter', text: 'The pond has never been so full of paper. See you next year.', pause: 1 },
];

/** The interview alone, its lines timed from its own start; both cameras and the recorder use it. */
export const sayInterview = () => sayLines(interview, 1.4);

export const speaking = (lines: SpokenLine[], who: string, from: number, shift: number, turn = 0) =>
  alive(shift, (seconds) => {
    const mouth = mouthAt(lines, who, from + seconds);
    return { mouth, turn: turn + Math.sin(seconds * 0.9 + shift) * 0.18, smile: mouth > 0 ? 0.12 : 0.05 };
  });

const lengthOf = (lines: SpokenLine[], tail: number) => roundUp(lines.at(-1)!.end + tail);
const roundUp = (seconds: number) => Math.ceil(seconds * frame.fps) / frame.fps;

/** "Race day": five minutes from one camera that somebody forgot to switch off. */
export function longPiece(interviewLines: SpokenLine[]): {
  shots: Shot[];
  mix: Mix;
  truth: Truth;
  interviewAt: number;
} {
  const parts: Part[] = [];
  const spoken: SpokenLine[] = [];
  const bursts: Truth['bursts'] = [];
  const sounds: [Float32Array, number, number][] = [];
  let now = 0;
  const add = (part: Part) => {
    parts.push(part);
    now = roundUp(now + part.shot.seconds);
  };
  const say = (lines: SpokenLine[]) =>
    spoken.push(...lines.map((line) => ({ ...line, start: line.start + now, end: line.end + now })));
  const burst = (kind: Truth['bursts'][number]['kind'], sound: Float32Array, seconds: number, gain: number) => {
    sounds.push([sound, now + seconds, gain]);
    bursts.push({ kind, start: now + seconds, end: now + seconds + sound.length / 48000 });
  };
  const face = (unit: number, zoom = 1) => (unit * 1.75 * zoom) / frame.height;
  const still = (seconds: number, view = at(1440, 850), more: Parameters<typeof scene>[2] = {}) =>
    scene(seconds, () => view, more);

  add({ shot: still(10, at(1750, 830), { boats: waiting }), camera: 'still', people: [] });

  const talk = sayLines(opening, 1.2);
  say(talk);
  add({
    shot: still(lengthOf(talk, 0.8), at(1440, 850), {
      people: [{ who: cast.presenter, x: 1400, y: 790, unit: 98, pose: speaking(talk, 'presenter', 0, 0) }],
      boats: (t) => waiting(t).slice(0, 2),
    }),
    camera: 'still',
    people: [['presenter', face(98)]],
  });
  add({
    shot: scene(12, (t) => at(900 + 1050 * ease(t, 0.5, 11.5), 820), { boats: waiting }),
    camera: 'smooth',
    people: [],
  });
  add({
    shot: still(8, at(1440, 850), { people: crowd(1440, 850, 50, () => 0.1), more: { defocus: 9 } }),
    camera: 'still',
    people: [],
    flaw: 'blurred',
  });

  const interviewAt = now;
  say(interviewLines);
  const total = lengthOf(interviewLines, 1.6);
  const turns = [
    interviewLines[3]!.start - 0.4,
    interviewLines[5]!.start - 0.3,
    interviewLines[8]!.start - 0.25,
    interviewLines[11]!.start - 0.35,
  ].map(roundUp);
  const pair = (from: number): Placed[] => [
    { who: cast.presenter, x: 1290, y: 800, unit: 92, pose: speaking(interviewLines, 'presenter', from, 0, 0.5) },
    { who: cast.builder, x: 1620, y: 835, unit: 86, pose: speaking(interviewLines, 'builder', from, 2, -0.4) },
  ];
  const two = (from: number, to: number): Part => ({
    shot: still(to - from, at(1450, 860), { people: pair(from) }),
    camera: 'still',
    people: [
      ['presenter', face(92)],
      ['builder', face(86)],
    ],
  });
  const close = (from: number, to: number): Part => ({
    shot: scene(to - from, (t) => at(1640, 860, 1.55 + 0.012 * t), {
      people: [{ ...pair(from)[1]!, x: 1660, y: 870 }],
    }),
    camera: 'still',
    people: [['builder', face(86, 1.55)]],
  });
  add(two(0, turns[0]!));
  add(close(turns[0]!, turns[1]!));
  add(two(turns[1]!, turns[2]!));
  add(close(turns[2]!, turns[3]!));
  add(two(turns[3]!, total));

  add({ shot: still(9, at(1440, 900), { more: { dark: () => 0.955 } }), camera: 'still', people: [], flaw: 'dark' });

  const words = sayLines(captainTalk, 1.1);
  say(words);
  add({
    shot: still(lengthOf(words, 1.2), at(1000, 850), {
      people: [
        { who: cast.presenter, x: 820, y: 800, unit: 94, pose: speaking(words, 'presenter', 0, 1, 0.5) },
        { who: cast.captain, x: 1180, y: 815, unit: 96, pose: speaking(words, 'captain', 0, 5, -0.4) },
      ],
      boats: (t) => waiting(t).slice(1),
    }),
    camera: 'still',
    people: [
      ['presenter', face(94)],
      ['captain', face(96)],
    ],
  });
  add({
    shot: scene(10, (t) => at(2150 - 700 * ease(t, 0.5, 9.5), 860, 1.1), {
      boats: waiting,
      people: crowd(1900, 910, 48, (t) => 0.3 + 0.2 * Math.sin(t)),
    }),
    camera: 'smooth',
    people: [],
  });

  const call = sayLines(calling, 2.4);
  say(call);
  burst('horn', horn(1), 1, 1);
  const raceLength = lengthOf(call, 0.4);
  const wide = roundUp(call[1]!.end + 0.6);
  add({ shot: scene(wide, () => at(1150, 830, 0.96), { boats: race(-2) }), camera: 'still', people: [] });
  burst('cheer', cheer(31, 6.5), raceLength - wide - 2.6, 0.8);
  add({
    shot: scene(raceLength - wide + 3, (t) => at(1180 + 135 * (t + 1), 850, 1.15), { boats: race(wide - 3.5) }),
    camera: 'smooth',
    people: [],
  });
  burst('cheer', cheer(32, 8.5), 0.8, 1);
  add({
    shot: still(13, at(1440, 870), {
      people: crowd(1440, 860, 52, (t) => 0.15 + 0.85 * ease(t, 0.6, 1.6) * (1 - ease(t, 8, 11))),
    }),
    camera: 'still',
    people: ['rower', 'neighbour', 'child', 'captain', 'builder'].map((name) => [name, face(52)]),
  });

  const shake = handheld(51, (t) => 15 + 7 * Math.sin(t));
  add({
    shot: scene(14, (t) => shake(at(1000 + 36 * t, 860), t), { boats: waiting, more: { exposures: 3 } }),
    camera: 'shaky',
    people: [],
  });

  const sink = sayLines(sinking, 2.2);
  say(sink);
  burst('splash', splash(71), sink[1]!.start + 1, 1);
  burst('cheer', cheer(33, 4.2), sink[1]!.end + 0.2, 0.75);
  const down = (t: number) => ease(t, sink[0]!.start, sink[1]!.end + 1.4);
  const captainFrom = roundUp(sink[2]!.start - 0.6);
  add({
    shot: scene(captainFrom, (t) => at(1440 + 14 * t, 850, 1.1 + 0.012 * t), {
      boats: (t) => [
        {
          x: 1480 + 16 * t,
          y: 860,
          scale: 1.15,
          hull: '#b98a52',
          sail: '#cfe6cf',
          seconds: t * (1 + down(t)),
          sunk: down(t),
        },
      ],
      people: [],
    }),
    camera: 'smooth',
    people: [],
  });
  add({
    shot: still(lengthOf(sink, 1.2) - captainFrom, at(1440, 850), {
      people: [{ who: cast.captain, x: 1450, y: 860, unit: 150, pose: speaking(sink, 'captain', captainFrom, 4) }],
    }),
    camera: 'still',
    people: [['captain', face(150)]],
  });
  add({ shot: still(14, at(620, 860)), camera: 'still', people: [] });

  const end = sayLines(closing, 0.9);
  say(end);
  add({
    shot: still(lengthOf(end, 2.6), at(1440, 850), {
      people: [
        {
          who: cast.presenter,
          x: 1310,
          y: 800,
          unit: 95,
          pose: (t) => ({
            ...speaking(end, 'presenter', 0, 0)(t),
            ...(t > end.at(-1)!.end ? { smile: 1, mouth: 0.4 } : {}),
          }),
        },
        {
          who: cast.child,
          x: 1620,
          y: 890,
          unit: 74,
          pose: alive(3, (t) => ({ smile: 0.9, wave: t > 3 ? 0.7 + 0.3 * Math.sin(t * 8) : 0 })),
        },
      ],
    }),
    camera: 'still',
    people: [
      ['presenter', face(95)],
      ['child', face(74)],
    ],
  });

  const mix = new Mix(now);
  mix.add(pondTone(11, now), 0);
  for (const line of spoken)
    mix.add(line.samples, line.start, line.who === 'caller' ? 0.62 : 0.8, line.who === 'builder' ? 0.2 : 0);
  for (const [sound, seconds, gain] of sounds) mix.add(sound, seconds, gain);
  mix.add(
    bandNoise(19, 14, 300, 2500).map((v) => v * 0.25),
    truthStart(parts, 'shaky'),
    0.3,
  );
  return {
    shots: parts.map((part) => part.shot),
    mix,
    truth: describe('race-day.mp4', parts, spoken, bursts, now),
    interviewAt,
  };
}

function truthStart(parts: Part[], kind: string): number {
  let start = 0;
  for (const part of parts) {
    if (part.camera === kind) return start;
    start += part.shot.seconds;
  }
  return start;
}

function describe(file: string, parts: Part[], spoken: SpokenLine[], bursts: Truth['bursts'], seconds: number): Truth {
  const truth: Truth = { ...emptyTruth(file, seconds), bursts };
  let start = 0;
  for (const part of parts) {
    const end = start + Math.round(part.shot.seconds * frame.fps) / frame.fps;
    if (start > 0) truth.cuts.push(start);
    for (const [who, faceHeight] of part.people) truth.people.push({ who, start, end, faceHeight });
    truth.camera.push({ start, end, kind: part.camera });
    if (part.flaw) truth.flaws.push({ start, end, kind: part.flaw });
    start = end;
  }
  truth.speech = spoken.map(({ who, text, start: from, end }) => ({ who, text, start: from, end }));
  return truth;
}
