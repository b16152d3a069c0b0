import type { SKRSContext2D } from '@napi-rs/canvas';
import type { Shot, View } from './camera';
import { cast, drawPerson, type Character, type Pose } from './people';
import { drawBoat, drawShimmer, type Boat } from './scenery';

export interface Placed {
  who: Character;
  x: number;
  y: number;
  unit: number;
  pose(seconds: number): Pose;
}

export const at = (x: number, y: number, zoom = 1): View => ({ x, y, zoom, roll: 0 });

/** Blinks every few seconds; each person at another time. */
function blink(seconds: number, shift: number): number {
  const phase = (seconds + shift * 1.37) % 3.7;
  return phase < 0.16 ? Math.sin((phase / 0.16) * Math.PI) : 0;
}

/** A pose that lives: blinking, small turns and nods. */
export const alive =
  (shift: number, more: (seconds: number) => Pose = () => ({})) =>
  (seconds: number): Pose => ({
    blink: blink(seconds, shift),
    turn: Math.sin(seconds * 0.8 + shift * 2) * 0.25,
    nod: Math.sin(seconds * 1.9 + shift),
    ...more(seconds),
  });

/** Pond, boats and people, in front of the camera for `seconds`. */
export function scene(
  seconds: number,
  view: (seconds: number) => View,
  what: { people?: Placed[]; boats?: (seconds: number) => Boat[]; more?: Partial<Shot> },
): Shot {
  return {
    seconds,
    view,
    draw(context: SKRSContext2D, now: number) {
      drawShimmer(context, now);
      for (const boat of what.boats?.(now) ?? []) drawBoat(context, boat);
      for (const each of what.people ?? []) drawPerson(context, each.who, each.x, each.y, each.unit, each.pose(now));
    },
    ...what.more,
  };
}

const fleet = [
  { hull: '#b98a52', sail: '#ffd9d2', y: 760, scale: 0.62, speed: 118, start: 500 },
  { hull: '#c79a62', sail: '#d4e6ff', y: 815, scale: 0.78, speed: 142, start: 330 },
  { hull: '#a77b48', sail: '#fff0bb', y: 885, scale: 0.98, speed: 168, start: 150 },
];

/** Three boats that race from left to right, `from` seconds after the start. */
export const race =
  (from: number, seed = 0) =>
  (seconds: number): Boat[] =>
    fleet.map((boat, index) => ({
      ...boat,
      seconds: seconds + index,
      x: boat.start + (from + seconds) * boat.speed * (1 + 0.12 * Math.sin((from + seconds) * 0.5 + index * 2 + seed)),
    }));

/** Boats that wait at the start, hardly moving. */
export const waiting = (seconds: number): Boat[] =>
  fleet.map((boat, index) => ({
    ...boat,
    seconds: seconds * 0.6 + index,
    x: 980 + index * 330 + Math.sin(seconds * 0.3 + index) * 8,
  }));

const audience = [cast.rower, cast.neighbour, cast.child, cast.captain, cast.builder];

/** Five of the village in a row on the lawn. */
export const crowd = (x: number, y: number, unit: number, joy: (seconds: number) => number): Placed[] =>
  audience.map((who, index) => ({
    who,
    x: x + (index - 2) * unit * 4.3,
    y: y + (index % 2) * unit * 0.7,
    unit: unit * (who === cast.child ? 0.86 : 1),
    pose: alive(index * 1.9, (seconds) => ({
      smile: joy(seconds),
      mouth: joy(seconds) * (0.4 + 0.4 * Math.sin(seconds * 6 + index)),
      wave: joy(seconds) > 0.4 ? 0.55 + 0.35 * Math.sin(seconds * 7 + index * 2) : 0,
      nod: Math.sin(seconds * (2 + joy(seconds) * 6) + index) * (1 + joy(seconds)),
    })),
  }));

export { cast };
