import type { Clip, Reel } from '../types';
import { besideAt, idsFrom, withItems } from './change';
import { done, onClip, refuse, type Outcome, type Sources } from './edit';
import type { FoundClip } from './found';
import { lastFrame } from './room';

/** The clip's sound becomes a piece of its own, linked to the picture. */
export interface Detach {
  type: 'detach';
  clip: string;
  newId: string;
}
export const detach = onClip<Detach>({ apply: detachSound, says: (_, name) => `detached the sound of “${name}”` });

/** The detached or replaced sound goes away, and the piece sounds by itself again. */
export interface Attach {
  type: 'attach';
  clip: string;
}
export const attach = onClip<Attach>({ apply: attachSound, says: (_, name) => `gave “${name}” its own sound back` });

export interface Unlink {
  type: 'unlink';
  clip: string;
}
export const unlink = onClip<Unlink>({ apply: unlinkClip, says: (_, name) => `unlinked “${name}”` });

/** Mutes the clip and lays another recording under it, linked; `sourceIn` is the recording's frame at the clip's first. */
export interface ReplaceSound {
  type: 'replaceSound';
  clip: string;
  sound: { id: string; media: string; name: string; sourceIn: number };
}
export const replaceSound = onClip<ReplaceSound>({
  apply: layOtherSound,
  says: (_, name) => `replaced the sound of “${name}”`,
});

function detachSound(reel: Reel, found: FoundClip, command: Detach, sources: Sources): Outcome {
  if (found.track.kind !== 'picture') return refuse('Choose a piece with a picture.');
  const { clip } = found;
  if (
    clip.link !== undefined &&
    reel.tracks.some(
      (track) => track.kind === 'sound' && track.items.some((item) => item.kind === 'clip' && item.link === clip.link),
    )
  )
    return refuse('Its sound is a piece of its own already.');
  if (sources.get(clip.media)?.photo || clip.speed === 0)
    return refuse('There is no sound in it that could be detached.');
  const sound: Clip = {
    kind: 'clip',
    id: command.newId,
    media: clip.media,
    name: clip.name,
    sourceIn: clip.sourceIn,
    frames: clip.frames,
    link: clip.id,
    ...(clip.speed === undefined ? {} : { speed: clip.speed }),
    ...(clip.levelDb === undefined ? {} : { levelDb: clip.levelDb }),
  };
  const muted = withItems(reel, (track) =>
    track.items.map((item) => (item.id === clip.id ? { ...item, link: clip.id, muted: true } : item)),
  );
  return done(besideAt(muted, 'Camera sound', found.start, sound, idsFrom(command.newId, reel)));
}

function attachSound(reel: Reel, { clip }: FoundClip): Outcome {
  const { link } = clip;
  if (link === undefined) return refuse('Its sound is its own already.');
  const newId = idsFrom(clip.id, reel);
  return done(
    withItems(reel, (track) =>
      track.items.map((item) => {
        if (item.kind !== 'clip' || item.link !== link) return item;
        if (track.kind === 'sound') return { kind: 'gap', id: newId(), frames: item.frames };
        const { link: _, muted: __, ...own } = item;
        return own;
      }),
    ),
  );
}

function unlinkClip(reel: Reel, { clip: { link } }: FoundClip): Outcome {
  if (link === undefined) return refuse('This piece is linked with nothing.');
  return done(
    withItems(reel, (track) =>
      track.items.map((item) => {
        if (item.kind !== 'clip' || item.link !== link) return item;
        const { link: _, ...own } = item;
        return own;
      }),
    ),
  );
}

/** Only as much of the recording as there is. */
function layOtherSound(reel: Reel, found: FoundClip, command: ReplaceSound, sources: Sources): Outcome {
  const source = sources.get(command.sound.media);
  if (found.track.kind !== 'picture') return refuse('Choose the piece whose sound is to be replaced.');
  if (!source) return refuse(`The recording “${command.sound.name}” is missing.`);
  if ((found.clip.speed ?? 100) !== 100)
    return refuse('A piece at another speed keeps its own sound; bring it to 100 % first.');
  const from = Math.max(0, command.sound.sourceIn);
  const late = Math.ceil(from - command.sound.sourceIn);
  const frames = Math.min(found.clip.frames - late, Math.floor(lastFrame(source, reel) - from));
  if (frames < 1) return refuse(`“${source.name}” was not running while this piece was filmed.`);
  const newId = idsFrom(command.sound.id, reel);
  const link = found.clip.link ?? found.clip.id;
  const clip: Clip = {
    kind: 'clip',
    id: command.sound.id,
    media: command.sound.media,
    name: command.sound.name,
    sourceIn: Math.round((command.sound.sourceIn + late) * 100) / 100,
    frames,
    link,
  };
  // Sounds that were laid under it before are replaced too.
  const cleared = withItems(reel, (track) =>
    track.items.map((item) =>
      track.kind === 'sound' && item.kind === 'clip' && found.clip.link !== undefined && item.link === found.clip.link
        ? { kind: 'gap', id: newId(), frames: item.frames }
        : item.id === found.clip.id
          ? { ...item, link, muted: true }
          : item,
    ),
  );
  const reel2 = besideAt(cleared, 'Added sound', found.start + late, clip, newId);
  return frames + late < found.clip.frames || late > 0
    ? {
        ok: true,
        reel: reel2,
        note: `“${source.name}” covers ${Math.round((frames / found.clip.frames) * 100)} % of the piece; the rest is silent.`,
      }
    : done(reel2);
}
