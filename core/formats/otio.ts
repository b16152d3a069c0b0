import {
  beforeCut,
  mainTrack,
  pictureTracks,
  soundTracks,
  transitionKinds,
  type Clip,
  type Music,
  type Reel,
  type ReelItem,
  type Track,
  type TransitionKind,
} from '#core/reel';
import { framesPerSecond, nearestStandardRate, startFrames, type Rate } from '#core/time';
import { clipKeys, isNumber, isObject, kept, picked, reelKeys, trackKeys, type Json } from './ownMetadata';
import { FormatError, type ForeignItem, type ForeignReel, type SourceInfo } from './source';

/**
 * OpenTimelineIO's native JSON (schema of version 0.17: Timeline.1, Stack.1, Track.1, Clip.2, Gap.1, ExternalReference.1,
 * TimeRange.1, RationalTime.1; Clip.1 is read as well). Rates are written as decimal numbers, as the format wants; the
 * exact fraction goes along as metadata.
 */
const round = (value: number) => Math.round(value * 1e6) / 1e6;
const time = (frames: number, rate: Rate): Json => ({
  OTIO_SCHEMA: 'RationalTime.1',
  rate: round(framesPerSecond(rate)),
  value: frames,
});
const range = (start: number, frames: number, rate: Rate): Json => ({
  OTIO_SCHEMA: 'TimeRange.1',
  duration: time(frames, rate),
  start_time: time(start, rate),
});

/**
 * A reel as OpenTimelineIO. The sound of the main track stands in an audio track of its own, linked by name and place;
 * sound tracks are audio tracks. Speeds are LinearTimeWarp.1 and FreezeFrame.1, transitions Transition.1, markers
 * Marker.2 of the stack.
 */
export function writeOtio(reel: Reel, sources: readonly SourceInfo[]): string {
  const { rate } = reel;
  const effects = ({ speed }: Clip): Json[] =>
    speed === undefined
      ? []
      : [
          {
            OTIO_SCHEMA: speed === 0 ? 'FreezeFrame.1' : 'LinearTimeWarp.1',
            name: '',
            effect_name: speed === 0 ? 'FreezeFrame' : 'LinearTimeWarp',
            time_scalar: speed / 100,
            metadata: {},
          },
        ];
  const item = (each: ReelItem): Json => {
    if (each.kind === 'gap')
      return {
        OTIO_SCHEMA: 'Gap.1',
        name: '',
        source_range: range(0, each.frames, rate),
        effects: [],
        markers: [],
        enabled: true,
        metadata: { bright_reel: { id: each.id } },
      };
    const source = sources.find((one) => one.id === each.media);
    const available =
      source && !source.photo
        ? range(
            startFrames(source.start, rate),
            Math.floor(source.durationSeconds * framesPerSecond(rate) + 1e-6),
            rate,
          )
        : null;
    const reference: Json = source
      ? {
          OTIO_SCHEMA: 'ExternalReference.1',
          name: source.name,
          target_url: encodeURI(source.name),
          available_range: available,
          available_image_bounds: null,
          metadata: {
            bright_reel: { sha256: source.hash },
            ...(source.reelName ? { reel_name: source.reelName } : {}),
          },
        }
      : {
          OTIO_SCHEMA: 'MissingReference.1',
          name: '',
          available_range: null,
          available_image_bounds: null,
          metadata: {},
        };
    return {
      OTIO_SCHEMA: 'Clip.2',
      name: each.name,
      // By the count of the camera, as its range is; a photo has none.
      source_range: range(each.sourceIn + (available ? startFrames(source?.start, rate) : 0), each.frames, rate),
      media_references: { DEFAULT_MEDIA: reference },
      active_media_reference_key: 'DEFAULT_MEDIA',
      effects: effects(each),
      markers: [],
      enabled: true,
      metadata: { bright_reel: { id: each.id, ...picked(each, clipKeys) } },
    };
  };
  const children = (items: readonly ReelItem[]): Json[] =>
    items.flatMap((each) => {
      if (each.kind === 'gap' || !each.into) return [item(each)];
      const { kind, frames } = each.into;
      const early = beforeCut(frames);
      return [
        {
          OTIO_SCHEMA: 'Transition.1',
          name: kind,
          transition_type: kind === 'dissolve' ? 'SMPTE_Dissolve' : 'Custom_Transition',
          in_offset: time(early, rate),
          out_offset: time(frames - early, rate),
          metadata: { bright_reel: { kind } },
        },
        item(each),
      ];
    });
  const track = (name: string, kind: 'Video' | 'Audio', items: readonly ReelItem[], own: Json): Json => ({
    OTIO_SCHEMA: 'Track.1',
    name,
    kind,
    source_range: null,
    children: children(items),
    effects: [],
    markers: [],
    enabled: true,
    metadata: Object.keys(own).length ? { bright_reel: own } : {},
  });
  const of = (each: Track) =>
    track(each.name, each.kind === 'sound' ? 'Audio' : 'Video', each.items, picked(each, trackKeys));
  const { music } = reel;
  const song = music && sources.find((source) => source.id === music.media);
  return `${JSON.stringify(
    {
      OTIO_SCHEMA: 'Timeline.1',
      name: reel.name,
      global_start_time: null,
      metadata: {
        bright_reel: {
          schema: reel.schema,
          rate,
          size: reel.size,
          ...picked(reel, reelKeys),
          ...(music
            ? { music: { ...music, source: { name: song?.name ?? music.name, hash: song?.hash ?? null } } }
            : {}),
        },
      },
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        name: 'tracks',
        source_range: null,
        effects: [],
        enabled: true,
        metadata: {},
        markers: (reel.markers ?? []).map((marker) => ({
          OTIO_SCHEMA: 'Marker.2',
          name: marker.note,
          color: 'WHITE',
          marked_range: range(marker.frame, 0, rate),
          comment: '',
          metadata: { bright_reel: { id: marker.id } },
        })),
        children: [
          ...pictureTracks(reel).map(of),
          track(`${mainTrack(reel).name}, sound`, 'Audio', mainTrack(reel).items, { of: 'main' }),
          ...soundTracks(reel).map(of),
        ],
      },
    },
    null,
    2,
  )}\n`;
}

