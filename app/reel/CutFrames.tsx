import { decimal } from '#core/sentences';
import { framesPerSecond, framesToSeconds } from '#core/time';
import { sourceFrames, type Clip, type SnapKind } from '#core/reel';
import { ExactFrame } from './ExactFrame';
import type { ReelDesk } from './useReelDesk';

/** An edge, or a cut, that is being moved. */
export interface Moving {
  clip: string;
  what: 'in' | 'out' | 'roll' | 'slip';
  frames: number;
  snapped: SnapKind | null;
}

const snapWords: Record<SnapKind, string> = {
  playhead: 'at the playhead',
  markers: 'at a marker',
  cuts: 'at a cut',
  beats: 'on a beat',
  pauses: 'in a pause',
};

/** The exact frames at a cut while it is moved: one for a trim, both sides for a roll, both ends for a slip. */
export function CutFrames({ desk, moving }: { desk: ReelDesk; moving: Moving }) {
  const { document, rate } = desk;
  const track = document?.tracks.find(({ items }) => items.some((item) => item.id === moving.clip));
  const index = track?.items.findIndex((item) => item.id === moving.clip) ?? -1;
  const clip = track?.items[index];
  const before = track?.items[index - 1];
  if (clip?.kind !== 'clip') return null;
  const at = (of: Clip, frame: number) => framesToSeconds(of.sourceIn + sourceFrames(of, frame), rate);
  const { frames } = moving;
  const last = (of: Clip, label: string, frame: number) => (
    <ExactFrame key={label} label={label} source={desk.sourceOf(of.media)} seconds={at(of, frame)} plain />
  );
  const shown =
    moving.what === 'in'
      ? [last(clip, 'first frame', frames)]
      : moving.what === 'out'
        ? [last(clip, 'last frame', clip.frames - 1 + frames)]
        : moving.what === 'slip'
          ? [
              last({ ...clip, sourceIn: clip.sourceIn + frames }, 'first frame', 0),
              last({ ...clip, sourceIn: clip.sourceIn + frames }, 'last frame', clip.frames - 1),
            ]
          : [
              ...(before?.kind === 'clip' ? [last(before, 'before the cut', before.frames - 1 + frames)] : []),
              last(clip, 'after the cut', frames),
            ];
  return (
    <div className="absolute inset-0 flex items-center bg-black" data-testid="cut-frames">
      <div className={`grid flex-1 gap-1 ${shown.length > 1 ? 'grid-cols-2' : ''}`}>{shown}</div>
      <span className="tabular absolute bottom-2 left-2.5 rounded bg-black/70 px-1.5 py-0.5 text-[13px]">
        {frames > 0 ? '+' : frames < 0 ? '−' : ''}
        {Math.abs(frames)} frames, {decimal(Math.abs(frames) / framesPerSecond(rate), 2)} s
        {moving.snapped ? ` · ${snapWords[moving.snapped]}` : ''}
      </span>
    </div>
  );
}
