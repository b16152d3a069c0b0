import { describe, expect, it } from 'vitest';
import type { Trace } from '#core/signal';
import {
  derive,
  displayTraceNames,
  readingDefaults,
  runsOf,
  isSpeech,
  loudnessWords,
  summarize,
  summarySentence,
  type RawReading,
  type RawTraceName,
} from '.';

const seconds = 12;
function raw(fill: Partial<Record<RawTraceName, (t: number) => number>>, more: Partial<RawReading> = {}): RawReading {
  const rates: Partial<Record<RawTraceName, number>> = {
    'sound.voice': 31.25,
    'sound.level': 50,
    'sound.peak': 50,
    'sound.loudness': 10,
    'sound.onset': 50,
    'sound.tonal': 10,
    'sound.centroid': 10,
    'frame.noise': 2,
  };
  const usual: Partial<Record<RawTraceName, number>> = {
    'camera.confidence': 1,
    'frame.change': 4,
    'frame.sharpness': 0.8,
    'light.mean': 0.45,
    'light.contrast': 0.2,
    'sound.level': -30,
    'sound.loudness': -30,
    'things.x': 0.5,
    'things.y': 0.5,
  };
  const names: RawTraceName[] = [
    'camera.dx',
    'camera.dy',
    'camera.rotation',
    'camera.zoom',
    'camera.confidence',
    'things.amount',
    'frame.unmatched',
    'frame.change',
    'frame.sharpness',
    'light.mean',
    'light.dark',
    'light.bright',
    'light.contrast',
    'sound.voice',
    'sound.level',
    'sound.peak',
    'sound.loudness',
    'sound.onset',
    'sound.tonal',
    'sound.centroid',
  ];
  const traces = new Map(
    names.map((name): [RawTraceName, Trace] => {
      const hz = rates[name] ?? 30;
      return [
        name,
        {
          name,
          hz,
          start: 0,
          values: Float32Array.from(
            { length: Math.round(seconds * hz) },
            (_, i) => fill[name]?.(i / hz) ?? usual[name] ?? 0,
          ),
        },
      ];
    }),
  );
  return {
    durationSeconds: seconds,
    hasPicture: true,
    hasSound: true,
    traces,
    faces: [],
    objects: [],
    look: new Float32Array(),
    fine: new Float32Array(),
    ...more,
  };
}

