import { useEffect, useState } from 'react';
import { decimal } from '#core/sentences';
import { mainTrack, type Clip, type Reel, type ReelCommand } from '#core/reel';
import { framesPerSecond, framesToSeconds } from '#core/time';
import { newId } from '../newId';
import { Button, inputLook } from '../ui/controls';
import type { ReelDesk } from './useReelDesk';

interface Answer {
  match: { offsetSeconds: number; driftPpm: number; confidence: number } | null;
  waiting: boolean;
  problem: string | null;
}

/** Under this the answer is a guess, see `RecordingOffset`. */
const sureFrom = 0.3;
/** Pieces of the main track that show the same footage, as fast as it was filmed. */
const piecesLike = (reel: Reel, { media }: Clip): Clip[] =>
  mainTrack(reel).items.flatMap((each) =>
    each.kind === 'clip' && each.media === media && (each.speed ?? 100) === 100 ? [each] : [],
  );

/** One step of nudging, in milliseconds. */
const nudgeMs = 10;

/** The sound of a separate recorder in the place of the camera's: found by comparing both, said how sure it is, nudged by hand. */
export function RecorderPart({ desk, clip, sound }: { desk: ReelDesk; clip: Clip; sound: Clip | null }) {
  const { rate, live, items, document, reel } = desk;
  const [chosen, setChosen] = useState('');
  const [answer, setAnswer] = useState<Answer | null>(null);
  const recordings = items
    .filter((item) => item.id !== clip.media && item.probe?.hasSound && !item.problem && item.probe.kind !== 'photo')
    .sort((a, b) => Number(b.probe!.kind === 'sound') - Number(a.probe!.kind === 'sound'));
  const other = items.find((item) => item.id === chosen);
  const camera = items.find((item) => item.id === clip.media);
  const projectId = reel?.projectId;
  useEffect(() => {
    setAnswer(null);
    if (!chosen) return;
    let stopped = false;
    let timer = 0;
    const ask = async (again: boolean) => {
      const reply = await fetch(
        `/projects/${projectId}/match?reference=${clip.media}&other=${chosen}${again ? '&again' : ''}`,
      ).then(
        (got) => got.json() as Promise<Answer>,
        () => null,
      );
      if (stopped) return;
      setAnswer(reply ?? { match: null, waiting: true, problem: null });
      if (!reply || reply.waiting) timer = window.setTimeout(() => void ask(false), 700);
    };
    void ask(true);
    return () => {
      stopped = true;
      window.clearTimeout(timer);
    };
  }, [chosen, clip.media, projectId]);
  const match = answer?.match ?? null;
  const fps = framesPerSecond(rate);
  const laid = sound && sound.media !== clip.media ? sound : null;
  /** Where the recording is at a clip's first frame. */
  const startIn = (each: Clip) =>
    Math.round(
      (framesToSeconds(each.sourceIn, rate) - match!.offsetSeconds) * (1 + match!.driftPpm * 1e-6) * fps * 100,
    ) / 100;
  const command = (each: Clip): ReelCommand => ({
    type: 'replaceSound',
    clip: each.id,
    sound: { id: newId(), media: chosen, name: other!.name.replace(/\.\w+$/, ''), sourceIn: startIn(each) },
  });
  const reaches = (each: Clip) =>
    startIn(each) + each.frames > 0 && startIn(each) < (other?.probe?.durationSeconds ?? 0) * fps;
  const alike = match && document ? piecesLike(document, clip).filter(reaches) : [];
  if (recordings.length === 0) return null;
  return (
    <div className="mt-2">
      <div className="flex items-center gap-2">
        <span className="w-14">Sound of</span>
        <select
          aria-label="Recording that replaces the sound"
          className={`${inputLook} !h-7 min-w-0 flex-1`}
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
        >
          <option value="">{laid ? `${laid.name} (laid under it)` : camera ? 'the camera' : '…'}</option>
          {recordings.map((item) => (
            <option key={item.id} value={item.id}>
              {item.name}
            </option>
          ))}
        </select>
      </div>
      {chosen && (
        <div className="mt-1.5 rounded-md bg-raised px-3 py-2 text-[13px] leading-5" role="status">
          {answer?.problem ? (
            <span className="text-shake">{answer.problem}</span>
          ) : !match ? (
            'Comparing the two sounds…'
          ) : (
            <>
              <span data-testid="match">
                {match.confidence >= sureFrom
                  ? `They fit: ${Math.round(match.confidence * 100)} % of the stretches agree`
                  : `Only ${Math.round(match.confidence * 100)} % of the stretches agree; this is a guess`}
                {Math.abs(match.driftPpm) >= 1
                  ? `, the recorder runs ${decimal(Math.abs(match.driftPpm), 0)} ppm ${match.driftPpm > 0 ? 'fast' : 'slow'}`
                  : ''}
                .
              </span>
              <span className="mt-1.5 flex gap-2">
                <Button
                  look="lamp"
                  className="!h-7 !px-2"
                  disabled={!reaches(clip)}
                  onClick={() => {
                    live.edit(command(clip));
                    setChosen('');
                  }}
                >
                  Replace the sound
                </Button>
                {alike.length > 1 && (
                  <Button
                    className="!h-7 !px-2"
                    onClick={() => {
                      live.edit({
                        type: 'several',
                        name: `replaced the sound of ${alike.length} pieces`,
                        commands: alike.map(command),
                      });
                      setChosen('');
                    }}
                  >
                    In all {alike.length} pieces of this file
                  </Button>
                )}
              </span>
              {!reaches(clip) && (
                <span className="mt-1 block text-shake">The recorder was not running while this piece was filmed.</span>
              )}
            </>
          )}
        </div>
      )}
      {laid && !chosen && (
        <div className="mt-1.5 flex items-center gap-2">
          <span className="w-14">Nudge</span>
          {[-10, -1, 1, 10].map((steps) => (
            <Button
              key={steps}
              className="tabular !h-7 !px-2"
              aria-label={`Sound ${Math.abs(steps) * nudgeMs} ms ${steps < 0 ? 'earlier' : 'later'}`}
              onClick={() =>
                live.edit({ type: 'slip', clip: laid.id, frames: Math.round((-steps * nudgeMs * fps) / 10) / 100 })
              }
            >
              {steps > 0 ? '+' : ''}
              {steps * nudgeMs}
            </Button>
          ))}
          <span className="text-xs text-muted">ms</span>
        </div>
      )}
    </div>
  );
}
