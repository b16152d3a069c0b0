import { tmpdir } from 'node:os';
import { resolve } from 'node:path';
import { settings } from '#settings';

/** The filters that ours are made of. None opens a file but those of `withFile`, and none listens, runs or sends anything. */
const known = new Set(
  `acrossfade adelay afade aformat alimiter amix amultiply anull anullsrc apad aresample aselect asetnsamples asetpts
  asplit ass atempo atrim bwdif color colorchannelmixer concat copy crop ebur128 eq fade format fps gblur hflip hstack
  idet loudnorm lut3d lutyuv metadata null nullsrc overlay pad palettegen paletteuse pan premultiply rotate scale select
  setdar setpts setsar showinfo signalstats sine split testsrc2 tile tonemap tpad transpose trim unpremultiply vflip
  volume volumedetect vstack xfade zscale`
    .trim()
    .split(/\s+/),
);
/** Options that name a file, by filter. */
const withFile: Record<string, readonly string[]> = {
  lut3d: ['file'],
  ass: ['filename', 'fontsdir'],
  metadata: ['file'],
};
/** Options that name a file, of whatever filter. */
const fileLike =
  /^(file|filename|fontsdir|textfile|fontfile|stats_file|model|url|bind_address|f|psfile|plugin|p|script|commands|c)$/;

const graphOptions = /^-(vf|af|filter_complex|lavfi|filter(:\w+)*)$/;

/** Somebody tried to have something else made of a graph than a graph; never a mistake of the material. */
class GraphError extends Error {
  override name = 'GraphError';
}

/** Cuts a text at signs that stand outside of quotes and are not escaped (ffmpeg-filters(1), "Notes on filtergraph escaping"). */
function cut(text: string, signs: string): string[] {
  const parts = [''];
  let quoted = false;
  for (let at = 0; at < text.length; at++) {
    const letter = text[at]!;
    if (letter === '\\' && !quoted && at + 1 < text.length) parts[parts.length - 1] += letter + text[++at]!;
    else if (letter === "'") {
      quoted = !quoted;
      parts[parts.length - 1] += letter;
    } else if (!quoted && signs.includes(letter)) parts.push('');
    else parts[parts.length - 1] += letter;
  }
  return parts;
}

/** A path as it is after both unescapings. */
const plain = (value: string): string => value.replaceAll("'", '').replace(/\\+/g, '');

/** Whether a path lies where ours are made: below the data folder, the program's own, or a folder of passing files. */
function isOurs(path: string): boolean {
  if (path === '-' || path === 'pipe:1') return true;
  const whole = resolve(path);
  return [process.cwd(), resolve(settings().BRIGHT_REEL_DATA), resolve(tmpdir())].some((root) =>
    whole.startsWith(`${root}/`),
  );
}

/**
 * Lets through only graphs of filters that are ours, with files that are ours. Whatever text came into a graph, by a fault
 * or by somebody's doing, ffmpeg does nothing else with it.
 * @throws GraphError
 */
export function checkGraph(graph: string): void {
  for (const part of cut(graph, ',;')) {
    const text = part
      .trim()
      .replace(/^(\[[\w:.]*\]\s*)+/, '')
      .replace(/(\s*\[[\w:.]*\])+$/, '');
    if (text === '') continue;
    const name = /^[a-z][a-z0-9_]*/.exec(text)?.[0] ?? text.slice(0, 40);
    if (!known.has(name)) throw new GraphError(`“${name}” is no filter that is used here.`);
    const options = text.slice(name.length).replace(/^(@\w+)?=?/, '');
    const named = withFile[name] ?? [];
    cut(options, ':').forEach((option, index) => {
      const [, key, value = ''] = /^([a-z_0-9]+)=(.*)$/s.exec(option.trim()) ?? [null, '', option];
      const isFile = key ? named.includes(key) : index === 0 && named.length > 0 && name !== 'metadata';
      if (isFile && !isOurs(plain(value)))
        throw new GraphError(`A graph names a file elsewhere: ${plain(value).slice(0, 80)}`);
      if (!isFile && key && fileLike.test(key) && !numeric.test(value))
        throw new GraphError(`“${name}” opens no file here.`);
    });
  }
}
/** One letter is a file for one filter and a number for another. */
const numeric = /^[-+\d.]+[a-zA-Z]?$|^'?[\w.+\-*/()]+'?$/;

/** Every graph in the arguments of ffmpeg, and every source that it makes up. @throws GraphError */
export function checkGraphs(args: readonly string[]): void {
  let made = false;
  args.forEach((argument, at) => {
    const next = args[at + 1];
    if (next === undefined) return;
    if (graphOptions.test(argument)) checkGraph(next);
    if (argument === '-f') made = next === 'lavfi';
    if (argument === '-i') {
      if (made) checkGraph(next);
      made = false;
    }
  });
}
