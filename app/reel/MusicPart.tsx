import { useEffect, useRef } from 'react';
import { endWithMusic, quietest, usualRise, usualSink, type GainPoint, type Music, type Reel } from '#core/reel';
import { formatClock } from '#core/time';
import { colours } from '../drawing/inks';
import { afterSaving } from '../history/saveQueue';
import { Button, Slider } from '../ui/controls';
import { useMusicFit } from './useMusicFit';
import type { ReelDesk } from './useReelDesk';
import { useReload } from '../ui/useReload';

interface MusicPartProps {
  desk: ReelDesk;
  document: Reel;
  music: Music;
  /** How long the song is, in seconds; 0 where it is missing. */
  length: number;
}

/** The music that was chosen: how loud, how it gives way to speech, where it begins, and how the reel ends with it. */
export function MusicPart({ desk, document, music, length }: MusicPartProps) {
  const set = (change: Partial<Music>) => desk.live.edit({ type: 'music', music: { ...music, ...change } });
  return (
    <>
      <LevelSliders music={music} set={set} />
      <TimeSliders music={music} set={set} length={length} />
      <Curve curve={desk.plan.music?.curve ?? []} total={desk.total} here={desk.player.time} />
      <Ending desk={desk} document={document} music={music} length={length} />
    </>
  );
}

interface SlidersProps {
  music: Music;
  set(change: Partial<Music>): void;
}

function LevelSliders({ music, set }: SlidersProps) {
  return (
    <>
      <Slider
        label="Level"
        colour={colours.sound}
        value={music.levelDb}
        min={-40}
        max={6}
        step={0.5}
        shown={(db) => `${db} dB`}
        onRest={(levelDb) => set({ levelDb })}
      />
      <Slider
        label="Under speech"
        colour={colours.speech}
        value={music.duckDb}
        min={0}
        max={30}
        step={1}
        shown={(db) => (db ? `−${db} dB` : 'stays')}
        hint="The music sinks before the first word and comes back after the last"
        onRest={(duckDb) => set({ duckDb })}
      />
      {music.duckDb > 0 && (
        <Slider
          label="Duck within"
          colour={colours.speech}
          value={music.sinkSeconds ?? usualSink}
          min={0.1}
          max={3}
          step={0.1}
          shown={(seconds) => `${seconds} s`}
          hint="Before the first word"
          onRest={(sinkSeconds) => set({ sinkSeconds })}
        />
      )}
      {music.duckDb > 0 && (
        <Slider
          label="Recover within"
          colour={colours.speech}
          value={music.riseSeconds ?? usualRise}
          min={0.1}
          max={5}
          step={0.1}
          shown={(seconds) => `${seconds} s`}
          hint="After the last word"
          onRest={(riseSeconds) => set({ riseSeconds })}
        />
      )}
    </>
  );
}

function TimeSliders({ music, set, length }: SlidersProps & { length: number }) {
  return (
    <>
      <Slider
        label="Begins at"
        colour={colours.muted}
        value={Math.min(music.startSeconds, length)}
        max={Math.max(0, Math.floor(length) - 1)}
        step={0.5}
        shown={(seconds) => formatClock(seconds, true)}
        hint="Where in the music the reel begins"
        onRest={(startSeconds) => set({ startSeconds })}
      />
      <Slider
        label="Fade in over"
        colour={colours.muted}
        value={music.fadeInSeconds}
        max={10}
        step={0.5}
        shown={(seconds) => `${seconds} s`}
        onRest={(fadeInSeconds) => set({ fadeInSeconds })}
      />
      <Slider
        label="Fade out over"
        colour={colours.muted}
        value={music.fadeOutSeconds}
        max={15}
        step={0.5}
        shown={(seconds) => `${seconds} s`}
        onRest={(fadeOutSeconds) => set({ fadeOutSeconds })}
      />
    </>
  );
}

/** Whether the music is long enough, and what brings its end and that of the reel together. */
function Ending({ desk, document, music, length }: MusicPartProps) {
  const { live, musicBeats: beats } = desk;
  const isShort = length > 0 && length - music.startSeconds < desk.total;
  const { busy, fit } = useMusicFit(desk, document, length);
  const reload = useReload();
  const hasBeats = beats !== null;
  // Beats are looked for when the reel is loaded with its music; music that was chosen here is saved first.
  useEffect(() => {
    if (!hasBeats) void afterSaving(() => void reload());
  }, [hasBeats, music.media, reload]);
  const endReel = (bars?: readonly number[]) => {
    const command = endWithMusic(document, length, bars);
    if (command) live.edit(command);
  };
  return (
    <>
      <p className="text-xs text-muted">
        {isShort
          ? `The music is shorter than the reel and begins anew at ${formatClock(length - music.startSeconds)}.`
          : 'The music is long enough.'}
      </p>
      {isShort && (
        <Button className="mt-1.5 !h-7 !px-2" onClick={() => endReel()}>
          End the reel with the music
        </Button>
      )}
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {beats && (
          <Button
            className="!h-7 !px-2"
            title="Pieces get longer, or go, and others are picked where they do not suffice, until the reel is as long as the music; then every cut is rolled to the nearest beat where no word is cut"
            disabled={busy}
            onClick={fit}
          >
            {busy ? 'Picking more pieces…' : 'Fit the reel to the music'}
          </Button>
        )}
        {beats && beats.bars.length > 1 && (
          <Button
            className="!h-7 !px-2"
            title="With the last bar that the reel reaches"
            onClick={() => endReel(beats.bars)}
          >
            End it on a bar
          </Button>
        )}
      </div>
      {!beats && <p className="mt-1 text-xs text-muted">Its beats are being found; then cuts can be laid on them.</p>}
    </>
  );
}

/** The level of the music all along the reel, with the playhead. */
function Curve({ curve, total, here }: { curve: readonly GainPoint[]; total: number; here: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    const width = element.clientWidth;
    element.width = width * 2;
    element.height = 104;
    context.setTransform(2, 0, 0, 2, 0, 0);
    context.fillStyle = colours.sound;
    context.globalAlpha = 0.55;
    context.beginPath();
    context.moveTo(0, 52);
    for (const point of curve)
      context.lineTo(
        (point.seconds / Math.max(0.1, total)) * width,
        52 - 50 * Math.max(0, (point.db - quietest) / (6 - quietest)),
      );
    context.lineTo(width, 52);
    context.fill();
    context.globalAlpha = 1;
    context.fillStyle = colours.text;
    context.fillRect((here / Math.max(0.1, total)) * width, 0, 1, 52);
  }, [curve, total, here]);
  return (
    <canvas
      ref={canvas}
      className="my-2 h-[52px] w-full rounded bg-raised"
      role="img"
      aria-label="Level of the music along the reel"
    />
  );
}
