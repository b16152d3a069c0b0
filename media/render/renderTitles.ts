import { toVideoLevels } from '../probe/shown';
import { writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { createCanvas, GlobalFonts } from '@napi-rs/canvas';
import { drawTitle, fontFamilies, titleMotionFrames, titleStyle, titleTravel, type Reel } from '#core/reel';
import { framesToSeconds, type Rate } from '#core/time';
import type { Inputs } from './renderSound';

const require = createRequire(import.meta.url);
let known = false;

/** The fonts that ship with the application, by the names that screens use. */
function registerFonts(): void {
  if (known) return;
  known = true;
  for (const [family, folder] of [
    [fontFamilies.Figtree!, 'figtree'],
    [fontFamilies['Spline Sans Mono']!, 'spline-sans-mono'],
  ] as const)
    for (const letters of ['latin', 'latin-ext'])
      GlobalFonts.registerFromPath(
        require.resolve(`@fontsource-variable/${folder}/files/${folder}-${letters}-wght-normal.woff2`),
        family,
      );
}

/** Draws every title as a picture with transparency. @returns their files by title id */
export async function drawTitles(
  reel: Reel,
  size: Reel['size'],
  fileOf: (index: number) => string,
): Promise<Map<string, string>> {
  const files = new Map<string, string>();
  if (reel.titles?.length) registerFonts();
  for (const [index, title] of (reel.titles ?? []).entries()) {
    const canvas = createCanvas(size.width, size.height);
    drawTitle(canvas.getContext('2d'), title, titleStyle(reel), size);
    await writeFile(fileOf(index), canvas.toBuffer('image/png'));
    files.set(title.id, fileOf(index));
  }
  return files;
}

/**
 * Titles over the pictures, at their frames, coming and going as `titleAt` says.
 * @param first frame of the reel with which the pictures begin
 * @returns filters from [v] on, and the label that holds the result
 */
export function titleGraph(
  reel: Reel,
  size: Reel['size'],
  inputs: Inputs,
  files: ReadonlyMap<string, string>,
  first: number,
  total: number,
): { graph: string[]; label: string } {
  const graph: string[] = [];
  let label = 'v';
  const style = titleStyle(reel);
  const travel = titleTravel(style, size);
  const seconds = (frames: number, rate: Rate = reel.rate) => framesToSeconds(frames, rate).toFixed(6);
  for (const [index, title] of (reel.titles ?? []).entries()) {
    const file = files.get(title.id);
    const [from, to] = [title.frame - first, title.frame - first + title.frames];
    if (!file || to <= 0 || from >= total) continue;
    const motion = titleMotionFrames(title, reel.rate);
    const input = inputs.add(
      '-loop',
      '1',
      '-framerate',
      `${reel.rate.num}/${reel.rate.den}`,
      '-t',
      seconds(title.frames),
      '-i',
      file,
    );
    graph.push(
      `[${input}:v:0]format=rgba,trim=end_frame=${title.frames},setpts=PTS-STARTPTS,fade=t=in:start_frame=0:nb_frames=${motion}:alpha=1,fade=t=out:start_frame=${title.frames - motion}:nb_frames=${motion}:alpha=1,scale=${toVideoLevels},format=yuva420p,setpts=PTS+${seconds(from)}/TB[t${index}]`,
    );
    // By time: ffmpeg 5.1 counts the frames of an overlay otherwise when it has been off for a while. Half a frame off every frame's own time.
    const at = (frame: number) => seconds(frame - 0.5);
    const left = `pow(1-min(1,max(0,(t-${seconds(from)})/${seconds(motion)})),3)`;
    graph.push(
      `[${label}][t${index}]overlay=x='${travel.x.toFixed(2)}*${left}':y='${travel.y.toFixed(2)}*${left}':eof_action=pass:repeatlast=0:enable='between(t,${at(from)},${at(to)})'[o${index}]`,
    );
    label = `o${index}`;
  }
  return { graph, label };
}
