import { formatClock, framesPerSecond, type Rate } from '#core/time';
import type { CommandOf, EditResult } from '../command';
import { loudnessTargets, quietest } from '../level';
import { findTheme } from '../themes';
import { handleFrames } from '../transitions';
import { isCross, mainTrack, type Clip, type Look, type Reel, type ReelItem, type Transition } from '../types';
import { done, locate, refuse, withItems, type Found, type Sources } from './shared';

/** How pieces and the whole reel look and sound, without moving anything. */

const change = (reel: Reel, id: string, to: (clip: Clip) => Clip): EditResult =>
  done(
    withItems(reel, (track) => track.items.map((item) => (item.id === id && item.kind === 'clip' ? to(item) : item))),
  );

/** A clip with other values; undefined ones are left out of it. */
function withValues(clip: Clip, values: { [K in keyof Clip]?: Clip[K] | undefined }): Clip {
  const next: Record<string, unknown> = { ...clip, ...values };
  for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
  return next as unknown as Clip;
}

const badLevel = (db: number): boolean => !(db >= quietest && db <= 12);

export function sound(
  reel: Reel,
  found: Found,
  { levelDb = found.clip.levelDb ?? 0, muted = found.clip.muted ?? false }: CommandOf<'sound'>,
): EditResult {
  if (badLevel(levelDb)) return refuse('A level lies between −60 and +12 dB.');
  return change(reel, found.clip.id, (clip) =>
    withValues(clip, { levelDb: levelDb === 0 ? undefined : levelDb, muted: muted || undefined }),
  );
}

export function fade(reel: Reel, found: Found, { edge, frames }: CommandOf<'fade'>): EditResult {
  const length = Math.round(frames);
  const other = (edge === 'in' ? found.clip.fadeOut : found.clip.fadeIn) ?? 0;
  if (length < 0 || length + other > found.clip.frames)
    return refuse(`“${found.clip.name}” has ${found.clip.frames - other} frames for a fade.`, {
      says: 'Fade over all of them',
      command: { type: 'fade', clip: found.clip.id, edge, frames: found.clip.frames - other },
    });
  return change(reel, found.clip.id, (clip) =>
    withValues(clip, { [edge === 'in' ? 'fadeIn' : 'fadeOut']: length || undefined }),
  );
}

export function setTrack(reel: Reel, command: CommandOf<'track'>): EditResult {
  const track = reel.tracks[command.track];
  if (!track) return refuse('This track is not in the reel any more.');
  if (command.levelDb !== undefined && badLevel(command.levelDb)) return refuse('A level lies between −60 and +12 dB.');
  const {
    locked = track.locked ?? false,
    muted = track.muted ?? false,
    levelDb = track.levelDb ?? 0,
    name = track.name,
  } = command;
  const { locked: _, muted: __, levelDb: ___, ...plain } = track;
  const next = {
    ...plain,
    name: name.trim() || track.name,
    ...(locked ? { locked } : {}),
    ...(muted ? { muted } : {}),
    ...(levelDb ? { levelDb } : {}),
  };
  return done({ ...reel, tracks: reel.tracks.with(command.track, next) });
}

export function setMusic(reel: Reel, { music }: CommandOf<'music'>, sources: Sources): EditResult {
  const { music: _, ...rest } = reel;
  if (!music) return done(rest);
  const source = sources.get(music.media);
  if (!source) return refuse(`The music “${music.name}” is missing.`);
  if (source.photo || source.durationSeconds < 1) return refuse(`“${source.name}” has no sound that could be music.`);
  if (badLevel(music.levelDb) || !(music.duckDb >= 0 && music.duckDb <= 60))
    return refuse('The level of the music lies between −60 and +12 dB, and it sinks by 0 to 60.');
  if (!(music.startSeconds >= 0) || music.startSeconds >= source.durationSeconds)
    return refuse(
      `“${source.name}” ends at ${formatClock(source.durationSeconds, true)}; the music cannot begin after that.`,
    );
  return done({ ...rest, music });
}

