import type { Fit } from '#core/framing';
import { ArrowLeft, ArrowRight, Link2Off, MapPin, Scissors, Trash2, Volume2, VolumeX } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { mainTrack, transitionKinds, type ReelCommand, type TransitionKind } from '#core/reel';
import { formatClock, framesPerSecond, framesToSeconds } from '#core/time';
import { colours } from '../drawing/drawLine';
import { Button, IconButton, inputLook, Slider } from '../ui/controls';
import { ExactFrame } from './ExactFrame';
import { moveTowardsFaces } from './photoMoves';
import { RecorderPart } from './RecorderPart';
import { SteadyPart } from './SteadyPart';
import { SwapMenu } from './SwapMenu';
import type { ReelDesk } from './useReelDesk';

interface PiecePanelProps {
  desk: ReelDesk;
  /** Does an edit and notes that it was done. */
  inPlace: boolean;
  /** To the other reel, when there is one. */
  onCopy?: (() => void) | undefined;
  onMove?: (() => void) | undefined;
}

const transitionNames: Record<TransitionKind, string> = {
  dissolve: 'dissolve',
  black: 'dip to black',
  white: 'dip to white',
  push: 'push',
  wipe: 'wipe',
};
const fitNames: Record<Fit, string> = {
  fill: 'fill the frame',
  blur: 'whole, over a blurred copy',
  bars: 'whole, with bars',
};

