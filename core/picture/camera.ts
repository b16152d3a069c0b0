import { clamp, gaussianSmooth, percentile, runsAbove, slidingRms } from '#core/signal';
import { mergeRanges, overlap, type Range } from '#core/time';
import { scenesBetween } from './scenes';

/** How the camera moved from frame to frame: shifts in picture widths, turns in radians, zoom as a natural logarithm, `hz` a second. */
export interface CameraPath {
  hz: number;
  /** Per frame: shift in picture widths, rotation in radians, zoom as a logarithm, confidence 0 to 1. */
  dx: Float32Array;
  dy: Float32Array;
  rotation: Float32Array;
  zoom: Float32Array;
  confidence: Float32Array;
  /** Starts of hard cuts, in seconds; motion across a cut means nothing. */
  cuts: number[];
}

type CameraKind = 'still' | 'smooth' | 'shaky' | 'whip';

/** A stretch of one kind of camera work, in seconds. */
export interface CameraRun extends Range {
  kind: CameraKind;
  /** For a move: where the camera goes. */
  direction?: 'left' | 'right' | 'up' | 'down' | 'in' | 'out';
  /** For a move: its mean speed in picture widths a second. */
  speed?: number;
  /** For a shaky run: its mean shake, 0 to 1 (see `cameraTraces`). */
  severity?: number;
}

/** From what on the camera is called shaky, moving or whipped. */
export interface CameraRule {
  /** Shake (see `cameraTraces`) from which a stretch is called shaky; slight handheld wander stays under it. */
  shakyFrom: number;
  /** Added before and after a shaky run, so that cuts are clean. */
  padSeconds: number;
  /** Speed in picture widths per second from which the camera moves rather than stands. */
  movesFrom: number;
  /** Speed of a whip pan, in widths per second, and its longest duration. */
  whipFrom: number;
  whipMaxSeconds: number;
}

/** The usual sensitivities. */
export const cameraDefaults: CameraRule = {
  shakyFrom: 0.35,
  padSeconds: 0.15,
  movesFrom: 0.018,
  whipFrom: 0.9,
  whipMaxSeconds: 0.9,
};

/** What of the path is decided on, sample by sample. */
export interface CameraTraces {
  /** The same as `shake` over a fifth of a second: says where a shaky run begins and ends. */
  edge: Float32Array;
  /** 0 to 1; RMS over a second of the path's wander to and fro above about 1.5 Hz; 1 is 2 % of the picture width. */
  shake: Float32Array;
  /** Speed of the intended path in picture widths per second, zoom and rotation counted at the picture's edge. */
  speed: Float32Array;
}

/** What so small a share of the picture agrees on tells nothing of the camera. */
const leastConfidence = 0.15;
const shakeScale = 0.02;
/** Seconds; a Gaussian of this width passes under 1 % of a 2 Hz wander, so the rest holds all of the shake. */
const intendedSigma = 0.25;

/** Window in which the camera must go to and fro to shake, and in which the ends of a shaky run are looked for. */
const shakeSeconds = 0.8;
const edgeSeconds = 0.2;
/** A shaky run begins and ends at this share of its usual shake. */
const edgeShare = 0.45;

/**
 * Splits the measured path into the intended path (Gaussian low-pass, each scene for itself) and the wander around it. Shake
 * goes to and fro: of the wander to both sides of the intended path the smaller one counts twice, so that the start of a pan,
 * which bends the path to one side, is none. Whip pans are taken out first.
 */
