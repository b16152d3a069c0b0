import type { HdrTransfer } from '#core/look';

/** How a picture lies: the values of EXIF's tag 0x0112 (CIPA DC-008, 4.6.4), 1 for upright. */
export type Orientation = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8;
/** Whether a value is one of EXIF's. */
export const isOrientation = (value: unknown): value is Orientation =>
  Number.isInteger(value) && Number(value) >= 1 && Number(value) <= 8;
/** Degrees clockwise that bring a picture upright; of mirrored ones, before they are mirrored. */
export const degreesOf = (orientation: Orientation): number => [0, 0, 0, 180, 180, 270, 90, 90, 270][orientation]!;
/** Whether it is mirrored when it is brought upright. */
export const isMirrored = (orientation: Orientation): boolean => [2, 4, 5, 7].includes(orientation);
/** Whether width and height change places when it is brought upright. */
export const turnsSides = (orientation: Orientation): boolean => orientation >= 5;

/** Which field of an interlaced frame was first. */
export type FieldOrder = 'top' | 'bottom';

/** How colours are coded as luma and differences of colours: Rec. ITU-R H.273, table 4; or not at all. */
export const colourMatrices = ['bt601', 'bt709', 'bt2020', 'smpte240m', 'rgb'] as const;

/** How the pictures of a file are coded, as far as it matters for showing them as they are meant. */
export interface PictureCoding {
  /** Number of their stream in the file; -1 for the first with pictures, where that is not known. */
  stream: number;
  /** Whether it is a photo. */
  still: boolean;
  /** As coded, in pixels. */
  width: number;
  height: number;
  /** What brings them upright, in EXIF's values. */
  orientation: Orientation;
  /** Width ÷ height of a pixel as coded. */
  pixelAspect: { num: number; den: number };
  /** Of interlaced pictures. */
  fields: FieldOrder | null;
  hdr: HdrTransfer | null;
  /** Brightest light of HDR, in cd/m². */
  peakNits: number;
  /** Whether the primaries are those of BT.2020. */
  wideGamut: boolean;
  matrix: (typeof colourMatrices)[number];
  fullRange: boolean;
  alpha: boolean;
}

/** Pictures that need nothing to be done for them. */
export const plainCoding: PictureCoding = {
  stream: -1,
  still: false,
  width: 0,
  height: 0,
  orientation: 1,
  pixelAspect: { num: 1, den: 1 },
  fields: null,
  hdr: null,
  peakNits: 1000,
  wideGamut: false,
  matrix: 'bt709',
  fullRange: false,
  alpha: false,
};

/** Size with square pixels, before it is turned. The height stays, as usual for anamorphic material. */
export const squaredSize = ({ width, height, pixelAspect }: PictureCoding): { width: number; height: number } => ({
  width: Math.round((width * pixelAspect.num) / pixelAspect.den),
  height,
});

/** Width and height as shown: upright, with square pixels. */
export function shownSize(coding: PictureCoding): { width: number; height: number } {
  const { width, height } = squaredSize(coding);
  return turnsSides(coding.orientation) ? { width: height, height: width } : { width, height };
}
