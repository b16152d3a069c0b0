import { captionFontNames } from '#core/captions';
import { fits, framingSubjects } from '#core/framing';
import { languageTag } from '#core/words';

/** An object of a document, before it is known what is in it. */
export type Json = Record<string, unknown>;

export const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What of a clip, a track and a reel OpenTimelineIO has no word for; it goes along as metadata. */
export const clipKeys = [
  'link',
  'levelDb',
  'muted',
  'fadeIn',
  'fadeOut',
  'look',
  'fit',
  'move',
  'steady',
  'framing',
  'reason',
] as const;
export const trackKeys = ['locked', 'levelDb', 'muted'] as const;
export const reelKeys = ['loudnessLufs', 'titles', 'theme', 'look', 'fit', 'captions'] as const;
export const picked = <T extends object, K extends keyof T>(from: T, keys: readonly K[]): Partial<T> =>
  Object.fromEntries(
    keys.filter((key) => from[key] !== undefined).map((key) => [key, from[key]]),
  ) as unknown as Partial<T>;

export const isNumber = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);
const shareOf = (value: unknown, low = -1) => isNumber(value) && value >= low && value <= 1;
const isLook = (value: unknown) =>
  isObject(value) &&
  ['exposure', 'contrast', 'saturation', 'temperature'].every((key) => shareOf(value[key])) &&
  (value.named === undefined || typeof value.named === 'string') &&
  (value.lut === undefined || typeof value.lut === 'string');
const isFrame = (value: unknown) =>
  isObject(value) && ['x', 'y', 'width', 'height'].every((key) => shareOf(value[key], 0));
const isPath = (value: unknown) =>
  Array.isArray(value) &&
  value.every(
    (point) =>
      Array.isArray(point) && point.length === 3 && isNumber(point[0]) && shareOf(point[1], 0) && shareOf(point[2], 0),
  );
const isFraming = (value: unknown) =>
  isObject(value) &&
  framingSubjects.test(String(value.subject)) &&
  isNumber(value.zoom) &&
  value.zoom >= 1 &&
  value.zoom <= 4 &&
  Array.isArray(value.keys) &&
  value.keys.every((key) => isObject(key) && isNumber(key.seconds) && shareOf(key.x, 0) && shareOf(key.y, 0)) &&
  isPath(value.path) &&
  (value.below === undefined || isPath(value.below)) &&
  (value.follows === undefined || typeof value.follows === 'string');
const isColour = (value: unknown) => typeof value === 'string' && /^#[\da-f]{6}([\da-f]{2})?$/i.test(value);
const isLanguage = (value: unknown) => typeof value === 'string' && languageTag.test(value);
const isCaptionStyle = (value: unknown) =>
  isObject(value) &&
  (captionFontNames as readonly unknown[]).includes(value.font) &&
  ['size', 'outlineWidth', 'letters'].every((key) => isNumber(value[key]) && value[key] >= 0 && value[key] <= 200) &&
  ['colour', 'lit', 'emphasis', 'outline'].every((key) => isColour(value[key])) &&
  (value.box === null || isColour(value.box)) &&
  shareOf(value.place, 0) &&
  typeof value.upper === 'boolean' &&
  ['none', 'fade', 'pop'].includes(String(value.motion)) &&
  (value.speakers === undefined || (Array.isArray(value.speakers) && value.speakers.every(isColour))) &&
  (value.second === undefined || isLanguage(value.second));
const isTitle = (value: unknown) =>
  isObject(value) &&
  typeof value.id === 'string' &&
  ['opening', 'lower', 'end'].includes(String(value.kind)) &&
  isNumber(value.frame) &&
  isNumber(value.frames) &&
  typeof value.text === 'string';
/** Metadata of ours can have been changed by hand; what is not as it should be is left out. */
const good: Record<string, (value: unknown) => boolean> = {
  link: (value) => typeof value === 'string',
  levelDb: (value) => isNumber(value) && value >= -60 && value <= 12,
  muted: (value) => value === true,
  locked: (value) => value === true,
  fadeIn: (value) => isNumber(value) && value > 0,
  fadeOut: (value) => isNumber(value) && value > 0,
  look: isLook,
  fit: (value) => (fits as readonly unknown[]).includes(value),
  move: (value) => isObject(value) && isFrame(value.from) && isFrame(value.to),
  steady: (value) =>
    isObject(value) &&
    ['position', 'rotation', 'scale'].every((key) => shareOf(value[key], 0)) &&
    ['crop', 'fill'].includes(String(value.edges)),
  framing: isFraming,
  reason: (value) => typeof value === 'string' && value.length > 0 && value.length <= 500,
  captions: isCaptionStyle,
  loudnessLufs: isNumber,
  theme: (value) => typeof value === 'string',
  titles: (value) => Array.isArray(value) && value.every(isTitle),
};
/** What a document says of ours, as far as it is good. */
export const kept = (from: Json, keys: readonly string[]): Json =>
  Object.fromEntries(
    keys.filter((key) => from[key] !== undefined && good[key]!(from[key])).map((key) => [key, from[key]]),
  );
