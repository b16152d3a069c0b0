/**
 * Whole events as somebody brings them home: clips with waiting before and after what matters, second takes, flaws,
 * photos; and the truth about each. All invented, drawn and spoken by the demo's own tools.
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FilmCamera, frame, handheld, type Shot, type View } from '../../demo/camera';
import { encodeFilm } from '../../demo/film';
import { ease, seededRandom, type Random } from '../../demo/random';
import { alive, at, cast, crowd, race, scene, waiting, type Placed } from '../../demo/shots';
import { Mix, bandNoise, cheer, pondTone } from '../../demo/sound';
import { paintWorld } from '../../demo/scenery';
import { mouthAt, sayLines, type Line } from '../../demo/voice';
import type { MomentKind } from '#core/moments';
import type { Range } from '#core/time';

/** Something that somebody who was there would want in the reel. */
export interface Planted extends Range {
  /** The same for two takes of one thing. */
  id: string;
  kind: MomentKind;
}

/** What is true of a file. */
export interface EventFile {
  file: string;
  photo: boolean;
  seconds: number;
  planted: Planted[];
  flaws: Range[];
  sentences: Range[];
}

/** One event: its name, and its files in the order in which they were made. */
export interface PickEvent {
  name: string;
  files: EventFile[];
}

const size = { ...frame, width: 640, height: 360, fps: 15 };

interface Clip {
  shot: Shot;
  planted: Planted[];
  flaws?: Range[];
  sentences?: Range[];
  sound?: (mix: Mix) => void;
  /** Level of the background; wind and people are louder than a pond. */
  tone?: number;
  photo?: boolean;
}

const lines = [
  'Never fold the bottom twice, it only makes it weaker.',
  'We put forty layers of tape on her, and she still leaks.',
  'My grandmother won this race with a box for a fridge.',
  'The red one sank before they had even fired the horn.',
  'You have to lean back, or you will taste the pond.',
  'I told him to glue it, and he used porridge.',
  'She floats like a brick, but she looks like a swan.',
  'The secret is the wax, three candles on every seam.',
  'Nobody believed that a cereal box could carry a grown man.',
  'Next year we will bring a bigger boat and a smaller captain.',
  'The ducks were faster than all of us together.',
  'I have never been so wet and so happy in my life.',
];
const speakers = ['presenter', 'builder', 'captain'] as const;

/** A person close to the lens says one or two things; before and after he waits. */
function talk(random: Random, id: string, text: string, slower = 1): Clip {
  const who = speakers[Math.floor(random() * speakers.length)]!;
  const before = 4 + random() * 6;
  const spoken = sayLines([{ who, text } satisfies Line], before);
  const [line] = spoken;
  const start = line!.start;
  const end = line!.end;
  const seconds = end + 5 + random() * 6;
  const hold = handheld(Math.floor(random() * 900), () => 0.8 * slower);
  const x = 900 + random() * 1000;
  const person: Placed = {
    who: cast[who],
    x: x + 20,
    y: 850,
    unit: 112,
    pose: alive(random() * 5, (t) => {
      const speaks = t > start - 0.3 && t < end + 0.3;
      return { mouth: mouthAt(spoken, who, t), smile: speaks ? 0.35 : 0, turn: speaks ? 0.05 : 0.9 };
    }),
  };
  return {
    shot: scene(seconds, (t) => hold(at(x, 880), t), { people: [person] }),
    planted: [{ id, kind: 'talk', start, end }],
    sentences: [{ start, end }],
    sound: (mix) => mix.add(line!.samples, start, 0.8),
  };
}

/** An empty pond; then boats race past close to the lens, and are gone. */
function action(random: Random, id: string): Clip {
  const before = 6 + random() * 6;
  const length = 2.6 + random() * 1.6;
  const seconds = before + length + 5 + random() * 5;
  const zoom = 1 + random() * 0.7;
  const [x, y] = [800 + random() * 1200, 800 + random() * 90];
  const [seed, count, back] = [random() * 9, 1 + Math.floor(random() * 3), random() > 0.5];
  // From beyond one edge of the picture to beyond the other.
  const half = 640 / zoom + 260;
  return {
    shot: scene(seconds, () => at(x, y, zoom), {
      boats: (t) =>
        race(
          0,
          seed,
        )(0)
          .slice(3 - count)
          .map((boat, index) => {
            const way = 2 * half * ((t - before) / length) - half - index * 120;
            return {
              ...boat,
              scale: boat.scale * (1 + seed / 18),
              seconds: t * 2 + index,
              x: x + (back ? -way : way),
              facing: back ? (-1 as const) : (1 as const),
            };
          }),
    }),
    planted: [{ id, kind: 'action', start: before + 0.2 * length, end: before + 0.8 * length }],
  };
}