/** The chosen piece: its exact first and last frame, and everything that can be done with it. */
export function PiecePanel({ desk, inPlace, onCopy, onMove }: PiecePanelProps) {
  const { segment, clip, rate, index, segments, itemOf, sourceOf, live, actions, found, chosen, linked } = desk;
  if (!segment || !clip || !found)
    return (
      <p className="text-muted">
        {segment
          ? 'A gap: black and silent. Draw the pieces beside it, or put something over it.'
          : 'The reel is empty. Take back the last step, or send pieces to it from the moments.'}
      </p>
    );
  const fps = framesPerSecond(rate);
  const edit = (command: ReelCommand) => live.edit(command);
  const trim = (edge: 'in' | 'out') => (frames: number) =>
    edit({ type: 'trim', clip: clip.id, edge, frames, ...(inPlace ? { inPlace } : {}) });
  const move = (to: number) => () => edit({ type: 'move', clip: clip.id, to });
  const item = itemOf(clip.media);
  const photo = item?.probe?.kind === 'photo';
  const heardOnly = found.track.kind === 'sound';
  const main = found.trackIndex === 0;
  const seconds = (frames: number) => framesToSeconds(frames, rate);
  const sound = heardOnly ? clip : (linked.find((each) => each.track.kind === 'sound')?.clip ?? null);
  const before = main && index > 0 ? mainTrack(desk.document!).items[found.index - 1] : undefined;
  return (
    <div className="flex min-h-full flex-col">
      <div className="flex items-baseline gap-2">
        <h2 className="min-w-0 truncate text-base font-semibold">{segment.name}</h2>
        {chosen.length > 1 && (
          <span className="whitespace-nowrap rounded bg-line px-1.5 text-xs leading-5">
            and {chosen.length - 1} more
          </span>
        )}
        {found.track.locked && <span className="rounded bg-line px-1.5 text-xs leading-5">locked</span>}
      </div>
      <p className="mb-3 text-muted">
        {item?.name ?? 'This footage is missing'} ·{' '}
        <span className="tabular">
          {formatClock(segment.sourceSeconds, true)} –{' '}
          {formatClock(segment.sourceSeconds + (segment.endSeconds - segment.startSeconds) * segment.speed, true)}
        </span>{' '}
        · {seconds(clip.frames).toFixed(1)} s
        {item && (
          <Link
            to={`../../moments?at=${clip.media}~${seconds(clip.sourceIn).toFixed(2)}&reel=${desk.reel!.id}`}
            relative="path"
            className="ml-2 inline-flex items-center gap-1 whitespace-nowrap underline hover:text-text"
            title="Find it in the page"
          >
            <MapPin size={12} aria-hidden /> in the page
          </Link>
        )}
      </p>
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
      <Part title="Order">
        <IconButton label="One place earlier" disabled={!main || index === 0} onClick={move(index - 1)}>
          <ArrowLeft size={15} />
        </IconButton>
        <IconButton label="One place later" disabled={!main || index === segments.length - 1} onClick={move(index + 1)}>
          <ArrowRight size={15} />
        </IconButton>
        {!heardOnly && <SwapMenu desk={desk} clip={clip} />}
        {onCopy && (
          <Button keys="Enter" onClick={onCopy}>
            Copy
          </Button>
        )}
        {onMove && (
          <Button keys="Shift Enter" onClick={onMove}>
            Move
          </Button>
        )}
      </Part>
      {before?.kind === 'clip' && (
        <Part title="Into it">
          <select
            aria-label="Transition into this piece"
            className={`${inputLook} !h-7 w-28`}
            value={clip.into?.kind ?? ''}
            onChange={(event) =>
              edit({
                type: 'transition',
                clip: clip.id,
                into: event.target.value
                  ? { kind: event.target.value as TransitionKind, frames: clip.into?.frames ?? Math.round(fps / 2) }
                  : null,
              })
            }
          >
            <option value="">cut</option>
            {transitionKinds.map((kind) => (
              <option key={kind} value={kind}>
                {transitionNames[kind]}
              </option>
            ))}
          </select>
          {clip.into && (
            <Seconds
              label="Length of the transition"
              value={seconds(clip.into.frames)}
              onChange={(value) =>
                edit({
                  type: 'transition',
                  clip: clip.id,
                  into: { kind: clip.into!.kind, frames: Math.round(value * fps) },
                })
              }
            />
          )}
          {clip.into && (
            <Button className="!h-7 !px-2" onClick={() => edit({ type: 'transitions', into: clip.into! })}>
              All cuts
            </Button>
          )}
        </Part>
      )}
      {!photo && (
        <Part title="Speed">
          <Percent value={clip.speed ?? 100} onChange={(percent) => edit({ type: 'speed', clip: clip.id, percent })} />
          {main && (
            <Button className="!h-7 !px-2" keys="H" onClick={() => actions.hold()}>
              Hold this frame
            </Button>
          )}
        </Part>
      )}
      <Part title="Fade">
        <span className="text-xs text-muted">in</span>
        <Seconds
          label="Fade in"
          value={seconds(clip.fadeIn ?? 0)}
          onChange={(value) => edit({ type: 'fade', clip: clip.id, edge: 'in', frames: Math.round(value * fps) })}
        />
        <span className="text-xs text-muted">out</span>
        <Seconds
          label="Fade out"
          value={seconds(clip.fadeOut ?? 0)}
          onChange={(value) => edit({ type: 'fade', clip: clip.id, edge: 'out', frames: Math.round(value * fps) })}
        />
      </Part>
      {!photo && (
        <>
          <div className="mt-1 flex items-center gap-2">
            <div className="flex-1">
              <Slider
                label="Sound"
                colour={colours.sound}
                value={(sound ?? clip).levelDb ?? 0}
                min={-40}
                max={12}
                step={0.5}
                shown={(db) => ((sound ?? clip).muted ? 'muted' : `${db > 0 ? '+' : ''}${db} dB`)}
                onRest={(levelDb) => edit({ type: 'sound', clip: (sound ?? clip).id, levelDb })}
              />
            </div>
            <IconButton
              label={(sound ?? clip).muted ? 'Unmute' : 'Mute'}
              aria-pressed={(sound ?? clip).muted ?? false}
              onClick={() => edit({ type: 'sound', clip: (sound ?? clip).id, muted: !(sound ?? clip).muted })}
            >
              {(sound ?? clip).muted ? <VolumeX size={15} /> : <Volume2 size={15} />}
            </IconButton>
          </div>
          <Part title="">
            {!heardOnly && !sound && (
              <Button
                className="!h-7 !px-2"
                onClick={() => edit({ type: 'detach', clip: clip.id, newId: crypto.randomUUID() })}
              >
                Detach the sound
              </Button>
            )}
            {!heardOnly && sound && (
              <Button className="!h-7 !px-2" onClick={() => edit({ type: 'attach', clip: clip.id })}>
                Its own sound again
              </Button>
            )}
            {clip.link !== undefined && linked.length > 0 && (
              <Button className="!h-7 !px-2" onClick={() => edit({ type: 'unlink', clip: clip.id })}>
                <Link2Off size={14} aria-hidden /> Unlink
              </Button>
            )}
          </Part>
          <RecorderPart desk={desk} clip={clip} sound={sound} />
        </>
      )}
      {!heardOnly && !photo && <SteadyPart desk={desk} clip={clip} />}
      {!heardOnly && (
        <Part title="Shape">
          <select
            aria-label="How it fills the frame"
            className={`${inputLook} !h-7 flex-1`}
            value={clip.fit ?? ''}
            onChange={(event) => edit({ type: 'fit', clip: clip.id, fit: (event.target.value || null) as Fit | null })}
          >
            <option value="">like the reel ({fitNames[desk.document!.fit ?? 'bars']})</option>
            {(Object.keys(fitNames) as Fit[]).map((fit) => (
              <option key={fit} value={fit}>
                {fitNames[fit]}
              </option>
            ))}
          </select>
        </Part>
      )}
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
      <div className="sticky -bottom-3 mt-auto flex gap-2 bg-[#12191f] pb-3 pt-2">
        <Button keys="S" onClick={() => actions.split()}>
          <Scissors size={15} aria-hidden /> Split
        </Button>
        <Button keys="Del" onClick={() => actions.takeOut()}>
          <Trash2 size={15} aria-hidden /> Take out{chosen.length > 1 ? ` ${chosen.length}` : ''}
        </Button>
        <Button keys="E" onClick={() => actions.lift()}>
          Leave a gap
        </Button>
      </div>
    </div>
  );
}

