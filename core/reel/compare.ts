import { movedBetween } from '#core/merge';
import { decimal } from '#core/sentences';
import { formatClock, framesToSeconds } from '#core/time';
import { reelFrames, type Clip, type Reel } from './types';

/** What one version of a reel has otherwise than another. */
export interface Difference {
  /** The clip that it is about, where it is in the newer one, else in the older; null for the whole reel. */
  clip: string | null;
  kind: 'added' | 'gone' | 'moved' | 'trimmed' | 'changed' | 'reel';
  says: string;
}

const spot = (reel: Reel, id: string): { clip: Clip; index: number; track: number } | null => {
  for (const [track, { items }] of reel.tracks.entries()) {
    const clips = items.filter((item) => item.kind === 'clip');
    const index = clips.findIndex((item) => item.id === id);
    if (index >= 0) return { clip: clips[index]!, index, track };
  }
  return null;
};
const clips = (reel: Reel) => reel.tracks.flatMap((track) => track.items.filter((item) => item.kind === 'clip'));
const plain = ({ id: _, sourceIn: __, frames: ___, name: ____, into: _____, ...rest }: Clip) =>
  JSON.stringify(Object.entries(rest).sort(([a], [b]) => a.localeCompare(b)));

/** What was done between two versions of a reel, piece by piece, as sentences. */
export function compareReels(before: Reel, after: Reel): Difference[] {
  const out: Difference[] = [];
  const seconds = (reel: Reel, frames: number) => framesToSeconds(frames, reel.rate);
  const [was, is] = [seconds(before, reelFrames(before)), seconds(after, reelFrames(after))];
  if (Math.abs(was - is) > 0.02)
    out.push({ clip: null, kind: 'reel', says: `${formatClock(was, true)} became ${formatClock(is, true)}` });
  if (before.name !== after.name)
    out.push({ clip: null, kind: 'reel', says: `“${before.name}” became “${after.name}”` });
  if (before.size.width !== after.size.width || before.size.height !== after.size.height)
    out.push({
      clip: null,
      kind: 'reel',
      says: `${before.size.width}×${before.size.height} became ${after.size.width}×${after.size.height}`,
    });
  if ((before.theme ?? null) !== (after.theme ?? null))
    out.push({ clip: null, kind: 'reel', says: after.theme ? `theme “${after.theme}”` : 'no theme' });
  if (JSON.stringify(before.music ?? null) !== JSON.stringify(after.music ?? null))
    out.push({ clip: null, kind: 'reel', says: after.music ? `music “${after.music.name}”` : 'no music' });
  const titles = (reel: Reel) => new Set((reel.titles ?? []).map((title) => title.text));
  for (const text of titles(after))
    if (!titles(before).has(text)) out.push({ clip: null, kind: 'added', says: `title “${text}” added` });
  for (const text of titles(before))
    if (!titles(after).has(text)) out.push({ clip: null, kind: 'gone', says: `title “${text}” taken away` });
  // Order counts among the pieces that both have; one that comes in does not move all that follow.
  const shared = (reel: Reel, other: Reel) =>
    clips(reel)
      .filter((clip) => spot(other, clip.id))
      .map((clip) => clip.id);
  const moved = movedBetween(shared(before, after), shared(after, before));
  const transitions = clips(after).filter(
    (clip) => JSON.stringify(spot(before, clip.id)?.clip.into ?? null) !== JSON.stringify(clip.into ?? null),
  ).length;
  if (transitions > 0)
    out.push({
      clip: null,
      kind: 'reel',
      says: transitions === 1 ? 'a transition changed' : `${transitions} transitions changed`,
    });
  for (const clip of clips(after)) {
    const old = spot(before, clip.id);
    if (!old) {
      out.push({ clip: clip.id, kind: 'added', says: `“${clip.name}” added` });
      continue;
    }
    if (moved.has(clip.id)) out.push({ clip: clip.id, kind: 'moved', says: `“${clip.name}” stands elsewhere` });
    if (old.clip.media !== clip.media)
      out.push({ clip: clip.id, kind: 'changed', says: `“${old.clip.name}” replaced by “${clip.name}”` });
    else if (old.clip.sourceIn !== clip.sourceIn || old.clip.frames !== clip.frames) {
      const change = seconds(after, clip.frames) - seconds(before, old.clip.frames);
      out.push({
        clip: clip.id,
        kind: 'trimmed',
        says:
          Math.abs(change) < 0.02
            ? `“${clip.name}” shows another stretch`
            : `“${clip.name}” ${change > 0 ? 'longer' : 'shorter'} by ${decimal(Math.abs(change), 1)} s`,
      });
    }
    if (plain(old.clip) !== plain({ ...clip, media: old.clip.media }))
      out.push({ clip: clip.id, kind: 'changed', says: `“${clip.name}” looks or sounds otherwise` });
  }
  for (const clip of clips(before))
    if (!spot(after, clip.id)) out.push({ clip: clip.id, kind: 'gone', says: `“${clip.name}” taken out` });
  return out;
}
