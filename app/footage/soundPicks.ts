import { firstTrack, silentLevel, type HeardChannel, type SoundChoice, type SoundTrack } from '#core/sound';

/** A line to choose from: a track, or one channel of it. */
export interface SoundLine {
  track: number;
  channel: number | null;
  name: string;
  /** What it is: "stereo, aac, eng". */
  kind: string;
  /** What was heard in it; empty where it was not listened for. */
  heard: string;
}

const layoutOf = ({ channels, layout }: SoundTrack): string =>
  channels === 1 ? 'mono' : channels === 2 ? 'stereo' : (layout ?? `${channels} channels`);

const heardWords = (channels: readonly HeardChannel[]): string => {
  if (channels.length === 0) return '';
  if (Math.max(...channels.map((each) => each.level)) < silentLevel) return 'silent';
  const shares = channels.flatMap((each) => each.speech ?? []);
  if (shares.length === 0) return '';
  const most = Math.max(...shares);
  return most < 0.02 ? 'no speech' : `${Math.round(most * 100)} % speech`;
};

/** Every track, and below it its channels where there are several. */
export function soundLines(tracks: readonly SoundTrack[], listened: readonly HeardChannel[]): SoundLine[] {
  return tracks.flatMap((each, track) => {
    const own = listened.filter((one) => one.track === track);
    const kind = [layoutOf(each), each.codec, each.language].filter(Boolean).join(', ');
    const all: SoundLine = {
      track,
      channel: null,
      name: each.title ?? (tracks.length > 1 ? `Track ${track + 1}` : 'All channels'),
      kind,
      heard: heardWords(own),
    };
    const channels = Array.from({ length: each.channels > 1 ? each.channels : 0 }, (_, channel): SoundLine => ({
      track,
      channel,
      name: each.channels === 2 ? ['Left', 'Right'][channel]! : `Channel ${channel + 1}`,
      kind: '',
      heard: heardWords(own.filter((one) => one.channel === channel)),
    }));
    return [all, ...channels];
  });
}

/** A choice with a line put in or taken out. A track and its channels exclude one another. */
export function toggledPick(
  choice: SoundChoice,
  { track, channel }: Pick<SoundLine, 'track' | 'channel'>,
): SoundChoice {
  const isIn = choice.some((each) => each.track === track && each.channel === channel);
  const others = choice.filter((each) =>
    isIn
      ? each.track !== track || each.channel !== channel
      : each.track !== track || (channel !== null && each.channel !== null),
  );
  const next = isIn ? others : [...others, { track, channel }];
  return [...next].sort((a, b) => a.track - b.track || (a.channel ?? -1) - (b.channel ?? -1));
}

/** What is heard where nobody chose and nothing is noted. */
export const heardIn = (heard: SoundChoice | undefined): SoundChoice => heard ?? firstTrack;