const schemaOf = (value: unknown): string =>
  isObject(value) && typeof value.OTIO_SCHEMA === 'string' ? value.OTIO_SCHEMA : '';
const named = (value: Json) => (typeof value.name === 'string' ? value.name : '');
const own = (value: Json): Json =>
  isObject(value.metadata) && isObject(value.metadata.bright_reel) ? value.metadata.bright_reel : {};

/**
 * Reads a timeline. Picture tracks become the reel's tracks, lowest first; what a reel cannot hold is listed in `left`.
 * @param makeId for pieces that carry no id of ours
 * @throws FormatError
 */
export function readOtio(text: string, makeId: () => string): ForeignReel {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (error) {
    throw new FormatError(`This is not a whole OpenTimelineIO file: ${(error as Error).message}.`, { cause: error });
  }
  const timeline = findTimeline(parsed);
  if (!timeline)
    throw new FormatError(
      `There is no timeline in this file; it begins with ${schemaOf(parsed) || 'something else than OTIO_SCHEMA'}.`,
    );
  const stack = isObject(timeline.tracks) ? timeline.tracks : null;
  const tracks = Array.isArray(stack?.children) ? (stack.children as unknown[]).filter(isObject) : [];
  const pictures = tracks.filter((track) => schemaOf(track).startsWith('Track.') && track.kind === 'Video');
  if (pictures.length === 0) throw new FormatError(`The timeline “${named(timeline)}” has no picture track.`);
  const rate = rateOf(timeline, pictures);
  const left = new Set<string>();
  // Our own mirror of the main track says what the picture track says already, and so does one of others that is cut the same.
  const cuts = (track: Json) =>
    JSON.stringify((track.children as Json[] | undefined)?.map((child) => child.source_range));
  const sounds = tracks.filter(
    (track) =>
      track.kind === 'Audio' &&
      own(track).of !== 'main' &&
      cuts(track) !== cuts(pictures[0]!) &&
      Array.isArray(track.children) &&
      track.children.length > 0,
  );
  const size = isObject(own(timeline).size)
    ? (own(timeline).size as { width: number; height: number })
    : { width: 1920, height: 1080 };
  return {
    schema: 'BrightReel.Reel.1',
    name: named(timeline) || 'Timeline',
    rate,
    size: { width: Number(size.width) || 1920, height: Number(size.height) || 1080 },
    tracks: [
      ...pictures.map((track, index) => ({
        kind: 'picture' as const,
        name: named(track) || (index ? `Above ${index}` : 'Main'),
        ...(kept(own(track), trackKeys) as Partial<Track>),
        items: itemsOf(track, rate, makeId, left),
      })),
      ...sounds.map((track, index) => ({
        kind: 'sound' as const,
        name: named(track) || `Added sound ${index + 1}`,
        ...(kept(own(track), trackKeys) as Partial<Track>),
        items: itemsOf(track, rate, makeId, left),
      })),
    ],
    ...markersOf(stack, rate, makeId),
    ...ownReel(timeline),
    left: [...left],
  };
}

