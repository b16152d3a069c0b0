import { mainTrack, type ReelCommand } from '#core/reel';
import { framesToSeconds } from '#core/time';
import { Button } from '../ui/controls';
import { ExactFrame } from './ExactFrame';
import { Part, Percent, Steps } from './panelParts';
import { moveTowardsFaces } from './photoMoves';
import { LengthPart } from './LengthPart';
import { FadePart, OrderPart, PieceFoot, PieceHead, ShapePart, SoundPart, TransitionPart } from './PieceParts';
import { RecorderPart } from './RecorderPart';
import { SteadyPart } from './SteadyPart';
import type { ReelDesk } from './useReelDesk';

interface PiecePanelProps {
  desk: ReelDesk;
  /** Does an edit and notes that it was done. */
  inPlace: boolean;
  /** To the other reel, when there is one. */
  onCopy?: (() => void) | undefined;
  onMove?: (() => void) | undefined;
}

/** The chosen piece: its exact first and last frame, and everything that can be done with it. */
export function PiecePanel({ desk, inPlace, onCopy, onMove }: PiecePanelProps) {
  const { segment, clip, rate, index, itemOf, sourceOf, live, actions, found, linked } = desk;
  if (!segment || !clip || !found)
    return (
      <p className="text-muted">
        {segment
          ? 'A gap: black and silent. Draw the pieces beside it, or put something over it.'
          : 'The reel is empty. Undo the last step, or send pieces to it from the moments.'}
      </p>
    );
  const edit = (command: ReelCommand) => live.edit(command);
  const trim = (edge: 'in' | 'out') => (frames: number) =>
    edit({ type: 'trim', clip: clip.id, edge, frames, ...(inPlace ? { inPlace } : {}) });
  const photo = itemOf(clip.media)?.probe?.kind === 'photo';
  const heardOnly = found.track.kind === 'sound';
  const main = found.trackIndex === 0;
  const seconds = (frames: number) => framesToSeconds(frames, rate);
  const sound = heardOnly ? clip : (linked.find((each) => each.track.kind === 'sound')?.clip ?? null);
  const before = main && index > 0 ? mainTrack(desk.document!).items[found.index - 1] : undefined;
  return (
    // Each piece has a panel of its own, so that nothing of another one shows for a moment.
    <div key={clip.id} className="flex min-h-full flex-col">
      <PieceHead desk={desk} clip={clip} />
      {!heardOnly && (
        <div className="grid grid-cols-2 gap-2">
          <ExactFrame label="first frame" source={sourceOf(segment.media)} seconds={seconds(clip.sourceIn)} />
          <ExactFrame
            label="last frame"
            source={sourceOf(segment.media)}
            seconds={seconds(clip.sourceIn) + (seconds(clip.frames - 1) * (clip.speed ?? 100)) / 100}
          />
        </div>
      )}
      <Steps label="Start" says="Start" onStep={trim('in')} />
      <Steps label="End" says="End" onStep={trim('out')} />
      <LengthPart desk={desk} clip={clip} />
      {before?.kind === 'clip' && (
        <Steps
          label="Cut"
          says="Cut before it"
          onStep={(frames) => edit({ type: 'roll', clip: clip.id, frames })}
          hint="Moves the cut; the reel stays as long"
        />
      )}
      {!photo && (clip.speed ?? 100) !== 0 && (
        <Steps
          label="Slip"
          says="Shown stretch"
          onStep={(frames) => edit({ type: 'slip', clip: clip.id, frames })}
          hint="Another stretch of the source in the same place"
        />
      )}
      <OrderPart desk={desk} clip={clip} onCopy={onCopy} onMove={onMove} />
      {before?.kind === 'clip' && <TransitionPart desk={desk} clip={clip} />}
      {!photo && (
        <Part title="Speed">
          <Percent value={clip.speed ?? 100} onChange={(percent) => edit({ type: 'speed', clip: clip.id, percent })} />
          {main && (
            <Button className="!h-7 !px-2" command="hold" onClick={() => actions.hold()}>
              Freeze frame
            </Button>
          )}
        </Part>
      )}
      <FadePart desk={desk} clip={clip} />
      {!photo && (
        <>
          <SoundPart desk={desk} clip={clip} sound={sound} />
          <RecorderPart desk={desk} clip={clip} sound={sound} />
        </>
      )}
      {!heardOnly && !photo && <SteadyPart desk={desk} clip={clip} />}
      {!heardOnly && <ShapePart desk={desk} clip={clip} />}
      {photo && (
        <PhotoPart
          moving={Boolean(clip.move)}
          onMove={async (inward) => {
            const move = await moveTowardsFaces(clip.media, inward);
            edit({ type: 'stillMove', clip: clip.id, move });
          }}
          onStill={() => edit({ type: 'stillMove', clip: clip.id, move: null })}
        />
      )}
      <PieceFoot desk={desk} />
    </div>
  );
}

function PhotoPart({
  moving,
  onMove,
  onStill,
}: {
  moving: boolean;
  onMove(inward: boolean): Promise<void>;
  onStill(): void;
}) {
  return (
    <Part title="Move">
      <Button className="!h-7 !px-2" onClick={() => void onMove(true)}>
        Slow push in
      </Button>
      <Button className="!h-7 !px-2" onClick={() => void onMove(false)}>
        Slow pull out
      </Button>
      {moving && (
        <Button className="!h-7 !px-2" onClick={onStill}>
          No move
        </Button>
      )}
    </Part>
  );
}
