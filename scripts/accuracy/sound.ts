import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  LoudnessMeter,
  TruePeakMeter,
  findOffset,
  musicLikelihood,
  musicRuns,
  offsetSampleRate,
  silentRuns,
  speechRuns,
  OnsetMeter,
} from '#core/sound';
import type { Range } from '#core/time';
import { decodeMono, ffmpeg, realSpeech } from '../../media/testMedia';
import { offsetBetween } from '../../media/read/offset';
import { VoiceDetector } from '../../media/nets/voiceDetector';

import { add, f1OfSeconds, random } from './table';

const rate = 16000;
const clips = [
  'cards/001.wav',
  'cards/002.wav',
  'cards/003.wav',
  'cards/005.wav',
  ...['0870', '0880', '0890', '0920', '0930'].map(
    (number) => `librivox/sense_and_sensibility_01_austen_64kb-${number}.wav`,
  ),
];

const power = (samples: Float32Array) => samples.reduce((sum, value) => sum + value * value, 0) / samples.length;

/** Real sentences laid into a minute and a half; the truth is where each is louder than a hundredth of its peak, pauses under 0.3 s bridged. */
function laid(): { samples: Float32Array; truth: Range[]; spokenPower: number } {
  const samples = new Float32Array(rate * 90);
  const truth: Range[] = [];
  let at = 2 * rate;
  let energy = 0,
    count = 0;
  for (const name of clips) {
    const clip = decodeMono(realSpeech(name), rate);
    const peak = clip.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    const hop = rate / 100;
    let from = -1,
      last = -1;
    for (let frame = 0; frame * hop < clip.length; frame++) {
      const part = clip.subarray(frame * hop, (frame + 1) * hop);
      if (Math.sqrt(power(part)) < peak * 0.02) continue;
      if (from >= 0 && frame - last > 30) {
        truth.push({ start: (at + from * hop) / rate, end: (at + (last + 1) * hop) / rate });
        from = frame;
      }
      if (from < 0) from = frame;
      last = frame;
    }
    if (from >= 0) truth.push({ start: (at + from * hop) / rate, end: (at + (last + 1) * hop) / rate });
    samples.set(clip, at);
    energy += power(clip) * clip.length;
    count += clip.length;
    at += clip.length + Math.round((1.5 + 2 * random()) * rate);
  }
  return { samples, truth, spokenPower: energy / count };
}

async function voices(samples: Float32Array): Promise<Range[]> {
  const detector = await VoiceDetector.load();
  await detector.push(samples);
  await detector.end();
  return speechRuns(detector.probabilities, VoiceDetector.hz, samples.length / rate);
}

/** Runs bridged over pauses that the truth bridges too. */
const bridged = (runs: Range[]): Range[] =>
  runs.reduce<Range[]>((out, run) => {
    const last = out.at(-1);
    if (last && run.start - last.end < 0.3) last.end = run.end;
    else out.push({ ...run });
    return out;
  }, []);