describe('derive', () => {
  it('gives every trace the same length at 10 Hz', () => {
    const { traces, hz } = derive(raw({}));
    expect(hz).toBe(10);
    for (const name of displayTraceNames) expect(traces[name].length).toBe(120);
  });
  it('turns voice into speech runs and level into silence', () => {
    const { runs, traces } = derive(
      raw({
        'sound.voice': (t) => (t > 3 && t < 6 ? 0.95 : 0.02),
        'sound.level': (t) => (t > 8 && t < 10 ? -70 : -25),
      }),
    );
    const [speech] = runsOf(runs, 'speech');
    expect(speech!.start).toBeCloseTo(3, 0);
    expect(speech!.end).toBeCloseTo(6, 0);
    expect(traces.speech[45]).toBe(1);
    expect(runsOf(runs, 'silence')).toEqual([{ kind: 'silence', start: 8.02, end: 10 }]);
  });
  it('finds sound that is clipped, but not one loud knock', () => {
    const { runs } = derive(
      raw({ 'sound.peak': (t) => (t > 2 && t < 2.1 ? 1 : t > 5 && t < 7 && Math.round(t * 50) % 4 < 2 ? 1 : 0.6) }),
    );
    const [clipped, ...others] = runsOf(runs, 'clipped');
    expect(others).toEqual([]);
    expect(clipped!.start).toBeCloseTo(5, 0);
    expect(clipped!.end).toBeCloseTo(7, 0);
  });
  it('finds wind in the microphone: a low rumble that is loud and no music', () => {
    const windy = raw({
      'sound.centroid': (t) => (t > 2 && t < 6 ? 60 : t > 7 && t < 7.6 ? 60 : t > 8 ? 60 : 240),
      'sound.level': (t) => (t > 8 ? -60 : -25),
    });
    const found = runsOf(derive(windy).runs, 'wind');
    expect(found).toHaveLength(1);
    expect(found[0]!.start).toBeCloseTo(2, 0);
    expect(found[0]!.end).toBeCloseTo(6, 0);
  });
  it('says for every second how colourful the picture was that was last looked at', () => {
    const tint = (value: number) => new Array<number>(24).fill(value);
    const { tint: found } = derive(
      raw(
        {},
        {
          objects: [
            { time: 0, boxes: [], tint: tint(100) },
            { time: 4, boxes: [], tint: tint(-50) },
          ],
        },
      ),
    );
    expect(found).toHaveLength(12 * 24);
    expect([0, 3, 4, 11].map((second) => found[second * 24]!.toFixed(2))).toEqual(['0.10', '0.10', '-0.05', '-0.05']);
    expect(derive(raw({})).tint).toHaveLength(0);
  });
  it('finds black, frozen and blurred stretches and a cut', () => {
    const { runs } = derive(
      raw({
        'light.mean': (t) => (t < 2 ? 0.01 : 0.4),
        'frame.change': (t) => (t > 4 && t < 6.1 ? 0 : 3),
        'frame.sharpness': (t) => (t > 9 ? 0.1 : 0.8),
        'frame.unmatched': (t) => (Math.abs(t - 7) < 0.01 ? 1 : 0),
        'camera.confidence': (t) => (Math.abs(t - 7) < 0.01 ? 0 : 1),
      }),
    );
    expect(runsOf(runs, 'black')).toEqual([{ kind: 'black', start: 0, end: 2 }]);
    expect(runsOf(runs, 'frozen')[0]!.end - runsOf(runs, 'frozen')[0]!.start).toBeGreaterThan(1.5);
    expect(runsOf(runs, 'blurred')[0]!.start).toBeCloseTo(9, 0);
    expect(runsOf(runs, 'scene').map((scene) => scene.start)).toEqual([0, 7]);
  });
  it('decides again with other rules, from the same measurements', () => {
    const measured = raw({ 'frame.sharpness': () => 0.3 });
    expect(runsOf(derive(measured).runs, 'blurred')).toHaveLength(1);
    expect(runsOf(derive(measured, { ...readingDefaults, blurredBelow: 0.2 }).runs, 'blurred')).toHaveLength(0);
  });
  it('deciding anew does only what a moved sensitivity touches, and says the same as deciding from nothing', () => {
    const measured = raw(
      {
        'sound.voice': (t) => (t > 3 && t < 6 ? 0.7 : 0.02),
        'camera.dx': (t) => 0.01 * Math.sin(t * 30),
        'frame.sharpness': (t) => (t > 9 ? 0.1 : 0.8),
      },
      { range: { start: 1, end: 11 } },
    );
    const first = derive(measured);
    const moved = {
      ...readingDefaults,
      speech: { ...readingDefaults.speech, enter: 0.8 },
      camera: { ...readingDefaults.camera, shakyFrom: 0.9 },
    };
    const speech = derive(measured, { ...readingDefaults, speech: moved.speech });
    expect(runsOf(speech.runs, 'shaky')).toEqual(runsOf(first.runs, 'shaky'));
    expect(runsOf(speech.runs, 'speech')).toEqual([]);
    expect(derive(measured, moved)).toEqual(derive({ ...measured }, moved));
    expect(derive(measured)).toEqual(first);
  });
  it('faces count from half a sample before to half a sample after', () => {
    const box = { x: 0.4, y: 0.3, width: 0.2, height: 0.3, score: 0.95 };
    const { traces } = derive(
      raw(
        {},
        {
          faces: [
            { time: 0, boxes: [] },
            { time: 2, boxes: [box, { ...box, x: 0.1, width: 0.1 }] },
            { time: 4, boxes: [] },
          ],
        },
      ),
    );
    expect([traces.faces[9], traces.faces[11], traces.faces[29], traces.faces[31]]).toEqual([0, 2, 2, 0]);
    expect(traces.faceArea[20]).toBeCloseTo(0.06, 5);
  });
  it('a rough reading without motion says nothing of frozen stretches, and still finds its light', () => {
    const rough = raw({ 'light.mean': (t) => (t < 2 ? 0.01 : 0.4) });
    for (const name of [...rough.traces.keys()])
      if (/^(camera|things|frame)/.test(name) && name !== 'frame.sharpness') rough.traces.delete(name);
    const { runs } = derive(rough);
    expect(runsOf(runs, 'frozen', 'shaky', 'whip')).toEqual([]);
    expect(runsOf(runs, 'black')).toEqual([{ kind: 'black', start: 0, end: 2 }]);
  });
  it('says nothing outside the range that was read', () => {
    const { runs, traces } = derive(raw({ 'sound.voice': () => 0.9 }, { range: { start: 3, end: 9 } }));
    expect(runsOf(runs, 'unread').map(({ start, end }) => [start, end])).toEqual([
      [0, 3],
      [9, 12],
    ]);
    expect(runs.filter((run) => run.kind !== 'unread').every((run) => run.start >= 3 && run.end <= 9)).toBe(true);
    expect([traces.speech[10], traces.speech[50], traces.loudness[10]]).toEqual([0, 1, -70]);
  });
  it('has a right answer without sound and without picture', () => {
    const silent = derive(raw({}, { hasSound: false }));
    expect(runsOf(silent.runs, 'silence', 'speech')).toEqual([]);
    expect(Math.max(...silent.traces.loudness)).toBe(-70);
    const blind = derive(raw({}, { hasPicture: false }));
    expect(runsOf(blind.runs, 'scene', 'still', 'shaky')).toEqual([]);
  });
});