/** The crowd stands, then waves and cheers, then stands. */
function applause(random: Random, id: string): Clip {
  const before = 7 + random() * 5;
  const seconds = before + 4 + 5 + random() * 4;
  const x = 900 + random() * 1100;
  const joy = (t: number) => 0.1 + 0.9 * ease(t, before - 0.3, before + 0.4) * (1 - ease(t, before + 3.4, before + 4));
  const seed = Math.floor(random() * 1e6);
  const near = random();
  return {
    shot: scene(seconds, () => at(x, 850 + 40 * near, 1 + 0.25 * near), { people: crowd(x, 860, 52, joy) }),
    planted: [{ id, kind: 'reaction', start: before, end: before + 3.6 }],
    sound: (mix) => mix.add(cheer(seed, 4), before, 0.8),
  };
}

/** Somebody laughs all of a sudden. */
function laugh(random: Random, id: string): Clip {
  const who = [cast.child, cast.neighbour, cast.rower, cast.builder][Math.floor(random() * 4)]!;
  const [unit, aside] = [100 + 50 * random(), 300 * (random() - 0.5)];
  const before = 6 + random() * 5;
  const seconds = before + 3 + 5 + random() * 4;
  const x = 900 + random() * 1100;
  const joy = (t: number) => ease(t, before - 0.2, before + 0.3) * (1 - ease(t, before + 2.8, before + 3.4));
  const seed = Math.floor(random() * 1e6);
  return {
    shot: scene(seconds, () => at(x, 880), {
      people: [
        {
          who,
          x: x + aside,
          y: 850,
          unit,
          pose: alive(3, (t) => ({ smile: joy(t), mouth: 0.6 * joy(t), turn: 0.85 * (1 - joy(t)) })),
        },
      ],
    }),
    planted: [{ id, kind: 'reaction', start: before, end: before + 2.9 }],
    sound: (mix) => mix.add(cheer(seed, 2.8), before, 0.45),
  };
}

/** Someone looks away, then into the lens with a smile, then away. */
function face(random: Random, id: string): Clip {
  const who = [cast.captain, cast.neighbour, cast.rower, cast.builder][Math.floor(random() * 4)]!;
  const before = 6 + random() * 5;
  const seconds = before + 3.2 + 5 + random() * 4;
  const x = 900 + random() * 1100;
  const joy = (t: number) => ease(t, before - 0.3, before + 0.3) * (1 - ease(t, before + 3, before + 3.6));
  return {
    shot: scene(seconds, () => at(x, 880), {
      people: [{ who, x, y: 850, unit: 135, pose: alive(1, (t) => ({ smile: joy(t), turn: 1 - joy(t) })) }],
    }),
    planted: [{ id, kind: 'faces', start: before, end: before + 3 }],
  };
}

/** Five people come together for the lens. */
function group(random: Random, id: string): Clip {
  const before = 6 + random() * 4;
  const seconds = before + 3.5 + 5 + random() * 4;
  const x = 900 + random() * 1100;
  const joy = (t: number) => ease(t, before - 0.3, before + 0.3) * (1 - ease(t, before + 3.2, before + 3.8));
  const people = crowd(x, 830 + 60 * random(), 54 + 16 * random(), (t) => 0.75 * joy(t))
    .slice(0, 3 + Math.floor(3 * random()))
    .map((each) => ({
      ...each,
      pose: (t: number) => ({ ...each.pose(t), ...(joy(t) < 0.3 ? { turn: 1 } : {}) }),
    }));
  return {
    shot: scene(seconds, () => at(x, 880), { people }),
    planted: [{ id, kind: 'group', start: before, end: before + 3.2 }],
  };
}

/** The camera rests, pans softly, and rests on what it came for. */
function pan(random: Random, id: string): Clip {
  const before = 5 + random() * 4;
  const length = 4 + random() * 1.5;
  const seconds = before + length + 4 + random() * 3;
  const back = random() > 0.5;
  const [left, right, y, zoom] = [
    650 + 300 * random(),
    1850 + 300 * random(),
    730 + 140 * random(),
    0.95 + 0.35 * random(),
  ];
  const view = (t: number): View => {
    const share = ease(t, before, before + length);
    return at(left + (right - left) * (back ? 1 - share : share), y, zoom);
  };
  const people = random() > 0.5 ? crowd(back ? left : right, y + 60, 40 + 10 * random(), () => 0.5) : [];
  return {
    shot: scene(seconds, view, { boats: waiting, people }),
    planted: [{ id, kind: 'camera', start: before + 0.25 * length, end: before + length + 0.3 }],
  };
}