/** The timeline itself, or the first one of a collection. */
function findTimeline(value: unknown): Json | null {
  if (!isObject(value)) return null;
  if (schemaOf(value).startsWith('Timeline.')) return value;
  return schemaOf(value).startsWith('SerializableCollection.') && Array.isArray(value.children)
    ? ((value.children as unknown[]).map(findTimeline).find(Boolean) ?? null)
    : null;
}

function rateOf(timeline: Json, tracks: readonly Json[]): Rate {
  const exact = own(timeline).rate;
  if (isObject(exact) && Number(exact.num) > 0 && Number(exact.den) > 0)
    return { num: Number(exact.num), den: Number(exact.den) };
  for (const track of tracks)
    for (const child of Array.isArray(track.children) ? (track.children as unknown[]) : []) {
      const duration = isObject(child) && isObject(child.source_range) ? child.source_range.duration : null;
      const fps = isObject(duration) ? Number(duration.rate) : 0;
      if (fps > 0) return nearestStandardRate({ num: Math.round(fps * 1e6), den: 1e6 });
    }
  throw new FormatError('No piece of this timeline says at what rate it counts.');
}

function itemsOf(track: Json, rate: Rate, makeId: () => string, left: Set<string>): ForeignItem[] {
  const children = Array.isArray(track.children) ? (track.children as unknown[]) : [];
  return children.flatMap((child, index): ForeignItem[] => {
    const schema = schemaOf(child);
    const where = `item ${index + 1} of track “${isObject(track) ? named(track) : ''}”`;
    if (!isObject(child)) throw new FormatError(`The ${where} is not an object.`);
    if (schema.startsWith('Transition.')) {
      if (!schemaOf(children[index + 1]).startsWith('Clip.') || !schemaOf(children[index - 1]).startsWith('Clip.'))
        left.add(`Transitions become cuts (${where}): they need a clip at both sides.`);
      return [];
    }
    const span = isObject(child.source_range)
      ? framesIn(child.source_range, rate, where, typeof own(child).id === 'string')
      : null;
    const id = typeof own(child).id === 'string' ? (own(child).id as string) : makeId();
    if (schema.startsWith('Gap.')) return span && span.frames > 0 ? [{ kind: 'gap', id, frames: span.frames }] : [];
    if (!schema.startsWith('Clip.')) {
      left.add(`${schema || 'Something without a schema'} became a gap (${where}).`);
      return span && span.frames > 0 ? [{ kind: 'gap', id, frames: span.frames }] : [];
    }
    const reference = referenceOf(child);
    const whole =
      reference && isObject(reference.available_range) ? framesIn(reference.available_range, rate, where) : null;
    const used = span ?? whole;
    if (!used || used.frames < 1)
      throw new FormatError(`The ${where}, “${named(child)}”, does not say which frames it shows.`);
    const speed = speedOf(child, where, left);
    const into = transitionBefore(children[index - 1], rate, `item ${index} of track “${named(track)}”`, left);
    // Frames are counted from where the file's own count begins.
    const start = Math.max(0, used.start - (whole && whole.start <= used.start ? whole.start : 0));
    return [
      {
        kind: 'clip',
        id,
        name: named(child) || 'Piece',
        sourceIn: start,
        frames: used.frames,
        ...(speed === null ? {} : { speed }),
        ...(into ? { into } : {}),
        ...(kept(own(child), clipKeys) as Partial<Clip>),
        source: {
          name: sourceName(reference, child),
          hash: reference && typeof own(reference).sha256 === 'string' ? (own(reference).sha256 as string) : null,
          ...(reference && typeof reference.target_url === 'string' ? { address: reference.target_url } : {}),
        },
      },
    ];
  });
}

function referenceOf(clip: Json): Json | null {
  if (isObject(clip.media_references)) {
    const key = typeof clip.active_media_reference_key === 'string' ? clip.active_media_reference_key : 'DEFAULT_MEDIA';
    const active = clip.media_references[key];
    return isObject(active) ? active : null;
  }
  return isObject(clip.media_reference) ? clip.media_reference : null;
}

function sourceName(reference: Json | null, clip: Json): string {
  const url = reference && typeof reference.target_url === 'string' ? reference.target_url : '';
  const file = url.split(/[/\\]/).at(-1) ?? '';
  try {
    return decodeURIComponent(file) || named(reference ?? {}) || named(clip);
  } catch {
    return file;
  }
}

