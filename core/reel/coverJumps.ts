import { framesPerSecond, secondsToFrames } from '#core/time';
import type { WantedPiece } from './assemble';
import { applyCommand, type ReelCommand, type Sources } from './commands';
import type { TextEdit } from './textEdits';
import { mainTrack, sourceFrames, speedOf, type Clip, type Reel } from './types';

/** A jump cut: the same source goes on at another place. In frames of the reel. */
interface Jump {
  at: number;
  /** First frame of the piece before it, and the one after the last of the piece behind it. */
  from: number;
  to: number;
  /** What tells it from other jumps, wherever it stands. */
  key: string;
}

/** A cover begins so long before a jump and stays so long after it, in seconds; common practice, no source. */
const lead = 0.6,
  trail = 1.4;
/** No cover is shorter: it would be seen as a flash. None is longer. In seconds; common practice, no source. */
const least = 1.2,
  most = 6;
/** So much of the pieces stays uncovered at their outer ends, so that it is seen who speaks, in seconds. */
const seen = 0.3;

function jumpsIn(reel: Reel): Jump[] {
  const jumps: Jump[] = [];
  let at = 0;
  let before: { clip: Clip; from: number } | null = null;
  for (const item of mainTrack(reel).items) {
    if (item.kind === 'clip') {
      const end = before && before.clip.sourceIn + sourceFrames(before.clip, before.clip.frames);
      if (before && !item.into && before.clip.media === item.media && speedOf(item) === speedOf(before.clip))
        if (Math.abs(item.sourceIn - end!) > 1)
          jumps.push({
            at,
            from: before.from,
            to: at + item.frames,
            key: `${item.media} ${Math.round(end!)} ${Math.round(item.sourceIn)}`,
          });
      before = { clip: item, from: at };
    } else before = null;
    at += item.frames;
  }
  return jumps;
}

/** Jumps that can share a cover, as one stretch. */
function stretchesOver(jumps: readonly Jump[], fps: number): { from: number; to: number; jumps: number }[] {
  const out: { from: number; to: number; jumps: number }[] = [];
  for (const { at, from, to } of jumps) {
    const wanted = {
      from: Math.max(from + Math.round(seen * fps), at - Math.round(lead * fps)),
      to: Math.min(to - Math.round(seen * fps), at + Math.round(trail * fps)),
    };
    // Where a piece is so short that it would not be seen, the cover lies over all of it.
    const span = { from: Math.min(wanted.from, at), to: Math.max(wanted.to, at) };
    const last = out.at(-1);
    if (last && span.from - last.to < seen * fps && span.to - last.from <= most * fps) {
      last.to = Math.max(last.to, span.to);
      last.jumps++;
    } else if (!last || span.from >= last.to) out.push({ ...span, jumps: 1 });
    else if (span.to - last.to >= least * fps) out.push({ from: last.to, to: span.to, jumps: 1 });
  }
  return out.filter((span) => span.to - span.from >= least * fps);
}

/**
 * Adds to an edit pictures over the jump cuts that it makes, above the main track and without sound: as many as fit. A picture is
 * used once, and not where something lies above already. What jumped before stays as it is.
 * @param pictures stretches of footage in which nobody speaks, the best first
 * @returns the edit with its covers, how many jump cuts it makes, and how many of them are covered
 */
export function coverJumps(
  reel: Reel,
  command: ReelCommand,
  pictures: readonly WantedPiece[],
  sources: Sources,
  newId: () => string,
): TextEdit & { jumps: number; covered: number } {
  const result = applyCommand(reel, command, sources);
  if (!result.ok) return { ok: false, reason: result.reason, jumps: 0, covered: 0 };
  const known = new Set(jumpsIn(reel).map(({ key }) => key));
  const jumps = jumpsIn(result.reel).filter(({ key }) => !known.has(key));
  const { rate } = result.reel;
  const fps = framesPerSecond(rate);
  const left = [...pictures];
  const commands: ReelCommand[] = [];
  let [now, covered] = [result.reel, 0];
  for (const span of stretchesOver(jumps, fps)) {
    if (isCovered(now, span)) continue;
    const frames = span.to - span.from;
    const at = left.findIndex(
      ({ media, start, end }) => sources.get(media)?.photo === true || secondsToFrames(end - start, rate) >= frames,
    );
    if (at < 0) continue;
    const [picture] = left.splice(at, 1);
    const { media, name, start, reason } = picture!;
    const put: ReelCommand = {
      type: 'put',
      how: 'above',
      at: span.from,
      clips: [
        {
          id: newId(),
          media,
          name,
          sourceIn: sources.get(media)?.photo ? 0 : secondsToFrames(start, rate),
          frames,
          ...(reason ? { reason } : {}),
        },
      ],
    };
    const edited = applyCommand(now, put, sources);
    if (!edited.ok) continue;
    now = edited.reel;
    commands.push(put);
    covered += span.jumps;
  }
  const own = command.type === 'several' ? command : { name: '', commands: [command] };
  return {
    ok: true,
    command: { type: 'several', name: own.name, commands: [...own.commands, ...commands] },
    jumps: jumps.length,
    covered,
  };
}

/** Whether something lies over the main track somewhere in a stretch. */
const isCovered = (reel: Reel, { from, to }: { from: number; to: number }): boolean =>
  reel.tracks.slice(1).some((track) => {
    if (track.kind !== 'picture') return false;
    let at = 0;
    return track.items.some((item) => {
      const start = at;
      at += item.frames;
      return item.kind === 'clip' && start < to && at > from;
    });
  });
