import { useEffect, useMemo, useState } from 'react';
import { steadyingAdvice, steadyingPrice } from '#core/framing';
import type { CameraPath } from '#core/picture';
import { framesPerSecond } from '#core/time';
import type { Clip } from '#core/reel';
import { newId } from '../newId';
import { colours } from '../drawing/inks';
import { cameraAddress, pathFrom, shownSeconds } from '../player/useSurroundings';
import { Button, Slider } from '../ui/controls';
import type { ReelDesk } from './useReelDesk';
import { ask } from '../ui/ask';

/** A steady stretch shorter than this is not worth offering. Common practice, no source. */
const shortestSteady = 2;

/** Steadying of a piece: what it costs is said before anything is done. */
export function SteadyPart({ desk, clip }: { desk: ReelDesk; clip: Clip }) {
  const { rate, live } = desk;
  const shown = shownSeconds(clip, rate);
  const address = cameraAddress(clip.media, shown);
  const readAt = Number(desk.itemOf(clip.media)?.readAt);
  const [loaded, setLoaded] = useState<{ address: string; path: CameraPath | null } | null>(null);
  useEffect(() => {
    const stop = new AbortController();
    ask(address, stop.signal, async (answer) =>
      setLoaded({
        address,
        path: answer.ok ? pathFrom((await answer.json()) as Parameters<typeof pathFrom>[0] | null) : null,
      }),
    );
    return () => stop.abort();
    // Once the whole is read, more is known.
  }, [address, readAt]);
  const shape = desk.shapeOf(clip.media);
  const path = loaded?.address === address ? loaded.path : null;
  const whole = useMemo(() => ({ start: 0, end: shown.end - shown.start }), [shown.start, shown.end]);
  const advice = useMemo(() => path && steadyingAdvice(path, whole, shape), [path, whole, shape]);
  const strength = clip.steady?.position ?? 0;
  const price = path && clip.steady && strength > 0 ? steadyingPrice(path, whole, clip.steady, shape) : null;
  /** The calmest stretch of at least two seconds, when the whole is too dear. */
  const calm = useMemo(() => {
    const seconds = whole.end;
    if (!path || !advice || advice.strength > 0 || seconds < shortestSteady + 0.5) return null;
    let best: { start: number; price: number } | null = null;
    for (let start = 0; start + shortestSteady <= seconds; start += 0.25) {
      const own = steadyingAdvice(path, { start, end: start + shortestSteady }, shape);
      const cost = own.strength === 0 ? 2 : own.price.cropShare + own.price.softness;
      if (!best || cost < best.price) best = { start, price: cost };
    }
    return best && best.price < 1 ? best : null;
  }, [path, advice, whole, shape]);
  const set = (to: number, more: Partial<NonNullable<Clip['steady']>> = {}) =>
    live.edit({
      type: 'steady',
      clip: clip.id,
      steady: to <= 0 ? null : { rotation: to, scale: to, edges: 'crop', ...clip.steady, position: to, ...more },
    });
  const percent = (value: number) => `${Math.round(value * 100)} %`;
  const sentence =
    !loaded || loaded.address !== address
      ? 'Looking at how the camera moved…'
      : !path
        ? 'This footage has not been read yet; then its price can be told.'
        : price
          ? `At ${Math.round(strength * 100)} you lose ${percent(clip.steady!.edges === 'crop' ? price.cropShare : 0)} of the picture${price.softness < 0.2 ? ' and keep it sharp' : price.softness < 0.5 ? ' and it gets a little soft' : ' and it turns soft'}.`
          : advice!.sentence;
  const into = desk.playFrame - (desk.found?.start ?? 0);
  const inside = into > 0 && into < clip.frames;
  /** Splits the piece, and steadies what comes after the playhead. */
  const fromHere = () => {
    const rest = newId();
    const steady = clip.steady ?? {
      position: advice!.strength,
      rotation: advice!.strength,
      scale: advice!.strength,
      edges: 'crop' as const,
    };
    return live.edit({
      type: 'several',
      name: `steadied the rest of “${clip.name}”`,
      commands: [
        { type: 'split', clip: clip.id, at: into, newId: rest },
        { type: 'steady', clip: clip.id, steady: null },
        { type: 'steady', clip: rest, steady },
      ],
    });
  };
  const keepCalm = () => {
    const fps = framesPerSecond(rate);
    const from = Math.round(calm!.start * fps);
    const length = Math.round(shortestSteady * fps);
    return live.edit({
      type: 'several',
      name: `kept the steadiest part of “${clip.name}”`,
      commands: [
        { type: 'trim', clip: clip.id, edge: 'out', frames: -(clip.frames - from - length) },
        ...(from > 0 ? [{ type: 'trim' as const, clip: clip.id, edge: 'in' as const, frames: from }] : []),
      ],
    });
  };
  return (
    <div>
      <Slider
        label="Steady"
        colour={colours.camera}
        value={Math.round(strength * 100)}
        max={100}
        step={5}
        shown={(value) => (value ? String(value) : 'off')}
        onRest={(value) => set(value / 100)}
      />
      {clip.steady && (
        <>
          <Slider
            label="Turning"
            colour={colours.camera}
            value={Math.round(clip.steady.rotation * 100)}
            max={100}
            step={5}
            shown={(value) => String(value)}
            onRest={(value) => set(strength, { rotation: value / 100 })}
          />
          <Slider
            label="Zooming"
            colour={colours.camera}
            value={Math.round(clip.steady.scale * 100)}
            max={100}
            step={5}
            shown={(value) => String(value)}
            onRest={(value) => set(strength, { scale: value / 100 })}
          />
        </>
      )}
      <div className="flex items-start gap-2 rounded-md bg-raised px-3 py-2 text-[13px] leading-5">
        <span className="flex-1" data-testid="steady-price">
          {sentence}
        </span>
        {!clip.steady && advice && advice.strength > 0 && (
          <button
            type="button"
            className="whitespace-nowrap font-semibold text-lampline"
            onClick={() => set(advice.strength)}
          >
            Use {Math.round(advice.strength * 100)}
          </button>
        )}
        {clip.steady && (
          <button
            type="button"
            className="whitespace-nowrap underline"
            onClick={() => set(strength, { edges: clip.steady!.edges === 'crop' ? 'fill' : 'crop' })}
          >
            {clip.steady.edges === 'crop' ? 'Fill the edges' : 'Crop instead'}
          </button>
        )}
      </div>
      {inside && advice && (advice.strength > 0 || clip.steady) && (
        <Button className="mt-2" onClick={() => fromHere()}>
          Only from the playhead on
        </Button>
      )}
      {calm && !clip.steady && (
        <Button className="mt-2" onClick={() => keepCalm()}>
          Keep only the steadiest {shortestSteady} s
        </Button>
      )}
    </div>
  );
}
