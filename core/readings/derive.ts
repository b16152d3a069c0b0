import {
  cameraDefaults,
  cameraRuns,
  cameraTraces,
  colouredRuns,
  findFlashes,
  findTransitions,
  hardCuts,
  lightScore,
  objectRuns,
  persistentFaces,
  scenesBetween,
  withoutFalseCuts,
  type CameraPath,
  type CameraRule,
  type FaceSample,
  type FoundTransition,
} from '#core/picture';
import { clamp, gaussianSmooth, poolTrace, runsAbove, type Pooling, type Trace } from '#core/signal';
import {
  burstStrength,
  loudnessFloor,
  musicLikelihood,
  musicRuns,
  partWind,
  silentRuns,
  speechDefaults,
  speechRuns,
  suggestedSilenceThreshold,
  type SpeechRule,
} from '#core/sound';
import { overlap, type Range } from '#core/time';
import { stage } from './stages';
import {
  displayHz,
  displayTraceNames,
  fineColumns,
  fineHz,
  fineRows,
  tintHz,
  type Derived,
  type DisplayTraces,
  type RawReading,
  type RawTraceName,
  type Run,
} from './types';

/** Everything a reading decides, apart from what it measures. Changing one re-decides in milliseconds. */
export interface ReadingRules {
  sceneSensitivity: number;
  camera: CameraRule;
  speech: SpeechRule;
  /** Level in dBFS under which it is silent; a stretch must last so long; so much is left at both ends, so that a breath survives. */
  silence: { thresholdDb: number | 'suggested'; minSeconds: number; padSeconds: number };
  /** Sharpness (0 to 1, see `sharpness`) under which a stretch is called blurred. */
  blurredBelow: number;
  /** Mean luma under which a stretch is called black. */
  blackBelow: number;
}

/** The usual sensitivities. */
export const readingDefaults: ReadingRules = {
  sceneSensitivity: 0.5,
  camera: cameraDefaults,
  speech: speechDefaults,
  silence: { thresholdDb: 'suggested', minSeconds: 0.5, padSeconds: 0 },
  blurredBelow: 0.35,
  blackBelow: 0.06,
};

/** Peaks that reach this are taken to be cut off. */
const fullScale = 0.998;

const empty: Trace = { name: 'empty', hz: displayHz, start: 0, values: new Float32Array() };

/** Turns raw measurements into the traces and runs that everything else uses. Deciding the same measurements again does only what the changed rules touch. */
export function derive(raw: RawReading, rules: ReadingRules = readingDefaults): Derived {
  const count = Math.max(1, Math.round(raw.durationSeconds * displayHz));
  const trace = (name: RawTraceName) => raw.traces.get(name) ?? empty;
  const pool = (name: RawTraceName, how: Pooling = 'mean') => poolTrace(trace(name), displayHz, count, how);
  const picture = raw.hasPicture ? derivePicture(raw, rules, trace, pool, count) : blankPicture(count);
  const sound = deriveSound(raw, rules, trace, pool, count);
  const runs = [...picture.runs, ...sound.runs].sort((a, b) => a.start - b.start || a.end - b.end);
  const derived: Derived = {
    durationSeconds: raw.durationSeconds,
    hz: displayHz,
    traces: { ...picture.traces, ...sound.traces },
    runs,
    tint: tintOver(raw.objects, raw.durationSeconds),
  };
  return raw.range ? withinRange(derived, raw.range) : derived;
}

/** Of every moment, the tint of the picture that was last looked at. */
function tintOver(objects: RawReading['objects'], seconds: number): Float32Array {
  const seen = objects.filter(({ tint }) => tint);
  const [first] = seen;
  if (!first) return new Float32Array();
  const cells = first.tint!.length;
  const out = new Float32Array(Math.max(1, Math.ceil(seconds * tintHz)) * cells);
  let next = 0;
  for (let at = 0; at < out.length / cells; at++) {
    while (next + 1 < seen.length && seen[next + 1]!.time <= at / tintHz + 1e-6) next++;
    out.set(
      seen[next]!.tint!.map((value) => value / 1000),
      at * cells,
    );
  }
  return out;
}

/** Nothing is said about what was not read: traces are 0 there, runs end there, and it is marked. */
function withinRange({ traces, runs, durationSeconds, hz, tint }: Derived, range: Range): Derived {
  const within = Object.fromEntries(
    displayTraceNames.map((name) => {
      const nothing = name === 'loudness' ? loudnessFloor : 0;
      return [
        name,
        traces[name]
          .slice()
          .fill(nothing, 0, Math.floor(range.start * hz))
          .fill(nothing, Math.ceil(range.end * hz)),
      ];
    }),
  ) as DisplayTraces;
  const kept = runs
    .filter((run) => overlap(run, range) > 0.01)
    .map((run) => ({ ...run, start: Math.max(run.start, range.start), end: Math.min(run.end, range.end) }));
  const unread: Run[] = [
    { kind: 'unread', start: 0, end: range.start },
    { kind: 'unread', start: range.end, end: durationSeconds },
  ];
  return {
    durationSeconds,
    hz,
    tint,
    traces: within,
    runs: [...kept, ...unread.filter((run) => run.end - run.start > 0.05)].sort(
      (a, b) => a.start - b.start || a.end - b.end,
    ),
  };
}

