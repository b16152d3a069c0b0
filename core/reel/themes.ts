import type { Look } from '#core/look';
import type { StillMove } from '#core/framing';
import type { TransitionKind } from './types';

/** How titles of a theme are set. */
export interface TitleStyle {
  /** "Figtree" or "Spline Sans Mono"; both ship with the application. */
  family: string;
  weight: number;
  colour: string;
  subColour: string;
  /** Behind the text; null for none. */
  plate: string | null;
  accent: string;
  /** Text against the middle, or against the left safe edge. */
  align: 'middle' | 'left';
  upper: boolean;
  /** How titles come and go. */
  motion: 'fade' | 'rise' | 'slide';
}

/** What is set together. */
export interface Theme {
  name: string;
  says: string;
  title: TitleStyle;
  transition: { kind: TransitionKind; seconds: number } | null;
  look: Look | null;
  /** For the photo at a place of its track; null leaves it still. */
  stillMove(index: number): StillMove | null;
}

const look = (exposure: number, contrast: number, saturation: number, temperature: number, named?: string): Look => ({
  exposure,
  contrast,
  saturation,
  temperature,
  ...(named ? { named } : {}),
});
const whole = { x: 0, y: 0, width: 1, height: 1 };
const near = (share: number, x = (1 - share) / 2, y = (1 - share) / 2) => ({ x, y, width: share, height: share });
/** In at even places, out at odd ones, so that two photos in a row differ. */
const inAndOut =
  (share: number) =>
  (index: number): StillMove =>
    index % 2 ? { from: near(share), to: whole } : { from: whole, to: near(share) };
const along =
  (share: number) =>
  (index: number): StillMove =>
    index % 2
      ? { from: near(share, 1 - share), to: near(share, 0) }
      : { from: near(share, 0), to: near(share, 1 - share) };

/** The themes that ship. */
export const themes: readonly Theme[] = [
  {
    name: 'Landing stage',
    says: 'plain and clear: cuts, a white lower third',
    transition: null,
    look: null,
    stillMove: inAndOut(0.9),
    title: {
      family: 'Figtree',
      weight: 700,
      colour: '#ffffff',
      subColour: '#e6ecef',
      plate: 'rgba(12,18,22,0.62)',
      accent: '#ffffff',
      align: 'left',
      upper: false,
      motion: 'slide',
    },
  },
  {
    name: 'Morning mist',
    says: 'soft dissolves, gentle contrast, thin letters',
    transition: { kind: 'dissolve', seconds: 0.8 },
    look: look(0.06, -0.2, -0.15, -0.1),
    stillMove: inAndOut(0.85),
    title: {
      family: 'Figtree',
      weight: 300,
      colour: '#ffffff',
      subColour: '#f0f4f5',
      plate: null,
      accent: '#dfe8ea',
      align: 'middle',
      upper: false,
      motion: 'fade',
    },
  },
  {
    name: 'Brass band',
    says: 'warm and bold: pushes, capitals, strong colour',
    transition: { kind: 'push', seconds: 0.4 },
    look: look(0.02, 0.2, 0.25, 0.18),
    stillMove: along(0.82),
    title: {
      family: 'Figtree',
      weight: 900,
      colour: '#fff4d8',
      subColour: '#2a1508',
      plate: '#b5472b',
      accent: '#f2b84b',
      align: 'left',
      upper: true,
      motion: 'slide',
    },
  },
  {
    name: 'Logbook',
    says: 'like a report: wipes, typewriter letters, muted colour',
    transition: { kind: 'wipe', seconds: 0.5 },
    look: look(0, 0.12, -0.35, 0.02),
    stillMove: () => null,
    title: {
      family: 'Spline Sans Mono',
      weight: 500,
      colour: '#e9e4d4',
      subColour: '#c8c2ae',
      plate: 'rgba(20,20,16,0.8)',
      accent: '#c8c2ae',
      align: 'left',
      upper: false,
      motion: 'fade',
    },
  },
  {
    name: 'Lantern night',
    says: 'dark and glowing: dips to black, deep shadows',
    transition: { kind: 'black', seconds: 0.7 },
    look: look(-0.08, 0.3, 0.1, 0.25, 'Ember'),
    stillMove: inAndOut(0.8),
    title: {
      family: 'Figtree',
      weight: 600,
      colour: '#ffe9c2',
      subColour: '#e0c9a0',
      plate: null,
      accent: '#e8a24a',
      align: 'middle',
      upper: false,
      motion: 'rise',
    },
  },
  {
    name: 'Regatta day',
    says: 'bright and quick: dips to white, crisp blue',
    transition: { kind: 'white', seconds: 0.4 },
    look: look(0.08, 0.1, 0.2, -0.12),
    stillMove: along(0.88),
    title: {
      family: 'Figtree',
      weight: 800,
      colour: '#0f2a3d',
      subColour: '#27506b',
      plate: 'rgba(255,255,255,0.9)',
      accent: '#2f86c1',
      align: 'left',
      upper: false,
      motion: 'rise',
    },
  },
];

/** For reels without a theme. */
export const plainTheme = themes[0]!;
/** The theme of a name; null for none. */
export const findTheme = (name: string | undefined): Theme | null =>
  themes.find((theme) => theme.name === name) ?? null;
