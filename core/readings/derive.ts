import { cameraDefaults, cameraRuns, cameraTraces, hardCuts, lightScore, persistentFaces, scenesBetween, type CameraPath, type CameraRule, type FaceSample } from '#core/picture';
import { clamp, poolTrace, runsAbove, type Pooling, type Trace } from '#core/signal';
import { burstStrength, loudnessFloor, silentRuns, speechDefaults, speechRuns, suggestedSilenceThreshold, type SpeechRule } from '#core/sound';
import { displayHz, type Derived, type DisplayTraces, type RawReading, type RawTraceName, type Run } from './types';

/** Everything a reading decides, apart from what it measures. Changing one re-decides in milliseconds. */
export interface ReadingRules {
  sceneSensitivity: number;
  camera: CameraRule;
  speech: SpeechRule;
  silence: { thresholdDb: number | 'suggested'; minSeconds: number };
  /** Sharpness (0 to 1, see `sharpness`) under which a stretch is called blurred. */
  blurredBelow: number;
  /** Mean luma under which a stretch is called black. */
  blackBelow: number;
}

export const readingDefaults: ReadingRules = {
  sceneSensitivity: 0.5, camera: cameraDefaults, speech: speechDefaults,
  silence: { thresholdDb: 'suggested', minSeconds: 0.5 }, blurredBelow: 0.35, blackBelow: 0.06,
};

const empty: Trace = { name: 'empty', hz: displayHz, start: 0, values: new Float32Array() };

/** Turns raw measurements into the traces and runs that everything else uses. */
export function derive(raw: RawReading, rules: ReadingRules = readingDefaults): Derived {
  const count = Math.max(1, Math.round(raw.durationSeconds * displayHz));
  const trace = (name: RawTraceName) => raw.traces.get(name) ?? empty;
  const pool = (name: RawTraceName, how: Pooling = 'mean') => poolTrace(trace(name), displayHz, count, how);
  const picture = raw.hasPicture ? derivePicture(raw, rules, trace, pool, count) : blankPicture(count);
  const sound = deriveSound(raw, rules, trace, pool, count);
  const runs = [...picture.runs, ...sound.runs].sort((a, b) => a.start - b.start || a.end - b.end);
  return { durationSeconds: raw.durationSeconds, hz: displayHz, traces: { ...picture.traces, ...sound.traces }, runs };
}

type PictureTraces = Pick<DisplayTraces, 'faces' | 'faceArea' | 'motion' | 'shake' | 'moves' | 'sharpness' | 'exposure'>;
type SoundTraces = Pick<DisplayTraces, 'speech' | 'bursts' | 'loudness' | 'wave'>;
type Get = (name: RawTraceName) => Trace;
type PoolOne = (name: RawTraceName, how?: Pooling) => Float32Array;

/** The camera's path out of the raw traces, with the hard cuts that interrupt it. */
export function cameraPath(raw: RawReading, cuts: number[]): CameraPath {
  const values = (name: RawTraceName) => raw.traces.get(name)?.values ?? new Float32Array();
  return {
    hz: raw.traces.get('camera.dx')?.hz ?? displayHz, dx: values('camera.dx'), dy: values('camera.dy'),
    rotation: values('camera.rotation'), zoom: values('camera.zoom'), confidence: values('camera.confidence'), cuts,
  };
}