export function setLoudness(reel: Reel, { lufs }: CommandOf<'loudness'>): EditResult {
  const { loudnessLufs: _, ...rest } = reel;
  if (lufs !== null && !(loudnessTargets as readonly number[]).includes(lufs))
    return refuse(`Loudness can be ${loudnessTargets.join(', ')} LUFS, or as it comes.`);
  return done(lufs === null ? rest : { ...rest, loudnessLufs: lufs });
}

/** Beyond this a transition is a picture of its own. Common practice, no source. */
const longestTransitionSeconds = 10;

export function transition(reel: Reel, found: Found, { into }: CommandOf<'transition'>, sources: Sources): EditResult {
  if (!into) return change(reel, found.clip.id, (clip) => withValues(clip, { into: undefined }));
  const frames = Math.round(into.frames);
  if (frames < 2 || frames > longestTransitionSeconds * framesPerSecond(reel.rate))
    return refuse(`A transition lasts 2 frames to ${longestTransitionSeconds} seconds.`);
  if (isCross(into.kind) && found.track.items[found.index - 1]?.kind !== 'clip')
    return refuse('A transition needs a piece directly before this one.');
  const room = handleFrames(found.track.items, found.index, into.kind, sources, reel);
  if (frames > room) {
    const instead =
      room >= 2
        ? {
            says: `Take ${room} frames`,
            command: { type: 'transition' as const, clip: found.clip.id, into: { kind: into.kind, frames: room } },
          }
        : undefined;
    return refuse(
      `The footage beyond this cut is enough for ${room} ${room === 1 ? 'frame' : 'frames'} of it, not for ${frames}.`,
      instead,
    );
  }
  return change(reel, found.clip.id, (clip) => ({ ...clip, into: { kind: into.kind, frames } }));
}

/** The same at every cut of the main track, shorter or not at all where there is no footage for it. */
export function transitions(reel: Reel, { into }: CommandOf<'transitions'>, sources: Sources): EditResult {
  let short = 0;
  let none = 0;
  let items = mainTrack(reel).items.map((item): ReelItem =>
    item.kind === 'clip' ? withValues(item, { into: undefined }) : item,
  );
  if (into)
    for (let index = 1; index < items.length; index++) {
      const item = items[index]!;
      if (item.kind !== 'clip' || items[index - 1]!.kind !== 'clip') continue;
      const frames = Math.min(Math.round(into.frames), handleFrames(items, index, into.kind, sources, reel));
      if (frames < 2) none++;
      else {
        if (frames < into.frames) short++;
        items = items.with(index, { ...item, into: { kind: into.kind, frames } });
      }
    }
  const parts = [
    short && `${short} became shorter`,
    none && `${none} ${none === 1 ? 'stays a cut' : 'stay cuts'}`,
  ].filter(Boolean);
  return {
    ok: true,
    reel: withItems(reel, (track, index) => (index === 0 ? items : track.items)),
    ...(parts.length ? { note: `${parts.join(' and ')}: not enough footage beyond the cut.` } : {}),
  };
}

const inRange = (value: number): boolean => value >= -1 && value <= 1;
export const plainLook: Look = { exposure: 0, contrast: 0, saturation: 0, temperature: 0 };

export function setLook(reel: Reel, { clip, look }: CommandOf<'look'>): EditResult {
  if (look && ![look.exposure, look.contrast, look.saturation, look.temperature].every(inRange))
    return refuse('Every number of a look lies between −1 and 1.');
  if (clip !== null) return change(reel, clip, (own) => withValues(own, { look: look ?? undefined }));
  const { look: _, ...rest } = reel;
  return done(look ? { ...rest, look } : rest);
}

export function setFit(reel: Reel, { clip, fit }: CommandOf<'fit'>): EditResult {
  if (clip !== null) return change(reel, clip, (own) => withValues(own, { fit: fit ?? undefined }));
  const { fit: _, ...rest } = reel;
  return done(fit ? { ...rest, fit } : rest);
}

const isFrame = ({ x, y, width, height }: { x: number; y: number; width: number; height: number }) =>
  x >= 0 && y >= 0 && width >= 0.05 && height >= 0.05 && x + width <= 1.0001 && y + height <= 1.0001;