it('sums up in a sentence', () => {
  const box = { x: 0.4, y: 0.3, width: 0.2, height: 0.3, score: 0.95 };
  const faces = Array.from({ length: 24 }, (_, i) => ({ time: i / 2, boxes: [box] }));
  const summary = summarize(derive(raw({ 'sound.voice': (t) => (t < 6 ? 0.9 : 0) }, { faces })));
  expect(summarySentence(summary)).toMatch(/^1 face · 5\d % talk$/);
  const nothing = { faces: 0, speechShare: 0, shakySeconds: 0, movingSeconds: 0, flawedSeconds: 0, scenes: 1 };
  expect(summarySentence(nothing)).toBe('still camera, nobody in frame');
  expect(['sound', 'photo'].map((kind) => summarySentence(nothing, kind as 'sound'))).toEqual([
    'music or sound',
    'no faces',
  ]);
  expect([loudnessWords(-70), loudnessWords(-18.25)]).toEqual(['silent', '-18.3 LUFS']);
  // Somebody sings: it counts as speech, but it is music.
  const sung = { ...nothing, speechShare: 0.6, musicShare: 0.9 };
  expect([summarySentence(sung, 'sound'), isSpeech(sung)]).toEqual(['music', false]);
  const talk = { ...nothing, speechShare: 0.6, musicShare: 0.1 };
  expect([summarySentence(talk, 'sound'), isSpeech(talk), isSpeech(null)]).toEqual(['60 % talk', true, false]);
  expect(summarySentence({ ...nothing, movingSeconds: 11.2 })).toBe('11 s camera moves');
  // Black all along, which is blurred as well, and frozen.
  const black = summarize(
    derive(
      raw({ 'light.mean': () => 0, 'light.contrast': () => 0, 'frame.sharpness': () => 0, 'frame.change': () => 0 }),
    ),
  );
  expect(black.flawedSeconds).toBeGreaterThan(0);
  expect(black.flawedSeconds).toBeLessThanOrEqual(12);
});