export function cameraTraces(
  path: CameraPath,
  rule: CameraRule = cameraDefaults,
): CameraTraces & { whips: CameraRun[] } {
  const whips = findWhips(path, rule);
  const count = path.dx.length;
  const skip = new Uint8Array(count);
  for (const cut of path.cuts) skip[Math.round(cut * path.hz)] = 1;
  for (const whip of whips)
    for (let index = Math.floor(whip.start * path.hz); index <= whip.end * path.hz && index < count; index++)
      skip[Math.max(0, index)] = 1;
  const wander = new Float32Array(count);
  const shaken = new Float32Array(count);
  const speed = new Float32Array(count);
  const scenes = scenesBetween(path.cuts, count / path.hz, 0).map(({ start, end }) => ({
    from: Math.round(start * path.hz),
    to: Math.round(end * path.hz),
  }));
  for (const [values, lever] of [
    [path.dx, 1],
    [path.dy, 1],
    [path.rotation, 0.4],
    [path.zoom, 0.4],
  ] as const) {
    const steps = values.map((value, index) =>
      skip[index] ? 0 : value * clamp((path.confidence[index]! - leastConfidence) * 4),
    );
    const position = new Float32Array(count);
    for (let index = 1; index < count; index++) position[index] = position[index - 1]! + steps[index]!;
    const intended = new Float32Array(count);
    for (const { from, to } of scenes)
      intended.set(smoothOnwards(position.subarray(from, to), intendedSigma * path.hz), from);
    const off = position.map((value, index) => (value - intended[index]!) * lever);
    const sides = [1, -1].map((side) =>
      slidingRms(
        off.map((value) => Math.max(0, side * value)),
        Math.round((path.hz * shakeSeconds) / 2),
      ),
    );
    for (let index = 0; index < count; index++) {
      wander[index]! += off[index]! * off[index]!;
      shaken[index]! += 2 * Math.min(sides[0]![index]!, sides[1]![index]!) ** 2;
      const step = (intended[Math.min(count - 1, index + 1)]! - intended[Math.max(0, index - 1)]!) / 2;
      speed[index]! += (step * lever * path.hz) ** 2;
    }
  }
  const shake = shaken.map((value) => clamp(Math.sqrt(value) / shakeScale));
  const edge = slidingRms(wander.map(Math.sqrt), Math.round((path.hz * edgeSeconds) / 2)).map((value) =>
    clamp(value / shakeScale),
  );
  return { shake, edge, speed: speed.map(Math.sqrt), whips };
}

/** Gaussian low-pass of a path that goes on beyond its ends as it does before them, so that a steady move stays one. */
function smoothOnwards(values: Float32Array, sigma: number): Float32Array {
  const count = values.length;
  const reach = Math.min(count - 1, Math.ceil(sigma * 3));
  if (reach < 1) return values;
  const longer = new Float32Array(count + 2 * reach);
  longer.set(values, reach);
  for (let away = 1; away <= reach; away++) {
    longer[reach - away] = 2 * values[0]! - values[away]!;
    longer[reach + count - 1 + away] = 2 * values[count - 1]! - values[count - 1 - away]!;
  }
  return gaussianSmooth(longer, sigma).subarray(reach, reach + count);
}

/** Fast (over `whipFrom` widths a second), in one direction, short. */
function findWhips(path: CameraPath, rule: CameraRule): CameraRun[] {
  const vx = gaussianSmooth(
    path.dx.map((value) => value * path.hz),
    path.hz * 0.035,
  );
  const vy = gaussianSmooth(
    path.dy.map((value) => value * path.hz),
    path.hz * 0.035,
  );
  const fast = vx.map((value, index) => Math.hypot(value, vy[index]!));
  return runsAbove(fast, path.hz, {
    enter: rule.whipFrom,
    stay: rule.whipFrom * 0.22,
    minSeconds: 0.1,
    bridgeSeconds: 0.07,
  }).flatMap((run) => {
    if (run.end - run.start > rule.whipMaxSeconds) return [];
    let x = 0,
      y = 0,
      way = 0;
    for (let index = Math.floor(run.start * path.hz); index < run.end * path.hz; index++) {
      x += path.dx[index]!;
      y += path.dy[index]!;
      way += Math.hypot(path.dx[index]!, path.dy[index]!);
    }
    if (
      Math.hypot(x, y) < 0.85 * way ||
      Math.hypot(x, y) < 0.2 ||
      path.cuts.some((cut) => cut > run.start - 0.05 && cut < run.end + 0.05)
    )
      return [];
    return [{ ...run, kind: 'whip' as const, direction: directionOf(x, y, 0) }];
  });
}

/** The content moves against the camera: a picture that shifts left is a pan to the right. */
function directionOf(x: number, y: number, zoom: number): CameraRun['direction'] {
  if (Math.abs(zoom) * 0.4 > Math.hypot(x, y)) return zoom > 0 ? 'in' : 'out';
  if (Math.abs(x) >= Math.abs(y)) return x < 0 ? 'right' : 'left';
  return y < 0 ? 'down' : 'up';
}