function derivePicture(raw: RawReading, rules: ReadingRules, trace: Get, pool: PoolOne, count: number) {
  const { durationSeconds: duration } = raw;
  const unmatched = trace('frame.unmatched');
  const cuts = hardCuts(unmatched.values, trace('camera.confidence').values, unmatched.hz, rules.sceneSensitivity);
  const path = cameraPath(raw, cuts);
  const camera = cameraTraces(path, rules.camera);
  const at = (values: Float32Array, how?: Pooling) => poolTrace({ name: '', hz: path.hz, start: 0, values }, displayHz, count, how);
  const light = { mean: pool('light.mean'), dark: pool('light.dark'), bright: pool('light.bright'), contrast: pool('light.contrast') };
  const confidence = pool('camera.confidence');
  const traces: PictureTraces = {
    ...faceTraces(persistentFaces(raw.faces), count),
    motion: pool('things.amount').map((amount, index) => clamp(confidence[index]! * 2) * (1 - Math.exp((-amount * path.hz) / 0.035))),
    shake: at(camera.shake),
    moves: at(camera.speed).map((speed) => clamp((speed - rules.camera.movesFrom) / 0.1)),
    sharpness: pool('frame.sharpness'),
    exposure: light.mean.map((mean, index) => lightScore({ mean, dark: light.dark[index]!, bright: light.bright[index]!, contrast: light.contrast[index]! })),
  };
  const runs: Run[] = [
    ...scenesBetween(cuts, duration).map((scene) => ({ ...scene, kind: 'scene' as const })),
    ...cameraRuns(path, duration, rules.camera).map(({ start, end, kind, direction }) => ({ start, end, kind, ...(direction ? { label: direction } : {}) })),
    ...runsAbove(light.mean.map((mean) => -mean), displayHz, { enter: -rules.blackBelow, stay: -rules.blackBelow, minSeconds: 0.3 }).map((run) => ({ ...run, kind: 'black' as const })),
    ...runsAbove(pool('frame.change').map((change) => -change), displayHz, { enter: -0.001, stay: -0.001, minSeconds: 1 }).map((run) => ({ ...run, kind: 'frozen' as const })),
    ...runsAbove(traces.sharpness.map((sharp, index) => (light.mean[index]! < rules.blackBelow ? -1 : -sharp)), displayHz, { enter: -rules.blurredBelow, stay: -rules.blurredBelow * 1.1, minSeconds: 0.8, bridgeSeconds: 0.4 })
      .map((run) => ({ ...run, kind: 'blurred' as const })),
  ];
  return { traces, runs: runs.map((run) => ({ ...run, end: Math.min(run.end, duration) })) };
}

function blankPicture(count: number): { traces: PictureTraces; runs: Run[] } {
  const zero = () => new Float32Array(count);
  return { traces: { faces: zero(), faceArea: zero(), motion: zero(), shake: zero(), moves: zero(), sharpness: zero(), exposure: zero() }, runs: [] };
}

/** A face counts from half a sample before it was seen to half a sample after. */
function faceTraces(samples: readonly FaceSample[], count: number): Pick<PictureTraces, 'faces' | 'faceArea'> {
  const faces = new Float32Array(count);
  const faceArea = new Float32Array(count);
  for (const [index, sample] of samples.entries()) {
    const before = samples[index - 1]?.time ?? -sample.time;
    const after = samples[index + 1]?.time ?? Infinity;
    const from = Math.max(0, Math.round(((before + sample.time) / 2) * displayHz));
    const to = Math.min(count, Number.isFinite(after) ? Math.round(((after + sample.time) / 2) * displayHz) : count);
    const area = sample.boxes.reduce((largest, box) => Math.max(largest, box.width * box.height), 0);
    faces.fill(sample.boxes.length, from, to);
    faceArea.fill(area, from, to);
  }
  return { faces, faceArea };
}

function deriveSound(raw: RawReading, rules: ReadingRules, trace: Get, pool: PoolOne, count: number): { traces: SoundTraces; runs: Run[] } {
  const { durationSeconds: duration } = raw;
  if (!raw.hasSound) {
    const zero = () => new Float32Array(count);
    return { traces: { speech: zero(), bursts: zero(), loudness: zero().fill(loudnessFloor), wave: zero() }, runs: [] };
  }
  const voice = trace('sound.voice');
  const spoken = speechRuns(voice.values, voice.hz, duration, rules.speech);
  const speech = new Float32Array(count);
  for (const run of spoken) speech.fill(1, Math.floor(run.start * displayHz), Math.min(count, Math.ceil(run.end * displayHz)));
  const loudness = pool('sound.loudness');
  const level = trace('sound.level');
  const thresholdDb = rules.silence.thresholdDb === 'suggested' ? suggestedSilenceThreshold(level.values) : rules.silence.thresholdDb;
  const runs: Run[] = [
    ...spoken.map((run) => ({ ...run, kind: 'speech' as const })),
    ...silentRuns(level.values, level.hz, { thresholdDb, minSeconds: rules.silence.minSeconds }).map((run) => ({ ...run, end: Math.min(run.end, duration), kind: 'silence' as const })),
  ];
  return { traces: { speech, loudness, wave: pool('sound.peak', 'max'), bursts: burstStrength(loudness, speech) }, runs };
}