/** The lawn at somebody's feet, then the whole place, still. */
function view(random: Random, id: string): Clip {
  const before = 5 + random() * 4;
  const x = 800 + random() * 1200;
  const seconds = before + 1.5 + 7;
  const sway = handheld(Math.floor(random() * 900), (t) => (t < before ? 2.5 : 0.5));
  return {
    shot: scene(
      seconds,
      (t) => sway(at(x, 1170 - 420 * ease(t, before, before + 1.5), 3 - 2.05 * ease(t, before, before + 1.5)), t),
      {
        boats: waiting,
      },
    ),
    planted: [{ id, kind: 'scenery', start: before + 1.8, end: seconds }],
    flaws: [{ start: 0, end: before }],
  };
}

/** Nothing happens: a piece of the shore, for a long time. */
function dull(random: Random): Clip {
  const y = 990 + 60 * random();
  const x = 800 + random() * 1300;
  const sway = handheld(Math.floor(random() * 900), () => 0.8);
  return {
    shot: scene(16 + random() * 14, (t) => sway(at(x, y, 1.9), t), { boats: (t) => waiting(t).slice(0, 1) }),
    planted: [],
  };
}

type FlawKind = 'shaky' | 'dark' | 'blurred' | 'covered' | 'ground' | 'haze' | 'wind';
/** A clip that is good for nothing. */
function flawed(random: Random, kind: FlawKind): Clip {
  const x = 900 + random() * 1100;
  const seconds = 10 + random() * 6;
  const walk = handheld(Math.floor(random() * 900), () => (kind === 'shaky' ? 16 : kind === 'ground' ? 5 : 0.8));
  const people = crowd(x, 870, 44, () => 0.3).slice(0, 3);
  const veil = kind === 'haze' ? 'rgba(196,202,206,0.86)' : kind === 'covered' ? 'rgba(58,30,24,0.96)' : null;
  const shot = scene(seconds, (t) => walk(kind === 'ground' ? at(x + 40 * Math.sin(t), 1175, 3.2) : at(x, 880), t), {
    people: kind === 'ground' ? [] : people,
    more: {
      ...(kind === 'shaky' ? { exposures: 2 } : {}),
      ...(kind === 'blurred' ? { defocus: 12 } : {}),
      ...(kind === 'dark' ? { dark: () => 0.93 } : {}),
    },
  });
  const draw = shot.draw;
  if (veil)
    shot.draw = (context, now, place) => {
      draw(context, now, place);
      place.toPicture(() => {
        context.fillStyle = veil;
        context.fillRect(0, 0, size.width, size.height);
      });
    };
  return {
    shot,
    planted: [],
    // Wind spoils the sound; the picture may be used.
    flaws: kind === 'wind' ? [] : [{ start: 0, end: seconds }],
    ...(kind === 'wind' ? { sound: (mix: Mix) => mix.add(bandNoise(7, seconds, 20, 180), 0, 2.5) } : {}),
  };
}

/** A photo: somebody smiles into the lens, another one in each; or nothing much. */
function photo(random: Random, id: string | null): Clip {
  const x = 900 + random() * 1100;
  const happy = alive(1, () => ({ smile: 1 }));
  const alone = (who: Placed['who'], unit: number): Placed[] => [{ who, x, y: 850, unit, pose: happy }];
  const subjects = [
    crowd(x, 870, 56, () => 0.9),
    alone(cast.neighbour, 150),
    alone(cast.captain, 110),
    [...alone(cast.builder, 100), { who: cast.child, x: x + 260, y: 900, unit: 80, pose: happy }],
  ];
  const people = id === null ? [] : subjects[Number(id.split(' ')[1]) % subjects.length]!;
  return {
    photo: true,
    shot: scene(2, () => at(x, id === null ? 1170 : 880, id === null ? 3 : 1), {
      people,
      more: id === null ? { defocus: 9 } : {},
    }),
    planted: id === null ? [] : [{ id, kind: 'photo', start: 0, end: 4 }],
    flaws: id === null ? [{ start: 0, end: 4 }] : [],
  };
}

type Maker = (random: Random, id: string) => Clip;
const makers: Record<Exclude<MomentKind, 'talk' | 'photo'> | 'laugh', Maker> = {
  action,
  reaction: applause,
  laugh,
  faces: face,
  group,
  camera: pan,
  scenery: view,
};

/** What each event consists of: how many of each, what there are two takes of, which flaws. */
const recipes: Record<
  string,
  { plan: Partial<Record<keyof typeof makers | 'talk' | 'photo', number>>; again: string[]; flaws: FlawKind[] }
