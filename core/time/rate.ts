/** A frame rate as an exact fraction: 30000/1001 is not 29.97. */
export interface Rate {
  readonly num: number;
  readonly den: number;
}

/** The usual rates as fractions (SMPTE ST 12-1 for those over 1001). */
export const rates = {
  '23.976': { num: 24000, den: 1001 },
  '24': { num: 24, den: 1 },
  '25': { num: 25, den: 1 },
  '29.97': { num: 30000, den: 1001 },
  '30': { num: 30, den: 1 },
  '50': { num: 50, den: 1 },
  '59.94': { num: 60000, den: 1001 },
  '60': { num: 60, den: 1 },
} as const satisfies Record<string, Rate>;

/**
 * Reads a rate as ffprobe writes it, "30000/1001" or "25".
 * @throws RangeError when the text is not a positive fraction.
 */
export function parseRate(text: string): Rate {
  const [num, den = 1] = text.split('/').map(Number);
  if (!num || !den || num < 0 || den < 0 || !Number.isFinite(num / den))
    throw new RangeError(`"${text}" is not a frame rate`);
  return { num, den };
}

/** The listed rate within 0.02 % of `rate`, or `rate` itself: cameras write 2997/100 and mean 30000/1001. */
export function nearestStandardRate(rate: Rate): Rate {
  const fps = framesPerSecond(rate);
  return Object.values(rates).find((each) => Math.abs(framesPerSecond(each) / fps - 1) < 2e-4) ?? rate;
}

/** A rate as a number. */
export const framesPerSecond = (rate: Rate): number => rate.num / rate.den;

/** Start of a frame, in seconds. */
export const framesToSeconds = (frames: number, rate: Rate): number => (frames * rate.den) / rate.num;

/** The frame whose start lies nearest to `seconds`. */
export const secondsToFrames = (seconds: number, rate: Rate): number => Math.round((seconds * rate.num) / rate.den);

/** First audio sample of a frame; differences of it add up exactly, so sound never drifts from the picture. */
export const framesToSamples = (frames: number, rate: Rate, sampleRate: number): number =>
  Math.round((frames * rate.den * sampleRate) / rate.num);