/** Start and length in frames of the reel; a start may lie between frames, to a hundredth, where our own documents say so. */
function framesIn(value: Json, rate: Rate, where: string, between = false): { start: number; frames: number } {
  const count = (part: unknown, name: string, digits: number) => {
    const fps = isObject(part) ? Number(part.rate) : NaN;
    const number = isObject(part) ? Number(part.value) : NaN;
    if (!(fps > 0) || !Number.isFinite(number))
      throw new FormatError(`The ${name} of the ${where} is not a RationalTime.`);
    return Math.round((number / fps) * framesPerSecond(rate) * digits) / digits;
  };
  return {
    start: count(value.start_time, 'start_time', between ? 100 : 1),
    frames: count(value.duration, 'duration', 1),
  };
}

/** Speed in per cent out of a clip's effects; null for as filmed. */
function speedOf(clip: Json, where: string, left: Set<string>): number | null {
  let speed: number | null = null;
  for (const effect of Array.isArray(clip.effects) ? (clip.effects as unknown[]).filter(isObject) : []) {
    const schema = schemaOf(effect);
    const percent = Math.round(Number(effect.time_scalar) * 100);
    if (schema.startsWith('FreezeFrame.')) speed = 0;
    else if (schema.startsWith('LinearTimeWarp.') && percent >= 25 && percent <= 400) speed = percent;
    else
      left.add(
        `${schema.startsWith('LinearTimeWarp.') ? `A speed of ${percent} %` : `The effect ${typeof effect.effect_name === 'string' && effect.effect_name ? effect.effect_name : schema}`} was left out (${where}).`,
      );
  }
  return speed === 100 ? null : speed;
}

function transitionBefore(
  item: unknown,
  rate: Rate,
  where: string,
  left: Set<string>,
): { kind: TransitionKind; frames: number } | null {
  if (!isObject(item) || !schemaOf(item).startsWith('Transition.')) return null;
  const count = (value: unknown) =>
    isObject(value) && Number(value.rate) > 0 && Number.isFinite(Number(value.value))
      ? Math.round((Number(value.value) / Number(value.rate)) * framesPerSecond(rate))
      : 0;
  const frames = count(item.in_offset) + count(item.out_offset);
  if (frames < 2) return null;
  const ours = own(item).kind;
  if (transitionKinds.includes(ours as TransitionKind)) return { kind: ours as TransitionKind, frames };
  if (item.transition_type !== 'SMPTE_Dissolve') left.add(`A transition of another kind became a dissolve (${where}).`);
  return { kind: 'dissolve', frames };
}

function ownReel(timeline: Json): Partial<ForeignReel> {
  const metadata = own(timeline);
  const { music } = metadata;
  const source = isObject(music) && isObject(music.source) ? music.source : null;
  const numbers = ['levelDb', 'startSeconds', 'duckDb', 'fadeInSeconds', 'fadeOutSeconds'] as const;
  const song =
    isObject(music) &&
    source &&
    typeof source.name === 'string' &&
    typeof music.name === 'string' &&
    numbers.every((key) => isNumber(music[key]))
      ? {
          music: {
            ...(Object.fromEntries(numbers.map((key) => [key, music[key]])) as unknown as Omit<
              Music,
              'media' | 'name'
            >),
            ...(Object.fromEntries(
              (['sinkSeconds', 'riseSeconds'] as const).flatMap((key) =>
                isNumber(music[key]) ? [[key, music[key]]] : [],
              ),
            ) as Pick<Music, 'sinkSeconds' | 'riseSeconds'>),
            name: music.name,
            source: { name: source.name, hash: typeof source.hash === 'string' ? source.hash : null },
          },
        }
      : {};
  return { ...(kept(metadata, reelKeys) as Pick<Partial<Reel>, (typeof reelKeys)[number]>), ...song };
}

function markersOf(stack: Json | null, rate: Rate, makeId: () => string): Pick<Reel, 'markers'> {
  const markers = (Array.isArray(stack?.markers) ? (stack.markers as unknown[]).filter(isObject) : []).flatMap(
    (marker) => {
      if (!schemaOf(marker).startsWith('Marker.') || !isObject(marker.marked_range)) return [];
      const id = own(marker).id;
      return [
        {
          id: typeof id === 'string' ? id : makeId(),
          frame: Math.max(0, framesIn(marker.marked_range, rate, `marker “${named(marker)}”`).start),
          note: named(marker),
        },
      ];
    },
  );
  return markers.length ? { markers } : {};
}