/** Hard cuts, dissolves, fades and flashes, each without the others' false alarms. */
function findScenes(
  raw: RawReading,
  rules: ReadingRules,
  trace: Get,
): { cuts: number[]; transitions: FoundTransition[]; flashes: Range[] } {
  const unmatched = trace('frame.unmatched');
  const candidates = hardCuts(
    unmatched.values,
    trace('camera.confidence').values,
    unmatched.hz,
    rules.sceneSensitivity,
  );
  const flashes = findFlashes(trace('frame.mean').values, trace('frame.mean').hz);
  const dx = trace('camera.dx'),
    dy = trace('camera.dy'),
    confidence = trace('camera.confidence');
  const cells = fineColumns * fineRows;
  const travel = new Float32Array(Math.ceil(raw.fine.length / cells));
  for (let index = 0; index < dx.values.length; index++) {
    const at = Math.floor((index / dx.hz) * fineHz);
    if (at < travel.length && confidence.values[index]! > 0.55)
      travel[at]! += Math.hypot(dx.values[index]!, dy.values[index]!);
  }
  const calm = raw.fine.slice();
  for (const flash of flashes)
    bridge(calm, cells, Math.floor(flash.start * fineHz) - 1, Math.ceil(flash.end * fineHz) + 1);
  const hard = withoutFalseCuts(candidates, flashes, [], (from, to) => difference(raw.fine, cells, from, to) < 0.05);
  const transitions = findTransitions({ hz: fineHz, cells, values: calm }, travel, rules.sceneSensitivity).filter(
    (transition) =>
      !hard.some(
        (cut) =>
          cut > transition.start - 0.05 &&
          cut < transition.end + 0.05 &&
          difference(raw.fine, cells, cut - 0.12, cut + 0.12) >
            0.6 * difference(raw.fine, cells, transition.start, transition.end),
      ),
  );
  return { cuts: withoutFalseCuts(hard, [], transitions, () => false), transitions, flashes };
}

/** Looks between two samples, put on the straight line between them. */
function bridge(values: Float32Array, cells: number, from: number, to: number) {
  if (from < 0 || (to + 1) * cells > values.length) return;
  for (let at = from + 1; at < to; at++)
    for (let cell = 0; cell < cells; cell++)
      values[at * cells + cell] =
        values[from * cells + cell]! +
        ((values[to * cells + cell]! - values[from * cells + cell]!) * (at - from)) / (to - from);
}

function difference(values: Float32Array, cells: number, from: number, to: number): number {
  const last = values.length / cells - 1;
  const a = Math.min(last, Math.max(0, Math.floor(from * fineHz))) * cells;
  const b = Math.min(last, Math.max(0, Math.ceil(to * fineHz))) * cells;
  let sum = 0;
  for (let cell = 0; cell < cells; cell++) sum += Math.abs(values[a + cell]! - values[b + cell]!);
  return sum / cells;
}

type PictureTraces = Pick<
  DisplayTraces,
  | 'faces'
  | 'faceArea'
  | 'smile'
  | 'motion'
  | 'shake'
  | 'moves'
  | 'sharpness'
  | 'exposure'
  | 'contrast'
  | 'white'
  | 'noise'
>;
type SoundTraces = Pick<DisplayTraces, 'speech' | 'bursts' | 'loudness' | 'wave'>;
type Get = (name: RawTraceName) => Trace;
type PoolOne = (name: RawTraceName, how?: Pooling) => Float32Array;

/** The camera's path out of the raw traces, with the hard cuts that interrupt it. */
export function cameraPath(raw: RawReading, cuts: number[]): CameraPath {
  const values = (name: RawTraceName) => raw.traces.get(name)?.values ?? new Float32Array();
  return {
    hz: raw.traces.get('camera.dx')?.hz ?? displayHz,
    dx: values('camera.dx'),
    dy: values('camera.dy'),
    rotation: values('camera.rotation'),
    zoom: values('camera.zoom'),
    confidence: values('camera.confidence'),
    cuts,
  };
}