export async function checkSound(folder: string): Promise<void> {
  const { samples, truth, spokenPower } = laid();
  const mix = (other: (index: number) => number, decibels: number) => {
    const noise = Float32Array.from(samples, (_, index) => other(index));
    const gain = Math.sqrt(spokenPower / 10 ** (decibels / 10) / power(noise));
    return samples.map((value, index) => value + gain * noise[index]!);
  };
  const song = decodeMono('demo/media/paper-sails.m4a', rate);
  const source = 'recorded sentences of pocketsphinx-testdata at known times';
  for (const [name, sound, wanted] of [
    ['clean', samples, 0.95],
    ['in white noise at 15 dB', mix(() => random() - 0.5, 15), 0.9],
    ['over music at 10 dB', mix((index) => song[index % song.length]!, 10), 0.9],
  ] as const) {
    const f1 = f1OfSeconds(bridged(await voices(sound)), truth);
    add({
      reading: 'speech',
      what: `${name}, F1 of seconds`,
      ours: f1.toFixed(3),
      wanted: String(wanted),
      reached: f1 >= wanted,
      source,
    });
  }

  const wav = join(folder, 'silence.wav');
  ffmpeg('-f', 'f32le', '-ar', String(rate), '-ac', '1', '-i', writeRaw(folder, samples), wav);
  const said = execFileSync('sh', [
    '-c',
    `ffmpeg -nostats -i "${wav}" -af silencedetect=noise=-45dB:d=0.5 -f null - 2>&1`,
  ]).toString();
  const starts = [...said.matchAll(/silence_start: (-?[\d.]+)/g)].map((match) => Math.max(0, Number(match[1])));
  const ends = [...said.matchAll(/silence_end: ([\d.]+)/g)].map((match) => Number(match[1]));
  const theirs = starts.map((start, index) => ({ start, end: ends[index] ?? samples.length / rate }));
  // silencedetect looks at single samples, we at the level of 20 ms; a peak lies some 9 dB over the level of speech.
  const levels = Float32Array.from(
    { length: Math.floor(samples.length / 320) },
    (_, hop) => 10 * Math.log10(power(samples.subarray(hop * 320, hop * 320 + 320)) + 1e-12),
  );
  const agreement = f1OfSeconds(silentRuns(levels, 50, { thresholdDb: -54, minSeconds: 0.5 }), theirs);
  add({
    reading: 'silence',
    what: 'agreement with silencedetect, F1 of seconds',
    ours: agreement.toFixed(3),
    reference: 'silencedetect',
    wanted: '0.95',
    reached: agreement >= 0.95,
    source,
  });

  let worst = 0,
    worstRange = 0,
    worstPeak = 0;
  for (const file of ['demo/media/race-day.mp4', 'demo/media/paper-sails.m4a', 'demo/media/builder-voice.m4a']) {
    const words = execFileSync('sh', [
      '-c',
      `ffmpeg -nostats -i "${file}" -map 0:a -ac 2 -ar 48000 -af aresample=48000,aformat=channel_layouts=stereo,ebur128=peak=true -f null - 2>&1`,
    ]).toString();
    const tail = words.slice(words.lastIndexOf('Summary:'));
    const number = (pattern: RegExp) => Number(pattern.exec(tail)?.[1]);
    const raw = ffmpeg('-i', file, '-map', '0:a', '-ac', '2', '-ar', '48000', '-f', 'f32le', '-');
    const stereo = new Float32Array(Uint8Array.from(raw).buffer);
    const meter = new LoudnessMeter(2),
      peak = new TruePeakMeter(2);
    meter.push(stereo);
    peak.push(stereo);
    worst = Math.max(worst, Math.abs(meter.integrated() - number(/I:\s+(-?[\d.]+) LUFS/)));
    worstRange = Math.max(worstRange, Math.abs(meter.range() - number(/LRA:\s+(-?[\d.]+) LU/)));
    worstPeak = Math.max(worstPeak, Math.abs(peak.decibels - number(/Peak:\s+(-?[\d.]+) dBFS/)));
  }
  add({
    reading: 'loudness',
    what: 'integrated, largest difference to ebur128, LU',
    ours: worst.toFixed(3),
    reference: 'ebur128',
    wanted: '0.1',
    reached: worst <= 0.1,
    source: 'demo sound',
  });
  add({
    reading: 'loudness',
    what: 'range, largest difference to ebur128, LU',
    ours: worstRange.toFixed(3),
    reference: 'ebur128',
    source: 'demo sound',
  });
  add({
    reading: 'loudness',
    what: 'true peak, largest difference to ebur128, dB',
    ours: worstPeak.toFixed(3),
    reference: 'ebur128',
    source: 'demo sound',
  });

  for (const [name, sound, isMusic] of [
    ['paper-sails.m4a', song, true],
    ['dry-shoes.m4a', decodeMono('demo/media/dry-shoes.m4a', rate), true],
    ['race-day.mp4', decodeMono('demo/media/race-day.mp4', rate), false],
    ['recorded sentences', samples, false],
  ] as const) {
    const meter = new OnsetMeter();
    meter.push(sound);
    const level = Float32Array.from(
      { length: Math.floor(sound.length / 320) },
      (_, hop) => 10 * Math.log10(power(sound.subarray(hop * 320, hop * 320 + 320)) + 1e-12),
    );
    const share = f1OfSeconds(musicRuns(musicLikelihood(meter.onset, meter.tonal, level)), [
      { start: 0, end: sound.length / rate },
    ]);
    const covered = share / (2 - share);
    add({
      reading: 'music',
      what: `${name}, share called music`,
      ours: covered.toFixed(2),
      wanted: isMusic ? '> 0.7' : '< 0.1',
      reached: isMusic ? covered > 0.7 : covered < 0.1,
      source: 'known by making',
    });
  }
  await checkOffset(samples);
}

async function checkOffset(speech: Float32Array): Promise<void> {
  const truth = JSON.parse(readFileSync('demo/media/sync.truth.json', 'utf8')) as Record<string, number>;
  for (const other of ['builder-voice.m4a', 'builder-camera-b.mp4']) {
    const { offsetSeconds } = await offsetBetween('demo/media/race-day.mp4', `demo/media/${other}`);
    const error = Math.abs(offsetSeconds - truth[other]!) * 1000;
    add({
      reading: 'sync',
      what: `${other}, ms off`,
      ours: error.toFixed(2),
      wanted: '< 5',
      reached: error < 5,
      source: "the demo's truth",
    });
  }
  // Real sentences, heard a second time through a wall, with echoes and noise, by a clock 40 ppm fast.
  const half = Float32Array.from(
    { length: speech.length / 2 },
    (_, index) => (speech[2 * index]! + speech[2 * index + 1]!) / 2,
  );
  const scene = new Float32Array(half.length * 2);
  scene.set(half);
  scene.set(half.map((value) => value * 0.7).reverse(), half.length);
  let low = 0;
  const other = Float32Array.from({ length: scene.length - 20 * offsetSampleRate }, (_, index) => {
    const at = 12.3456 * offsetSampleRate + index / (1 + 40e-6);
    const i = Math.floor(at);
    const dry =
      (scene[i] ?? 0) +
      ((scene[i + 1] ?? 0) - (scene[i] ?? 0)) * (at - i) +
      0.4 * (scene[i - 180] ?? 0) +
      0.25 * (scene[i - 420] ?? 0);
    low += 0.4 * (dry - low);
    return low + 0.01 * (random() - 0.5);
  });
  const { offsetSeconds, driftPpm } = findOffset(scene, other);
  const error = Math.abs(offsetSeconds - 12.3456) * 1000;
  add({
    reading: 'sync',
    what: 'echo, wall, noise, 40 ppm: ms off',
    ours: error.toFixed(2),
    wanted: '< 5',
    reached: error < 5,
    source: 'recorded sentences of pocketsphinx-testdata',
  });
  add({
    reading: 'sync',
    what: 'the same: drift found, ppm',
    ours: driftPpm.toFixed(1),
    wanted: '40 ± 5',
    reached: Math.abs(driftPpm - 40) < 5,
    source: 'recorded sentences of pocketsphinx-testdata',
  });
}

function writeRaw(folder: string, samples: Float32Array): string {
  const file = join(folder, 'samples.f32');
  writeFileSync(file, new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength));
  return file;
}