/** Without the ends in which it does not shake yet, or any more. */
function trimmed(run: Range, edge: Float32Array, hz: number, least: number): Range {
  let first = Math.round(run.start * hz);
  let last = Math.min(edge.length - 1, Math.round(run.end * hz) - 1);
  // The harder it shakes, the further the intended path leans into it from outside.
  const from = Math.max(least, edgeShare * percentile(edge.subarray(first, last + 1), 0.5));
  while (first < last && edge[first]! < from) first++;
  while (last > first && edge[last]! < from) last--;
  return { start: first / hz, end: (last + 1) / hz };
}

/** The whole piece as runs of still, smooth, shaky and whip camera, without gaps, from its path. */
export function cameraRuns(
  path: CameraPath,
  duration: number,
  rule: CameraRule = cameraDefaults,
  decided = cameraTraces(path, rule),
): CameraRun[] {
  const { shake, edge, speed, whips } = decided;
  const shaky = mergeRanges(
    runsAbove(shake, path.hz, {
      enter: rule.shakyFrom,
      stay: rule.shakyFrom * 0.7,
      minSeconds: 0.3,
      bridgeSeconds: 0.5,
    })
      .map((run) => trimmed(run, edge, path.hz, rule.shakyFrom * 0.6))
      .map((run) => ({
        start: Math.max(0, run.start - rule.padSeconds),
        end: Math.min(duration, run.end + rule.padSeconds),
      })),
  ).filter((run) =>
    whips.every((whip) => overlap(run, { start: whip.start - 0.4, end: whip.end + 0.4 }) < 0.6 * (run.end - run.start)),
  );
  const smooth = runsAbove(gaussianSmooth(speed, path.hz * 0.15), path.hz, {
    enter: rule.movesFrom,
    stay: rule.movesFrom * 0.6,
    minSeconds: 0.5,
    bridgeSeconds: 0.3,
  });
  const kinds: CameraRun[] = [];
  const edges = new Set([0, duration]);
  for (const run of [...shaky, ...smooth, ...whips])
    edges.add(Math.min(run.start, duration)).add(Math.min(run.end, duration));
  const sorted = [...edges].sort((a, b) => a - b);
  for (let index = 0; index + 1 < sorted.length; index++) {
    const middle = (sorted[index]! + sorted[index + 1]!) / 2;
    const inside = (run: Range) => middle >= run.start && middle < run.end;
    const whip = whips.find(inside);
    const kind: CameraKind = whip ? 'whip' : shaky.some(inside) ? 'shaky' : smooth.some(inside) ? 'smooth' : 'still';
    const last = kinds.at(-1);
    if (last?.kind === kind) last.end = sorted[index + 1]!;
    else
      kinds.push({
        start: sorted[index]!,
        end: sorted[index + 1]!,
        kind,
        ...(whip ? { direction: whip.direction } : {}),
      });
  }
  const mean = (values: Float32Array, run: Range) => {
    const part = values.subarray(
      Math.floor(run.start * path.hz),
      Math.max(Math.floor(run.start * path.hz) + 1, Math.round(run.end * path.hz)),
    );
    return part.reduce((sum, value) => sum + value, 0) / Math.max(1, part.length);
  };
  return kinds.map((run) => {
    if (run.kind === 'smooth') return { ...run, direction: runDirection(path, run), speed: mean(speed, run) };
    if (run.kind === 'whip') return { ...run, speed: whipSpeed(path, run) };
    return run.kind === 'shaky' ? { ...run, severity: mean(shake, run) } : run;
  });
}

function whipSpeed(path: CameraPath, run: Range): number {
  let way = 0;
  for (let index = Math.floor(run.start * path.hz); index < run.end * path.hz && index < path.dx.length; index++)
    way += Math.hypot(path.dx[index]!, path.dy[index]!);
  return way / Math.max(0.01, run.end - run.start);
}

function runDirection(path: CameraPath, run: Range): CameraRun['direction'] {
  let x = 0,
    y = 0,
    zoom = 0;
  for (let index = Math.floor(run.start * path.hz); index < run.end * path.hz && index < path.dx.length; index++) {
    if (path.confidence[index]! < 0.3) continue;
    x += path.dx[index]!;
    y += path.dy[index]!;
    zoom += path.zoom[index]!;
  }
  return directionOf(x, y, zoom);
}