function derivePicture(raw: RawReading, rules: ReadingRules, trace: Get, pool: PoolOne, count: number) {
  const { durationSeconds: duration } = raw;
  const { cuts, transitions, flashes } = stage(raw, 'scenes', rules.sceneSensitivity, () =>
    findScenes(raw, rules, trace),
  );
  const boundaries = [...cuts, ...transitions.map((transition) => (transition.start + transition.end) / 2)].sort(
    (a, b) => a - b,
  );
  const path = cameraPath(raw, cuts);
  const at = (values: Float32Array, how?: Pooling) =>
    poolTrace({ name: '', hz: path.hz, start: 0, values }, displayHz, count, how);
  const camera = stage(raw, 'camera', [cuts, rules.camera], () => {
    const decided = cameraTraces(path, rules.camera);
    return {
      shake: at(decided.shake),
      moves: at(decided.speed).map((speed) => clamp((speed - rules.camera.movesFrom) / 0.1)),
      runs: cameraRuns(path, duration, rules.camera, decided),
    };
  });
  const {
    mean: luma,
    persons,
    ...light
  } = stage(raw, 'light', null, () => {
    const dark = pool('light.dark'),
      bright = pool('light.bright'),
      contrast = pool('light.contrast'),
      confidence = pool('camera.confidence');
    const mean = pool('light.mean');
    const persons = persistentFaces(raw.faces, raw.objects);
    return {
      mean,
      persons,
      ...faceTraces(persons, count),
      sharpness: pool('frame.sharpness'),
      contrast,
      white: bright,
      noise: pool('frame.noise'),
      motion: pool('things.amount').map(
        (amount, index) => clamp(confidence[index]! * 2) * (1 - Math.exp((-amount * path.hz) / 0.035)),
      ),
      exposure: mean.map((value, index) =>
        lightScore({ mean: value, dark: dark[index]!, bright: bright[index]!, contrast: contrast[index]! }),
      ),
      // A rough reading has no changes from frame to frame; then nothing is said about them.
      change: trace('frame.change').values.length ? pool('frame.change') : new Float32Array(count).fill(255),
    };
  });
  const { change, ...measured } = light;
  const traces: PictureTraces = { ...measured, shake: camera.shake, moves: camera.moves };
  const things = objectRuns(raw.objects, boundaries, duration);
  const runs: Run[] = [
    ...scenesBetween(boundaries, duration).map((scene) => ({ ...scene, kind: 'scene' as const })),
    ...transitions,
    ...flashes.map((flash) => ({ ...flash, kind: 'flash' as const })),
    ...camera.runs.map(({ start, end, kind, direction, speed, severity }) => ({
      start,
      end,
      kind,
      ...(direction ? { label: direction } : {}),
      ...((speed ?? severity) ? { amount: speed ?? severity } : {}),
    })),
    ...things.map(({ start, end, label, most, size }) => ({
      start,
      end,
      kind: 'object' as const,
      label,
      amount: most,
      size,
    })),
    ...colouredRuns(persons, raw.objects, things, boundaries, duration).map((run) => ({
      ...run,
      kind: 'coloured' as const,
    })),
    ...focusPulls(traces.sharpness, traces.moves, boundaries),
    ...runsAbove(
      luma.map((mean) => -mean),
      displayHz,
      { enter: -rules.blackBelow, stay: -rules.blackBelow, minSeconds: 0.3 },
    ).map((run) => ({ ...run, kind: 'black' as const })),
    ...runsAbove(
      change.map((value) => -value),
      displayHz,
      { enter: -0.001, stay: -0.001, minSeconds: 1 },
    ).map((run) => ({ ...run, kind: 'frozen' as const })),
    ...runsAbove(
      traces.sharpness.map((sharp, index) => (luma[index]! < rules.blackBelow ? -1 : -sharp)),
      displayHz,
      { enter: -rules.blurredBelow, stay: -rules.blurredBelow * 1.1, minSeconds: 0.8, bridgeSeconds: 0.4 },
    ).map((run) => ({ ...run, kind: 'blurred' as const })),
  ];
  return { traces, runs: runs.map((run) => ({ ...run, end: Math.min(run.end, duration) })) };
}

/**
 * Focus pulls: sharpness that changes by a quarter of its scale within two seconds in a shot whose camera stands, and
 * stays changed.
 */
function focusPulls(sharpness: Float32Array, moves: Float32Array, boundaries: readonly number[]): Run[] {
  const even = gaussianSmooth(sharpness, 2);
  const change = Float32Array.from(even, (_, index) =>
    Math.abs((even[Math.min(even.length - 1, index + 8)] ?? 0) - (even[Math.max(0, index - 8)] ?? 0)),
  );
  return runsAbove(change, displayHz, { enter: 0.25, stay: 0.12 })
    .filter((run) => run.end - run.start < 4 && !boundaries.some((cut) => cut > run.start - 1 && cut < run.end + 1))
    .filter((run) =>
      moves.subarray(Math.floor(run.start * displayHz), Math.ceil(run.end * displayHz)).every((move) => move < 0.5),
    )
    .map((run) => ({
      ...run,
      kind: 'focus' as const,
      amount: Math.abs(
        (even[Math.min(even.length - 1, Math.round(run.end * displayHz))] ?? 0) -
          (even[Math.round(run.start * displayHz)] ?? 0),
      ),
    }))
    .filter((run) => run.amount > 0.15);
}

