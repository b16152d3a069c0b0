import { shade, type Shade } from '../ui/shade';

/** Colours for what the document draws; they follow the shade by themselves. */
export const colours = {
  ground: 'var(--color-ground)',
  raised: 'var(--color-raised)',
  line: 'var(--color-line)',
  text: 'var(--color-text)',
  muted: 'var(--color-muted)',
  lamp: 'var(--color-lampline)',
  faces: 'var(--color-faces)',
  speech: 'var(--color-speech)',
  motion: 'var(--color-motion)',
  camera: 'var(--color-camera)',
  shake: 'var(--color-shake)',
  sound: 'var(--color-sound)',
} as const;

/** Colours for canvases, which know no variables: those of `app.css`, and some that only canvases have. */
interface Inks extends Record<keyof typeof colours, string> {
  playhead: string;
  /** The landscape that is kept. */
  lampFill: string;
  /** The landscape that is not. */
  hill: string;
  /** Light over what is kept, and around its line. */
  beam: string;
  glow: string;
  /** Over what is not kept, and over what is flawed as well. */
  dim: string;
  dimMore: string;
  hatch: string;
  /** Under a name, and where a scene begins. */
  label: string;
  boundary: string;
  /** Of music within what is used of it, and beside that. */
  wave: string;
  waveOutside: string;
}

const byShade: Record<Shade, Inks> = {
  dark: {
    ground: '#0f1418',
    raised: '#172027',
    line: '#2a353d',
    text: '#f2ede4',
    muted: '#9fabb2',
    lamp: '#ffc95c',
    faces: '#f08fa8',
    speech: '#4fc3b5',
    motion: '#6fb2ff',
    camera: '#b7a1ff',
    shake: '#ff7a59',
    sound: '#d9c7a3',
    playhead: '#fff6df',
    lampFill: '#ffc95c',
    hill: '#33424b',
    beam: 'rgba(255,201,92,0.16)',
    glow: 'rgba(255,201,92,0.55)',
    dim: 'rgba(15,20,24,0.74)',
    dimMore: 'rgba(15,20,24,0.5)',
    hatch: 'rgba(159,171,178,0.28)',
    label: 'rgba(15,20,24,0.72)',
    boundary: 'rgba(242,237,228,0.45)',
    wave: '#7b7265',
    waveOutside: '#3a3c38',
  },
  light: {
    ground: '#f1efe9',
    raised: '#ffffff',
    line: '#cfcbc1',
    text: '#1c2429',
    muted: '#525d64',
    lamp: '#8a5a00',
    faces: '#b52c52',
    speech: '#0b7568',
    motion: '#1c66b5',
    camera: '#6248c8',
    shake: '#b4360f',
    sound: '#7d6836',
    playhead: '#1c2429',
    lampFill: '#f3b53a',
    hill: '#c2beb4',
    beam: 'rgba(243,181,58,0.24)',
    glow: 'rgba(243,181,58,0.7)',
    dim: 'rgba(241,239,233,0.72)',
    dimMore: 'rgba(241,239,233,0.5)',
    hatch: 'rgba(82,93,100,0.34)',
    label: 'rgba(255,255,255,0.8)',
    boundary: 'rgba(28,36,41,0.45)',
    wave: '#8d8474',
    waveOutside: '#d2cdc2',
  },
};

/** Of the shade as it is now; whoever draws with them draws anew when `useShade` changes. */
export const inks = (): Inks => byShade[shade()];
