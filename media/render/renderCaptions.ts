import { copyFile, mkdir, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { createCanvas, GlobalFonts, type SKRSContext2D } from '@napi-rs/canvas';
import { captionFonts, captionsAss, type CaptionFont } from '#core/captions';
import { captionTracks, type ReelTexts } from '#core/formats';
import type { Reel } from '#core/reel';
import { framesToSeconds } from '#core/time';
import { escaped } from '../process';

const require = createRequire(import.meta.url);
const subsets = ['latin', 'latin-ext'];
const fileOf = (font: CaptionFont, subset: string): string =>
  require.resolve(`@fontsource/${captionFonts[font].file.replace('SUBSET', subset)}`);
const known = new Set<CaptionFont>();

/** A canvas that measures and draws captions with a shipped font. */
export function captionCanvas(font: CaptionFont, width = 16, height = 16): SKRSContext2D {
  if (!known.has(font))
    for (const subset of subsets) GlobalFonts.registerFromPath(fileOf(font, subset), captionFonts[font].family);
  known.add(font);
  return createCanvas(width, height).getContext('2d');
}

/**
 * Captions as a filter that lets libass set them, with the fonts that ship with the application.
 * @param folder for the ASS file and the fonts
 * @returns the ASS file, and the filter for pictures that begin at a frame of the reel; null when there is nothing to say
 */
export async function captionFilter(
  reel: Reel,
  texts: ReelTexts,
  size: Reel['size'],
  folder: string,
): Promise<{ file: string; from(frame: number): string } | null> {
  const style = reel.captions;
  const tracks = captionTracks(reel, texts);
  if (!style || tracks.length === 0) return null;
  const fonts = join(folder, 'fonts');
  await mkdir(fonts, { recursive: true });
  for (const subset of subsets) await copyFile(fileOf(style.font, subset), join(fonts, `${subset}.woff2`));
  const file = join(folder, 'captions.ass');
  // Half a frame early: a caption begins with the frame that is nearest to its time.
  await writeFile(
    file,
    captionsAss(captionCanvas(style.font), tracks, size, undefined, framesToSeconds(1, reel.rate) / 2),
  );
  const from = (frame: number) => {
    const start = framesToSeconds(frame, reel.rate).toFixed(6);
    return `setpts=PTS+${start}/TB,ass=filename=${escaped(file)}:fontsdir=${escaped(fonts)},setpts=PTS-${start}/TB`;
  };
  return { file, from };
}