export function setStillMove(reel: Reel, { clip, move }: CommandOf<'stillMove'>, sources: Sources): EditResult {
  const found = locate(reel, clip)!;
  if (move && !sources.get(found.clip.media)?.photo) return refuse('Slow moves are for photos.');
  if (move && !(isFrame(move.from) && isFrame(move.to))) return refuse('A frame of the move lies outside the photo.');
  return change(reel, clip, (own) => withValues(own, { move: move ?? undefined }));
}

export function setSteady(reel: Reel, { clip, steady }: CommandOf<'steady'>, sources: Sources): EditResult {
  const found = locate(reel, clip)!;
  if (steady && sources.get(found.clip.media)?.photo) return refuse('A photo stands still already.');
  if (steady && ![steady.position, steady.rotation, steady.scale].every((value) => value >= 0 && value <= 1))
    return refuse('Strengths lie between 0 and 1.');
  return change(reel, clip, (own) => withValues(own, { steady: steady ?? undefined }));
}

const isShare = (value: number) => value >= 0 && value <= 1;
/** The subjects and paths are what `core/framing` gives; here only their form is checked. */
export function setFraming(reel: Reel, { framings }: CommandOf<'framing'>, sources: Sources): EditResult {
  let now = reel;
  for (const { clip, framing } of framings) {
    const found = locate(now, clip);
    if (!found) return refuse('This piece is not in the reel any more.');
    if (framing && sources.get(found.clip.media)?.photo) return refuse('A photo is framed by its move.');
    if (framing && !(framing.zoom >= 1 && framing.zoom <= 4)) return refuse('A crop comes closer by 1 to 4 times.');
    const points = framing ? [...framing.path, ...(framing.below ?? [])] : [];
    if (
      framing &&
      (framing.path.length === 0 ||
        points.some(([seconds, x, y]) => !(seconds >= 0) || !isShare(x) || !isShare(y)) ||
        framing.keys.some(({ x, y }) => !isShare(x) || !isShare(y)))
    )
      return refuse('The crop lies outside the picture.');
    const result = change(now, clip, (own) => withValues(own, { framing: framing ?? undefined }));
    if (!result.ok) return result;
    now = result.reel;
  }
  return done(now);
}

const colourForm = /^#[0-9a-f]{6}([0-9a-f]{2})?$/i;
export function setCaptions(reel: Reel, { style }: CommandOf<'captions'>): EditResult {
  const { captions: _, ...rest } = reel;
  if (!style) return done(rest);
  if (
    ![style.colour, style.lit, style.emphasis, style.outline, ...(style.box ? [style.box] : [])].every((colour) =>
      colourForm.test(colour),
    )
  )
    return refuse('A colour is written like #ffc95c.');
  if (!(style.size >= 2 && style.size <= 16)) return refuse('Captions are 2 to 16 hundredths of the picture high.');
  if (!(style.place >= 0.05 && style.place <= 0.95)) return refuse('Captions stand inside the picture.');
  if (!(style.letters >= 10 && style.letters <= 84) || !(style.outlineWidth >= 0 && style.outlineWidth <= 30))
    return refuse('A caption has 10 to 84 letters, and an outline of at most 30 hundredths of them.');
  return done({ ...rest, captions: style });
}

export function setLogo(reel: Reel, { logo }: CommandOf<'logo'>, sources: Sources): EditResult {
  const { logo: _, ...rest } = reel;
  if (!logo) return done(rest);
  if (!sources.get(logo.media)?.photo) return refuse('A logo is a picture of the project.');
  if (!(logo.size >= 0.03 && logo.size <= 0.6) || !(logo.opacity > 0 && logo.opacity <= 1))
    return refuse('A logo is 3 to 60 hundredths of the picture wide, and can be seen.');
  return done({ ...rest, logo });
}

export function setTitle(reel: Reel, { title }: CommandOf<'title'>): EditResult {
  const text = title.text.trim();
  if (!text) return refuse('A title needs a text.');
  if (text.length > 200 || (title.sub ?? '').length > 200) return refuse('A line of a title has at most 200 letters.');
  if (title.frames < 2) return refuse('A title stands for at least two frames.');
  const own = { ...title, text, frame: Math.max(0, Math.round(title.frame)), frames: Math.round(title.frames) };
  return done({
    ...reel,
    titles: [...(reel.titles ?? []).filter((each) => each.id !== title.id), own].sort((a, b) => a.frame - b.frame),
  });
}

