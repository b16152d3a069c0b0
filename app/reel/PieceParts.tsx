import { ArrowLeft, ArrowRight, Link2Off, MapPin, Scissors, Trash2, Volume2, VolumeX } from 'lucide-react';
import { Link } from 'react-router';
import { decimal } from '#core/sentences';
import type { Fit } from '#core/framing';
import { transitionKinds, type Clip, type TransitionKind } from '#core/reel';
import { formatClock, framesPerSecond, framesToSeconds } from '#core/time';
import { newId } from '../newId';
import { colours } from '../drawing/inks';
import { Button, IconButton, inputLook, Slider } from '../ui/controls';
import { Part, Seconds } from './panelParts';
import { SwapMenu } from './SwapMenu';
import type { ReelDesk } from './useReelDesk';

/** What each part of the panel of a piece gets: the piece, and the desk that it lies on. */
interface PieceProps {
  desk: ReelDesk;
  clip: Clip;
}

/** Its name, where it comes from, how long it is. */
export function PieceHead({ desk, clip }: PieceProps) {
  const { segment, rate, itemOf, found, chosen } = desk;
  const item = itemOf(clip.media);
  const seconds = (frames: number) => framesToSeconds(frames, rate);
  if (!segment || !found) return null;
  return (
    <>
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
        · {decimal(seconds(clip.frames), 1)} s
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
      {clip.reason && (
        <p className="-mt-2 mb-3 text-xs text-muted" title="Why it was picked, as it stood then">
          Picked: {clip.reason}
        </p>
      )}
    </>
  );
}

interface OrderPartProps extends PieceProps {
  onCopy: (() => void) | undefined;
  onMove: (() => void) | undefined;
}

export function OrderPart({ desk, clip, onCopy, onMove }: OrderPartProps) {
  const { index, segments, found, live } = desk;
  const main = found?.trackIndex === 0;
  const heardOnly = found?.track.kind === 'sound';
  const move = (to: number) => () => live.edit({ type: 'move', clip: clip.id, to });
  return (
    <Part title="Order">
      <IconButton label="One place earlier" disabled={!main || index === 0} onClick={move(index - 1)}>
        <ArrowLeft size={15} />
      </IconButton>
      <IconButton label="One place later" disabled={!main || index === segments.length - 1} onClick={move(index + 1)}>
        <ArrowRight size={15} />
      </IconButton>
      {!heardOnly && <SwapMenu desk={desk} clip={clip} />}
      {onCopy && (
        <Button command="copyOver" onClick={onCopy}>
          Copy
        </Button>
      )}
      {onMove && (
        <Button command="moveOver" onClick={onMove}>
          Move
        </Button>
      )}
    </Part>
  );
}

const transitionNames: Record<TransitionKind, string> = {
  dissolve: 'dissolve',
  black: 'dip to black',
  white: 'dip to white',
  push: 'push',
  wipe: 'wipe',
};

/** How the piece before gives way to this one. */
export function TransitionPart({ desk: { live, rate }, clip }: PieceProps) {
  const fps = framesPerSecond(rate);
  const set = (into: Clip['into'] | null) => live.edit({ type: 'transition', clip: clip.id, into: into ?? null });
  return (
    <Part title="Transition">
      <select
        aria-label="Transition into this piece"
        className={`${inputLook} !h-7 w-28`}
        value={clip.into?.kind ?? ''}
        onChange={(event) =>
          set(
            event.target.value
              ? { kind: event.target.value as TransitionKind, frames: clip.into?.frames ?? Math.round(fps / 2) }
              : null,
          )
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
          value={framesToSeconds(clip.into.frames, rate)}
          onChange={(value) => set({ kind: clip.into!.kind, frames: Math.round(value * fps) })}
        />
      )}
      {clip.into && (
        <Button className="!h-7 !px-2" onClick={() => live.edit({ type: 'transitions', into: clip.into! })}>
          All cuts
        </Button>
      )}
    </Part>
  );
}

