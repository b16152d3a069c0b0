import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { firstTrack, proposeSound, type HeardChannel, type SoundChoice, type SoundTrack } from '#core/sound';
import { VoiceDetector } from '../nets/voiceDetector';
import { capture } from '../capture';
import { Cancelled, inputArguments } from '../process';
import type { Probe } from '../probe/probe';

/** So many stretches of so many seconds, spread over a file, tell which track has the voice. */
const forVoice = { stretches: 10, seconds: 5 };
/** Of stereo it is only asked whether one side holds nothing. */
const forLevel = { stretches: 3, seconds: 3 };

/** Whether there is anything to choose between. */
const isDoubtful = (tracks: readonly SoundTrack[]): boolean => tracks.length > 1 || (tracks[0]?.channels ?? 0) > 1;

/** What of a file is best heard, and what was heard in each of its channels. */
export async function listenForBest(
  file: string,
  info: Pick<Probe, 'durationSeconds' | 'soundTracks'>,
  signal?: AbortSignal,
): Promise<{ choice: SoundChoice; channels: HeardChannel[] }> {
  const { soundTracks: tracks, durationSeconds } = info;
  if (!isDoubtful(tracks)) return { choice: firstTrack, channels: [] };
  const hasVoices = tracks.length > 1 || tracks[0]!.channels > 2;
  const { stretches, seconds: stretchSeconds } = hasVoices ? forVoice : forLevel;
  const whole = durationSeconds <= stretches * stretchSeconds;
  const spots = whole
    ? [{ start: 0, seconds: Math.max(0.1, durationSeconds) }]
    : Array.from({ length: stretches }, (_, index) => ({
        start: ((index + 0.5) * durationSeconds) / stretches - stretchSeconds / 2,
        seconds: stretchSeconds,
      }));
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-listen-'));
  try {
    const heard = tracks.map(({ channels }) => Array.from({ length: channels }, (): Float32Array[] => []));
    for (const { start, seconds } of spots) {
      await capture(
        'ffmpeg',
        [
          ...['-v', 'error', '-nostdin', '-y', '-ss', start.toFixed(3), '-t', seconds.toFixed(3)],
          ...inputArguments(file),
          ...tracks.flatMap((_, track) => [
            ...['-map', `0:a:${track}`, '-ar', String(VoiceDetector.sampleRate), '-f', 'f32le'],
            join(folder, `${track}.f32`),
          ]),
        ],
        { signal },
      );
      for (const [track, { channels }] of tracks.entries()) {
        const bytes = await readFile(join(folder, `${track}.f32`));
        apart(bytes, channels).forEach((samples, channel) => heard[track]![channel]!.push(samples));
      }
      if (signal?.aborted) throw new Cancelled();
    }
    const channels: HeardChannel[] = [];
    for (const [track, own] of heard.entries())
      for (const [channel, pieces] of own.entries())
        channels.push({ track, channel, ...(await judge(pieces, hasVoices)) });
    return { choice: proposeSound(tracks, channels), channels };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Channels that lie sample by sample in one stream. */
function apart(bytes: Buffer, channels: number): Float32Array[] {
  const count = Math.floor(bytes.length / 4 / channels);
  return Array.from({ length: channels }, (_, channel) => {
    const out = new Float32Array(count);
    for (let at = 0; at < count; at++) out[at] = bytes.readFloatLE((at * channels + channel) * 4);
    return out;
  });
}

/** Lower levels are nothing. */
const floorDb = -100;
const decibels = (squares: number, count: number): number =>
  count === 0 ? floorDb : Math.max(floorDb, 10 * Math.log10(squares / count + 1e-12));

const levelOf = (pieces: readonly Float32Array[]): number =>
  decibels(
    pieces.reduce((all, samples) => samples.reduce((sum, sample) => sum + sample * sample, all), 0),
    pieces.reduce((count, samples) => count + samples.length, 0),
  );

async function judge(
  pieces: readonly Float32Array[],
  hasVoices: boolean,
): Promise<Omit<HeardChannel, 'track' | 'channel'>> {
  if (!hasVoices) return { speech: null, clarity: 0, level: levelOf(pieces) };
  const hop = Math.round(VoiceDetector.sampleRate / VoiceDetector.hz);
  const sums = { voice: [0, 0], rest: [0, 0] } as Record<'voice' | 'rest', [number, number]>;
  let voiced = 0;
  let all = 0;
  for (const samples of pieces) {
    const detector = await VoiceDetector.load();
    await detector.push(samples);
    await detector.end();
    detector.probabilities.forEach((probability, index) => {
      const own = sums[probability > 0.5 ? 'voice' : 'rest'];
      for (const sample of samples.subarray(index * hop, (index + 1) * hop)) {
        own[0] += sample * sample;
        own[1]++;
      }
      if (probability > 0.5) voiced++;
      all++;
    });
  }
  const { voice, rest } = sums;
  const level = decibels(voice[0] + rest[0], voice[1] + rest[1]);
  return {
    speech: all === 0 ? 0 : voiced / all,
    clarity: voice[1] === 0 ? 0 : decibels(...voice) - (rest[1] === 0 ? -60 : Math.max(-80, decibels(...rest))),
    level,
  };
}
