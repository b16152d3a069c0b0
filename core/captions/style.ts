import type { CaptionFont, CaptionStyle } from './types';

/** What of a font must be known to set it in the same place on screen and in a file. */
export interface FontFace {
  /** Family and weight in a browser. */
  family: string;
  weight: number;
  /** The font's own full name, by which libass finds it. */
  fullName: string;
  /** Windows ascent and descent (OpenType OS/2 table) in shares of the em; libass sets lines by them. */
  ascent: number;
  descent: number;
  /** Package and file it ships in. */
  file: string;
}

/** Fonts that ship with the application for captions; numbers read out of the files. */
export const captionFonts: Readonly<Record<CaptionFont, FontFace>> = {
  Figtree: {
    family: 'Figtree',
    weight: 800,
    fullName: 'Figtree Light ExtraBold',
    ascent: 0.979,
    descent: 0.222,
    file: 'figtree/files/figtree-SUBSET-800-normal.woff2',
  },
  'Archivo Black': {
    family: 'Archivo Black',
    weight: 400,
    fullName: 'Archivo Black Regular',
    ascent: 1.035,
    descent: 0.312,
    file: 'archivo-black/files/archivo-black-SUBSET-400-normal.woff2',
  },
  'Bricolage Grotesque': {
    family: 'Bricolage Grotesque',
    weight: 800,
    fullName: 'Bricolage Grotesque 96pt ExtraBold ExtraBold',
    ascent: 1.16,
    descent: 0.4,
    file: 'bricolage-grotesque/files/bricolage-grotesque-SUBSET-800-normal.woff2',
  },
  Fraunces: {
    family: 'Fraunces',
    weight: 900,
    fullName: 'Fraunces Black',
    ascent: 1.17,
    descent: 0.3045,
    file: 'fraunces/files/fraunces-SUBSET-900-normal.woff2',
  },
  'Spline Sans Mono': {
    family: 'Spline Sans Mono',
    weight: 700,
    fullName: 'Spline Sans Mono Bold',
    ascent: 1.08,
    descent: 0.311,
    file: 'spline-sans-mono/files/spline-sans-mono-SUBSET-700-normal.woff2',
  },
};
/** Every font that captions can be set in. */
export const captionFontNames = Object.keys(captionFonts) as CaptionFont[];

/** Of the picture's height, what players on phones cover with their own controls: above this and below that captions are hidden. Common practice, no source. */
export const clearOfPlayers = { top: 0.12, bottom: 0.78 };

/** White with the spoken word in lamp light, in the lower middle, clear of a phone player's controls. */
export const captionDefaults: CaptionStyle = {
  font: 'Figtree',
  size: 7.4,
  colour: '#ffffff',
  lit: '#ffc95c',
  emphasis: '#8fe0d4',
  outline: '#10161a',
  outlineWidth: 9,
  box: null,
  place: 0.68,
  upper: false,
  motion: 'none',
  letters: 36,
};

/** Of the second and each further speaker, on a dark ground and on a light one; ours. */
const onDark = ['#b8c7ff', '#c9e59a', '#f7b2c4', '#ffd166', '#8fe0d4', '#ffb38a'],
  onLight = ['#2a3f9a', '#7a1f4d', '#3f5a10', '#8a2f12', '#0e5f57', '#5a3d8a'];
/** Colours that are nearer to one another are not told apart at a glance; in steps of 0 to 255 along red, green and blue. */
const apart = 70;

const parts = (colour: string): number[] => [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16));
const distance = (a: string, b: string): number => Math.hypot(...parts(a).map((part, at) => part - parts(b)[at]!));

/** How bright a colour `#rrggbb` looks, 0 to 1 (relative luminance, WCAG 2.2). */
function luminance(colour: string): number {
  const [r, g, b] = parts(colour).map((part) => {
    const share = part / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}

/**
 * Colours for speakers that can be read where letters of this style can: dark ones where those are dark; none that could be
 * taken for the word that is being spoken, or for an important one.
 */
export const speakerColours = ({ colour, lit, emphasis }: CaptionStyle): string[] =>
  (luminance(colour) > 0.18 ? onDark : onLight).filter((own) =>
    [colour, lit, emphasis].every((other) => distance(own, other) >= apart),
  );

/** Another look on the same captions: what they say, and for whom, stays. */
export const inLook = (look: CaptionStyle, now: CaptionStyle | null): CaptionStyle => ({
  ...look,
  ...(now?.speakers ? { speakers: speakerColours(look) } : {}),
  ...(now?.second ? { second: now.second } : {}),
});

/** Whether two styles are the same, whatever the order of what they say. */
export const sameStyle = (a: CaptionStyle, b: CaptionStyle): boolean => said(a) === said(b);
const said = (style: CaptionStyle): string =>
  JSON.stringify(Object.entries(style).sort(([one], [other]) => (one < other ? -1 : 1)));

/** Some whole styles to begin with; ours. */
export const captionLooks: readonly { name: string; style: CaptionStyle }[] = [
  { name: 'Lamplight', style: captionDefaults },
  {
    name: 'Poster',
    style: {
      ...captionDefaults,
      font: 'Archivo Black',
      size: 8.2,
      upper: true,
      lit: '#ff8f6b',
      emphasis: '#ffd9a0',
      motion: 'pop',
      letters: 28,
    },
  },
  {
    name: 'Plate',
    style: {
      ...captionDefaults,
      font: 'Figtree',
      size: 6.4,
      outlineWidth: 0,
      box: '#0f1418cc',
      lit: '#ffc95c',
      letters: 40,
    },
  },
  {
    name: 'Programme',
    style: {
      ...captionDefaults,
      font: 'Fraunces',
      size: 7.2,
      colour: '#fff4dc',
      lit: '#f7b2c4',
      emphasis: '#f7b2c4',
      motion: 'fade',
    },
  },
  {
    name: 'Signal',
    style: {
      ...captionDefaults,
      font: 'Spline Sans Mono',
      size: 5.6,
      outlineWidth: 0,
      colour: '#10161a',
      lit: '#8a2f12',
      emphasis: '#0e5f57',
      box: '#f2ede4f2',
      letters: 32,
    },
  },
  {
    name: 'Fairground',
    style: {
      ...captionDefaults,
      font: 'Bricolage Grotesque',
      size: 8,
      lit: '#7ce0c8',
      emphasis: '#ffd166',
      motion: 'pop',
    },
  },
];