export function setTheme(reel: Reel, { theme: name }: CommandOf<'theme'>, sources: Sources): EditResult {
  const { theme: _, look: __, ...plain } = reel;
  if (name === null) return transitions(plain, { type: 'transitions', into: null }, sources);
  const theme = findTheme(name);
  if (!theme) return refuse(`There is no theme “${name}”.`);
  const into: Transition | null = theme.transition && {
    kind: theme.transition.kind,
    frames: Math.max(2, Math.round(theme.transition.seconds * framesPerSecond(reel.rate))),
  };
  const dressed = transitions(
    { ...plain, theme: name, ...(theme.look ? { look: theme.look } : {}) },
    { type: 'transitions', into },
    sources,
  );
  if (!dressed.ok) return dressed;
  // Photos get the theme's way of moving; those moved by hand keep their own.
  const moved = withItems(dressed.reel, (track) =>
    track.items.map((item, index) =>
      item.kind === 'clip' &&
      sources.get(item.media)?.photo &&
      (!item.move || item.move.from.width === 1 || item.move.to.width === 1)
        ? withValues(item, { move: theme.stillMove(index) ?? undefined })
        : item,
    ),
  );
  return { ...dressed, reel: moved };
}

/** Another shape, another rate: cuts stay at their times, to the nearest frame, and no piece gets longer than its source. */
export function setFormat(reel: Reel, { size, rate }: CommandOf<'format'>, sources: Sources): EditResult {
  if (
    size &&
    !(
      size.width >= 16 &&
      size.height >= 16 &&
      size.width <= 4096 &&
      size.height <= 4096 &&
      size.width % 2 === 0 &&
      size.height % 2 === 0
    )
  )
    return refuse('A size has even numbers of 16 to 4096 pixels.');
  if (rate && !(framesPerSecond(rate) >= 10 && framesPerSecond(rate) <= 120))
    return refuse('A rate lies between 10 and 120 frames per second.');
  const sized = size ? { ...reel, size } : reel;
  return done(rate && framesPerSecond(rate) !== framesPerSecond(reel.rate) ? conform(sized, rate, sources) : sized);
}

function conform(reel: Reel, rate: Rate, sources: Sources): Reel {
  const ratio = framesPerSecond(rate) / framesPerSecond(reel.rate);
  const frame = (frames: number) => Math.round(frames * ratio);
  const next = { ...reel, rate };
  const tracks = reel.tracks.map((track) => {
    let at = 0;
    return {
      ...track,
      items: track.items.flatMap((item): ReelItem[] => {
        const [from, to] = [frame(at), frame((at += item.frames))];
        if (to - from < 1) return [];
        if (item.kind === 'gap') return [{ ...item, frames: to - from }];
        const source = sources.get(item.media);
        const scaled = (frames: number | undefined) => (frames === undefined ? undefined : Math.max(1, frame(frames)));
        const clip = withValues(item, {
          frames: to - from,
          sourceIn: Math.round(item.sourceIn * ratio),
          fadeIn: scaled(item.fadeIn),
          fadeOut: scaled(item.fadeOut),
          into: item.into && { ...item.into, frames: Math.max(2, frame(item.into.frames)) },
        });
        // Rounding may reach a frame beyond the source; then it begins that much earlier.
        const over =
          source && !source.photo
            ? Math.max(
                0,
                Math.ceil(
                  clip.sourceIn +
                    (clip.frames * (clip.speed ?? 100)) / 100 -
                    Math.floor(source.durationSeconds * framesPerSecond(rate) + 1e-6),
                ),
              )
            : 0;
        return [over > 0 ? { ...clip, sourceIn: Math.max(0, clip.sourceIn - over) } : clip];
      }),
    };
  });
  return {
    ...next,
    tracks,
    ...(reel.markers ? { markers: reel.markers.map((marker) => ({ ...marker, frame: frame(marker.frame) })) } : {}),
    ...(reel.titles
      ? {
          titles: reel.titles.map((title) => ({
            ...title,
            frame: frame(title.frame),
            frames: Math.max(2, frame(title.frames)),
          })),
        }
      : {}),
  };
}
