import type { Readable } from 'node:stream';
import type { LoudnessSummary, RawTraceName } from '#core/readings';
import type { Trace } from '#core/signal';
import { LoudnessMeter, OnsetMeter, TruePeakMeter } from '#core/sound';
import { floatChunks } from './blocks';
import { VoiceDetector } from '../nets/voiceDetector';

const trace = (name: RawTraceName, hz: number, values: ArrayLike<number>): Trace => ({
  name,
  hz,
  start: 0,
  values: Float32Array.from(values),
});

/** Voice probability, onset strength, tonality and centroid from mono sound at 16 kHz. */
export async function measureVoice(stream: Readable): Promise<Trace[]> {
  let detector: VoiceDetector | null = null;
  const onsets = new OnsetMeter();
  for await (const samples of floatChunks(stream)) {
    detector ??= await VoiceDetector.load();
    onsets.push(samples);
    await detector.push(samples);
  }
  await detector?.end();
  return detector
    ? [
        trace('sound.voice', VoiceDetector.hz, detector.probabilities),
        trace('sound.onset', OnsetMeter.hz, onsets.onset),
        trace('sound.tonal', 10, onsets.tonal),
        trace('sound.centroid', 10, onsets.centroid),
      ]
    : [];
}

export interface MeasuredSound {
  seconds: number;
  loudness: LoudnessSummary;
  traces: Trace[];
}

/**
 * Level (RMS, dBFS) and peak 50 times a second, loudness 10 times, from sound at 48 kHz.
 * @param channels 1 or 2; a mono file is measured as one channel, as BS.1770 has it
 */
export async function measureSound(
  stream: Readable,
  channels: number,
  onProgress: (seconds: number) => void,
): Promise<MeasuredSound | null> {
  const meter = new LoudnessMeter(channels);
  const truePeak = new TruePeakMeter(channels);
  const level: number[] = [];
  const peak: number[] = [];
  const hop = 960;
  let squares = 0;
  let highest = 0;
  let count = 0;
  let seconds = 0;
  for await (const samples of floatChunks(stream)) {
    meter.push(samples);
    truePeak.push(samples);
    for (let at = 0; at < samples.length; at++) {
      const value = samples[at]!;
      squares += value * value;
      highest = Math.max(highest, Math.abs(value));
      if (++count < hop * channels) continue;
      level.push(Math.max(-90, 10 * Math.log10(squares / (hop * channels) + 1e-12)));
      peak.push(Math.min(1, highest));
      squares = highest = count = 0;
    }
    seconds += samples.length / (48000 * channels);
    onProgress(seconds);
  }
  if (seconds === 0) return null;
  const finite = (value: number) => (Number.isFinite(value) ? value : null);
  return {
    seconds,
    loudness: {
      integratedLufs: finite(meter.integrated()),
      rangeLu: finite(meter.range()),
      truePeakDb: finite(truePeak.decibels),
    },
    traces: [
      trace('sound.level', 50, level),
      trace('sound.peak', 50, peak),
      trace('sound.loudness', 10, meter.momentary()),
    ],
  };
}