function blankPicture(count: number): { traces: PictureTraces; runs: Run[] } {
  const zero = () => new Float32Array(count);
  return {
    traces: {
      faces: zero(),
      faceArea: zero(),
      smile: zero(),
      motion: zero(),
      shake: zero(),
      moves: zero(),
      sharpness: zero(),
      exposure: zero(),
      contrast: zero(),
      white: zero(),
      noise: zero(),
    },
    runs: [],
  };
}

/** A face counts from half a sample before it was seen to half a sample after. */
function faceTraces(
  samples: readonly FaceSample[],
  count: number,
): Pick<PictureTraces, 'faces' | 'faceArea' | 'smile'> {
  const faces = new Float32Array(count);
  const faceArea = new Float32Array(count);
  const smile = new Float32Array(count);
  for (const [index, sample] of samples.entries()) {
    const before = samples[index - 1]?.time ?? -sample.time;
    const after = samples[index + 1]?.time ?? Infinity;
    const from = Math.max(0, Math.round(((before + sample.time) / 2) * displayHz));
    const to = Math.min(count, Number.isFinite(after) ? Math.round(((after + sample.time) / 2) * displayHz) : count);
    const area = sample.boxes.reduce((largest, box) => Math.max(largest, box.width * box.height), 0);
    faces.fill(sample.boxes.length, from, to);
    faceArea.fill(area, from, to);
    smile.fill(
      sample.boxes.reduce((most, box) => Math.max(most, box.smile ?? 0), 0),
      from,
      to,
    );
  }
  return { faces, faceArea, smile };
}

function deriveSound(
  raw: RawReading,
  rules: ReadingRules,
  trace: Get,
  pool: PoolOne,
  count: number,
): { traces: SoundTraces; runs: Run[] } {
  const { durationSeconds: duration } = raw;
  if (!raw.hasSound) {
    const zero = () => new Float32Array(count);
    return { traces: { speech: zero(), bursts: zero(), loudness: zero().fill(loudnessFloor), wave: zero() }, runs: [] };
  }
  const level = trace('sound.level');
  const heard = stage(raw, 'sound', null, () => {
    const music = musicRuns(musicLikelihood(trace('sound.onset').values, trace('sound.tonal').values, level.values));
    return {
      loudness: pool('sound.loudness'),
      wave: pool('sound.peak', 'max'),
      suggestedDb: suggestedSilenceThreshold(level.values),
      ...partWind(trace('sound.centroid').values, level.values, level.hz, music),
    };
  });
  const spoken = stage(raw, 'speech', rules.speech, () => {
    const voice = trace('sound.voice');
    const found = speechRuns(voice.values, voice.hz, duration, rules.speech);
    const speech = new Float32Array(count);
    for (const run of found)
      speech.fill(1, Math.floor(run.start * displayHz), Math.min(count, Math.ceil(run.end * displayHz)));
    return { runs: found, speech, bursts: burstStrength(heard.loudness, speech) };
  });
  const thresholdDb = rules.silence.thresholdDb === 'suggested' ? heard.suggestedDb : rules.silence.thresholdDb;
  const runs: Run[] = [
    ...spoken.runs.map((run) => ({ ...run, kind: 'speech' as const })),
    ...silentRuns(level.values, level.hz, { ...rules.silence, thresholdDb }).map((run) => ({
      ...run,
      end: Math.min(run.end, duration),
      kind: 'silence' as const,
    })),
    ...runsAbove(
      trace('sound.peak').values.map((peak) => (peak >= fullScale ? 1 : 0)),
      trace('sound.peak').hz,
      { enter: 1, stay: 1, minSeconds: 0, bridgeSeconds: 0.3 },
    )
      .filter(({ start, end }) => end - start > 0.5)
      .map((run) => ({ ...run, end: Math.min(run.end, duration), kind: 'clipped' as const })),
    ...heard.wind.map((run) => ({ ...run, end: Math.min(run.end, duration), kind: 'wind' as const })),
    ...heard.music.map((run) => ({ ...run, end: Math.min(run.end, duration), kind: 'music' as const })),
  ];
  return { traces: { speech: spoken.speech, loudness: heard.loudness, wave: heard.wave, bursts: spoken.bursts }, runs };
}
