import { defaultLimits, defaultMix, defaultPieceLength, type Limits, type Mix, type PieceLength } from './types';

/** A saved set of choices: what counts, what is shut out, how long pieces are. */
export interface Recipe {
  name: string;
  mix: Mix;
  limits: Limits;
  piece: PieceLength;
  /** 0 for only the best, 100 for something of everything; 50 when missing. */
  variety?: number;
}

/** Ready mixes, for the four things that reels are made of most. Common practice, no source. */
export const readyMixes: (Recipe & { says: string })[] = [
  {
    name: 'People talking',
    says: 'faces and whole sentences',
    mix: { people: 80, talk: 100, action: 5, camera: 0, sound: 10, picture: 15 },
    limits: defaultLimits,
    piece: { minSeconds: 2, preferredSeconds: 6, maxSeconds: 30 },
    variety: 30,
  },
  {
    name: 'Action',
    says: 'things that move, cheers',
    mix: { people: 10, talk: 0, action: 100, camera: 25, sound: 60, picture: 10 },
    limits: { ...defaultLimits, shake: 0.6 },
    piece: { minSeconds: 1.5, preferredSeconds: 3, maxSeconds: 10 },
    variety: 30,
  },
  {
    name: 'Scenery',
    says: 'steady moves, fine pictures',
    mix: { people: 0, talk: 0, action: 15, camera: 100, sound: 0, picture: 80 },
    limits: { ...defaultLimits, shake: 0.3, blur: 0.45 },
    piece: { minSeconds: 3, preferredSeconds: 5, maxSeconds: 15 },
    variety: 50,
  },
  {
    name: 'Whole event',
    says: 'a little of everything',
    mix: defaultMix,
    limits: defaultLimits,
    piece: defaultPieceLength,
  },
];