const steps = [-10, -1, 1, 10];

function Steps({
  label,
  says,
  hint,
  onStep,
}: {
  label: string;
  says: string;
  hint?: string;
  onStep(frames: number): void;
}) {
  return (
    <div className="mt-1.5 flex items-center gap-2" title={hint}>
      <span className="w-14">{label}</span>
      {steps.map((frames) => (
        <Button
          key={frames}
          className="tabular !h-7 !px-2"
          aria-label={`${says} ${Math.abs(frames)} ${Math.abs(frames) === 1 ? 'frame' : 'frames'} ${frames < 0 ? 'earlier' : 'later'}`}
          onClick={() => onStep(frames)}
        >
          {frames > 0 ? `+${frames}` : frames}
        </Button>
      ))}
      <span className="text-xs text-muted">frames</span>
    </div>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="mt-2 flex flex-wrap items-center gap-2">
    <span className="w-14">{title}</span>
    {children}
  </div>
);

/** A length in seconds that is taken when it is left or Enter is pressed. */
export function Seconds({ label, value, onChange }: { label: string; value: number; onChange(value: number): void }) {
  return (
    <Typed
      key={value}
      label={label}
      shown={String(Number(value.toFixed(2)))}
      unit="s"
      onTake={(text) => {
        const next = Number(text.replace(',', '.'));
        if (Number.isFinite(next) && next >= 0) onChange(next);
      }}
    />
  );
}

function Percent({ value, onChange }: { value: number; onChange(value: number): void }) {
  return (
    <Typed
      key={value}
      label="Speed in per cent"
      shown={String(value)}
      unit="%"
      onTake={(text) => {
        const next = Math.round(Number(text));
        if (Number.isFinite(next)) onChange(next);
      }}
    />
  );
}

function Typed({
  label,
  shown,
  unit,
  onTake,
}: {
  label: string;
  shown: string;
  unit: string;
  onTake(text: string): void;
}) {
  const [text, setText] = useState(shown);
  const take = () => text !== shown && onTake(text);
  return (
    <label className="flex items-center gap-1">
      <input
        aria-label={label}
        inputMode="decimal"
        className={`${inputLook} tabular !h-7 w-16 text-right`}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
      <span className="text-xs text-muted">{unit}</span>
    </label>
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
        Slowly in
      </Button>
      <Button className="!h-7 !px-2" onClick={() => void onMove(false)}>
        Slowly out
      </Button>
      {moving && (
        <Button className="!h-7 !px-2" onClick={onStill}>
          Stand still
        </Button>
      )}
    </Part>
  );
}