> = {
  'talk-heavy': {
    plan: { talk: 6, faces: 1, scenery: 1, camera: 1, reaction: 1 },
    again: ['talk 0', 'talk 3'],
    flaws: ['shaky', 'wind'],
  },
  sport: {
    plan: { action: 4, reaction: 2, talk: 1, camera: 1, scenery: 1, faces: 1 },
    again: ['action 1'],
    flaws: ['shaky', 'ground'],
  },
  celebration: {
    plan: { laugh: 2, reaction: 1, group: 2, faces: 2, talk: 2, scenery: 1 },
    again: ['faces 0'],
    flaws: ['dark', 'blurred'],
  },
  travel: {
    plan: { camera: 3, scenery: 3, faces: 1, action: 1, talk: 1, group: 1 },
    again: ['camera 0'],
    flaws: ['haze', 'covered', 'shaky'],
  },
  'interview with b-roll': {
    plan: { talk: 5, action: 1, camera: 1, scenery: 1, faces: 1, group: 1 },
    again: ['talk 1'],
    flaws: ['blurred', 'ground'],
  },
  'photos and videos': {
    plan: { photo: 4, talk: 1, laugh: 1, action: 1, camera: 1, scenery: 1, group: 1 },
    again: ['laugh 0'],
    flaws: ['dark', 'covered'],
  },
};
export const eventNames = Object.keys(recipes);

/** How many numbers are drawn before the one for how long it is waited: who it is comes first. */
const drawnBeforeWait: Record<string, number> = { talk: 1, laugh: 3, faces: 1 };

function clipsOf(name: string, seed: number): Clip[] {
  const { plan, again, flaws } = recipes[name]!;
  const random = seededRandom(seed * 101 + eventNames.indexOf(name) * 7919 + 1);
  const clips: Clip[] = [];
  let said = Math.floor(random() * lines.length);
  for (const [what, count] of Object.entries(plan))
    for (let index = 0; index < count; index++) {
      const id = `${what} ${index}`;
      const makeIt = (text: string) =>
        what === 'talk'
          ? talk(random, id, text)
          : what === 'photo'
            ? photo(random, id)
            : makers[what as keyof typeof makers](random, id);
      const text = lines[said++ % lines.length]!;
      if (!again.includes(id)) clips.push(makeIt(text));
      else {
        // A second take: the same again from the same place, with another hand and another wait.
        const own = Math.floor(random() * 1e6);
        const first = seededRandom(own);
        const second = seededRandom(own);
        const make = (take: Random, pause: number): Clip => {
          let calls = 0;
          const varied = () => (calls++ === (drawnBeforeWait[what] ?? 0) ? (take() + pause) % 1 : take());
          return what === 'talk' ? talk(varied, id, text) : makers[what as keyof typeof makers](varied, id);
        };
        clips.push(make(first, 0), make(second, 0.4));
      }
    }
  for (const kind of flaws) clips.push(flawed(random, kind));
  if (plan.photo) clips.push(photo(random, null), photo(random, null));
  for (let index = 0; index < 4; index++) clips.push(dull(random));
  // In no order that a program could learn.
  for (let index = clips.length - 1; index > 0; index--) {
    const other = Math.floor(random() * (index + 1));
    [clips[index], clips[other]] = [clips[other]!, clips[index]!];
  }
  return clips;
}

/** Draws an event into a folder, once. */
export async function makeEvent(name: string, seed: number, folder: string): Promise<PickEvent> {
  const own = join(folder, `${name.replaceAll(' ', '-')}-${seed}`);
  const list = join(own, 'truth.json');
  if (existsSync(list)) return JSON.parse(readFileSync(list, 'utf8')) as PickEvent;
  mkdirSync(own, { recursive: true });
  const camera = new FilmCamera(paintWorld(), size);
  const files: EventFile[] = [];
  for (const [index, clip] of clipsOf(name, seed).entries()) {
    const { shot, planted, flaws = [], sentences = [], sound, tone = 1.2, photo: isPhoto = false } = clip;
    const file = join(own, `${String(index + 1).padStart(2, '0')}.${isPhoto ? 'jpg' : 'mp4'}`);
    const seconds = Math.ceil(shot.seconds * size.fps) / size.fps;
    if (isPhoto) {
      camera.take(shot, 1);
      writeFileSync(file, camera.still().toBuffer('image/jpeg', 90));
    } else {
      const mix = new Mix(seconds);
      mix.add(pondTone(seed * 50 + index, seconds), 0, tone);
      sound?.(mix);
      await encodeFilm(camera, [{ ...shot, seconds }], mix, file, 24);
    }
    files.push({ file, photo: isPhoto, seconds: isPhoto ? 0 : seconds, planted, flaws, sentences });
  }
  const event = { name, files };
  writeFileSync(list, JSON.stringify(event));
  return event;
}
