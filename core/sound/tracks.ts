/** A track of sound in a file. */
export interface SoundTrack {
  channels: number;
  /** As ffmpeg names it: "stereo", "5.1(side)"; null where the file does not say. */
  layout: string | null;
  codec: string;
  sampleRate: number;
  /** ISO 639, and the name that the recorder gave; null where the file does not say. */
  language: string | null;
  title: string | null;
}

/** A part of what is heard of a file: a track, all of it or one of its channels. Both counted from 0. */
export interface SoundPick {
  track: number;
  /** Null for all channels. */
  channel: number | null;
}
/** What is heard of a file, mixed together; nothing when it is empty. */
export type SoundChoice = readonly SoundPick[];

/** What is heard where nobody chose: all of the first track. */
export const firstTrack: SoundChoice = [{ track: 0, channel: null }];

/** Whether a choice is what every player does by itself. */
export const isFirstTrack = (choice: SoundChoice): boolean =>
  choice.length === 1 && choice[0]!.track === 0 && choice[0]!.channel === null;

/** A choice as a short text: "0", "1.0+2", "-" for silence. */
export const writeSoundChoice = (choice: SoundChoice): string =>
  choice.map(({ track, channel }) => (channel === null ? `${track}` : `${track}.${channel}`)).join('+') || '-';

/** The choice that `writeSoundChoice` wrote; null for anything else. */
export function readSoundChoice(text: string): SoundChoice | null {
  if (text === '-') return [];
  if (!/^\d{1,2}(\.\d{1,2})?(\+\d{1,2}(\.\d{1,2})?)*$/.test(text)) return null;
  return text.split('+').map((pick) => {
    const [track, channel] = pick.split('.').map(Number);
    return { track: track!, channel: channel ?? null };
  });
}

/** Whether a file with these tracks has all that is chosen, each once. */
export const hasChoice = (tracks: readonly SoundTrack[], choice: SoundChoice): boolean =>
  new Set(choice.map(({ track, channel }) => `${track}.${channel}`)).size === choice.length &&
  choice.every(({ track, channel }) => track < tracks.length && (channel ?? 0) < tracks[track]!.channels);

/** How many channels of sound a choice gives: one, or two where it holds more. */
export const channelsOf = (tracks: readonly Pick<SoundTrack, 'channels'>[], choice: SoundChoice): 1 | 2 =>
  choice.length === 1 && (choice[0]!.channel !== null || tracks[choice[0]!.track]?.channels === 1) ? 1 : 2;

/** What was heard in stretches of one channel. */
export interface HeardChannel {
  track: number;
  channel: number;
  /** Share of the time in which somebody speaks, 0 to 1; null where only the level was asked for. */
  speech: number | null;
  /** Level in speech above the level beside it, in dB. */
  clarity: number;
  /** RMS of all of it, dBFS. */
  level: number;
}

/** Quieter than this a channel holds nothing: the noise of a microphone that is off. dBFS; common practice, no source. */
export const silentLevel = -62;
/** A channel alone is proposed when it is so much better than its neighbours. */
const clearlyBetter = 1.5;
/** Layouts in which channels belong together. */
const surround = /^(5\.|6\.|7\.|3\.0|2\.1|hexagonal|octagonal)/;

/**
 * What of a file is best heard for its speech: the track, or the channel of one, in which somebody speaks most and most
 * clearly. Tracks without speech are passed over; where nobody speaks it is the first that holds any sound.
 */
export function proposeSound(tracks: readonly SoundTrack[], heard: readonly HeardChannel[]): SoundChoice {
  const worth = ({ speech, clarity, level }: HeardChannel) =>
    level < silentLevel ? 0 : (speech ?? 0) * (0.5 + Math.min(1, Math.max(0, clarity) / 20));
  const channelsIn = (track: number) => heard.filter((each) => each.track === track);
  const sounding = heard.filter((each) => each.level >= silentLevel);
  if (sounding.length === 0) return firstTrack;
  const best = sounding.reduce((most, each) => (worth(each) > worth(most) ? each : most));
  // A tenth better is chance: the first track is what everybody expects.
  const firstWorth = Math.max(0, ...channelsIn(0).map(worth));
  const track = worth(best) > 1.1 * firstWorth ? best.track : firstWorth > 0 ? 0 : sounding[0]!.track;
  const own = channelsIn(track);
  const { channels, layout } = tracks[track]!;
  const all: SoundChoice = [{ track, channel: null }];
  if (channels < 2 || surround.test(layout ?? '')) return all;
  const [first, second] = [...own].sort((a, b) => worth(b) - worth(a) || b.level - a.level) as [
    HeardChannel,
    HeardChannel,
  ];
  // Of stereo one side is taken alone only when the other holds nothing.
  const others = own.filter((each) => each !== first);
  if (channels === 2)
    return others[0]!.level < silentLevel && first.level >= silentLevel ? [{ track, channel: first.channel }] : all;
  return worth(first) > clearlyBetter * worth(second) ? [{ track, channel: first.channel }] : all;
}