export function FadePart({ desk: { live, rate }, clip }: PieceProps) {
  const fps = framesPerSecond(rate);
  const set = (edge: 'in' | 'out') => (seconds: number) =>
    live.edit({ type: 'fade', clip: clip.id, edge, frames: Math.round(seconds * fps) });
  return (
    <Part title="Fade">
      <span className="text-xs text-muted">in</span>
      <Seconds label="Fade in" value={framesToSeconds(clip.fadeIn ?? 0, rate)} onChange={set('in')} />
      <span className="text-xs text-muted">out</span>
      <Seconds label="Fade out" value={framesToSeconds(clip.fadeOut ?? 0, rate)} onChange={set('out')} />
    </Part>
  );
}

interface SoundPartProps extends PieceProps {
  /** The piece that carries the sound; null where the picture has its own. */
  sound: Clip | null;
}

/** How loud it is, and whether its sound is a piece of its own. */
export function SoundPart({ desk, clip, sound }: SoundPartProps) {
  const { live } = desk;
  const heard = sound ?? clip;
  const heardOnly = desk.found?.track.kind === 'sound';
  return (
    <>
      <div className="mt-1 flex items-center gap-2">
        <div className="flex-1">
          <Slider
            label="Sound"
            colour={colours.sound}
            value={heard.levelDb ?? 0}
            min={-40}
            max={12}
            step={0.5}
            shown={(db) => (heard.muted ? 'muted' : `${db > 0 ? '+' : ''}${db} dB`)}
            onRest={(levelDb) => live.edit({ type: 'sound', clip: heard.id, levelDb })}
          />
        </div>
        <IconButton
          label={heard.muted ? 'Unmute' : 'Mute'}
          aria-pressed={heard.muted ?? false}
          onClick={() => live.edit({ type: 'sound', clip: heard.id, muted: !heard.muted })}
        >
          {heard.muted ? <VolumeX size={15} /> : <Volume2 size={15} />}
        </IconButton>
      </div>
      <Part title="">
        {!heardOnly && !sound && (
          <Button className="!h-7 !px-2" onClick={() => live.edit({ type: 'detach', clip: clip.id, newId: newId() })}>
            Detach the sound
          </Button>
        )}
        {!heardOnly && sound && (
          <Button className="!h-7 !px-2" onClick={() => live.edit({ type: 'attach', clip: clip.id })}>
            Its own sound again
          </Button>
        )}
        {clip.link !== undefined && desk.linked.length > 0 && (
          <Button className="!h-7 !px-2" onClick={() => live.edit({ type: 'unlink', clip: clip.id })}>
            <Link2Off size={14} aria-hidden /> Unlink
          </Button>
        )}
      </Part>
    </>
  );
}

const fitNames: Record<Fit, string> = {
  fill: 'fill the frame',
  blur: 'whole, over a blurred copy',
  bars: 'whole, with bars',
};

/** How a picture of another shape fills the frame. */
export function ShapePart({ desk: { live, document }, clip }: PieceProps) {
  return (
    <Part title="Shape">
      <select
        aria-label="How it fills the frame"
        className={`${inputLook} !h-7 flex-1`}
        value={clip.fit ?? ''}
        onChange={(event) => live.edit({ type: 'fit', clip: clip.id, fit: (event.target.value || null) as Fit | null })}
      >
        <option value="">like the reel ({fitNames[document?.fit ?? 'bars']})</option>
        {(Object.keys(fitNames) as Fit[]).map((fit) => (
          <option key={fit} value={fit}>
            {fitNames[fit]}
          </option>
        ))}
      </select>
    </Part>
  );
}

/** What is done to the piece as a whole. */
export function PieceFoot({ desk: { actions, chosen } }: { desk: ReelDesk }) {
  return (
    <div className="sticky -bottom-3 mt-auto flex gap-2 bg-panel pb-3 pt-2">
      <Button command="split" onClick={() => actions.split()}>
        <Scissors size={15} aria-hidden /> Split
      </Button>
      <Button command="takeOut" onClick={() => actions.takeOut()}>
        <Trash2 size={15} aria-hidden /> Ripple delete{chosen.length > 1 ? ` ${chosen.length}` : ''}
      </Button>
      <Button command="lift" onClick={() => actions.lift()}>
        Lift
      </Button>
    </div>
  );
}
