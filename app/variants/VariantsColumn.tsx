import { Layers } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { counted, upTo, formatSize, formatTimeLeft } from '#core/sentences';
import { namePlaces, qualities, shapes, sizeOf, type Quality, type Reel, type Shape } from '#core/reel';
import { formatClock, framesPerSecond, rates } from '#core/time';
import { mostMade, type VariantMusic } from '#core/variants';
import type { useReelPlayer } from '../player/useReelPlayer';
import { ReelViewer } from '../reel/ReelViewer';
import { Column } from '../ui/Column';
import { Button, inputLook } from '../ui/controls';
import { songsOf } from '../music/songsOf';
import type { Variants } from './useVariants';

interface VariantsColumnProps {
  variants: Variants;
  player: ReturnType<typeof useReelPlayer>;
  onStep(by: 1 | -1): void;
}

const choice = `${inputLook} w-full`;
const Field = ({ label, children }: { label: string; children: ReactNode }) => (
  <label className="grid grid-cols-[72px_1fr] items-center gap-3">
    {label}
    {children}
  </label>
);

/** The combination that is looked at, what all of them have in common, what they cost, and the button that makes them. */
export function VariantsColumn({ variants, player, onStep }: VariantsColumnProps) {
  const { reel, format, names, onScreen, list, wanted, twice, tooMany, render, setRender, quality, setQuality } =
    variants;
  const at = list.findIndex(({ key }) => key === onScreen?.key) + 1;
  const place = onScreen ? (names.get(onScreen.key) ?? `combination ${at} of ${list.length}, not ticked`) : '';
  return (
    <Column
      picture={
        <ReelViewer
          player={player}
          rate={format.rate}
          size={reel?.size ?? format.size}
          place={place}
          testId="variant-viewer"
          onPrevious={() => onStep(-1)}
          onNext={() => onStep(1)}
        />
      }
    >
      <div className="min-h-0 flex-1 space-y-2 overflow-y-auto px-4 py-3">
        <MusicField variants={variants} />
        <FormatFields variants={variants} />
        <PatternField key={variants.set.pattern} variants={variants} />
        <p className="text-xs text-muted" title={`It may hold ${namePlaces.join(', ')}`}>
          {'{n} counts, {n:3} in three digits, {1} {2} are the pieces’ names, {date} is today.'}
        </p>
        {twice.size > 0 && (
          <p role="alert" className="text-shake">
            Some names occur twice. Put {'{n}'} into the pattern.
          </p>
        )}
      </div>
      <div className="shrink-0 border-t border-line px-4 pb-4 pt-3">
        <Cost variants={variants} />
        <div className="mt-2 flex h-8 items-center gap-2">
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={render} onChange={(event) => setRender(event.target.checked)} /> Render them
            too
          </label>
          {render && (
            <select
              aria-label="Quality"
              className={`${inputLook} !h-7 ml-auto w-32`}
              value={quality}
              onChange={(event) => setQuality(event.target.value as Quality)}
            >
              {qualities.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </select>
          )}
        </div>
        {variants.problem && (
          <p role="alert" className="mt-1 text-shake">
            {variants.problem}
          </p>
        )}
        <Button
          look="lamp"
          className="mt-2 w-full"
          disabled={wanted.length === 0 || tooMany || twice.size > 0 || variants.busy}
          onClick={variants.make}
        >
          <Layers size={15} aria-hidden /> Make {wanted.length || ''} {wanted.length === 1 ? 'reel' : 'reels'}
          {render && ' and files'}
        </Button>
      </div>
    </Column>
  );
}

/** How many, how long, how large, how long it takes: before anything is made. */
function Cost({ variants: { cost, wanted, tooMany } }: { variants: Variants }) {
  if (wanted.length === 0) return <p className="text-muted">Nothing is ticked.</p>;
  const time = formatTimeLeft(cost.renderSeconds).replace(/ left$/, '');
  return (
    <>
      <p data-testid="variant-cost">
        <b className="font-semibold">{counted(wanted.length, 'variant')}</b>, together {formatClock(cost.seconds)}
      </p>
      <p className="text-muted">
        Rendered: about {formatSize(cost.bytes)}, about {time}.
      </p>
      {tooMany && <p className="text-shake">At most {mostMade} are made at once. Tick fewer.</p>}
    </>
  );
}

function MusicField({ variants: { set, change, items } }: { variants: Variants }) {
  const { music } = set;
  const songs = songsOf(items, music.of === 'one' ? music.media : '');
  const choose = (value: string) => {
    const song = songs.find(({ id }) => id === value);
    const next = song ? { of: 'one' as const, media: song.id, name: song.name } : ({ of: value } as VariantMusic);
    change({ ...set, music: next });
  };
  return (
    <Field label="Music">
      <select
        className={choice}
        value={music.of === 'one' ? music.media : music.of}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="each">of each piece, under that piece</option>
        <option value="first">of the first piece, under all</option>
        <option value="none">none</option>
        {songs.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}, under all
          </option>
        ))}
      </select>
    </Field>
  );
}

const sizeKey = ({ width, height }: Reel['size']) => `${width}×${height}`;

function FormatFields({ variants: { set, change, format, brought, footage } }: { variants: Variants }) {
  const sizes = new Map(
    [
      ...[...footage.reels.values()].map(({ size }) => size),
      ...(Object.keys(shapes) as Shape[]).map((shape) => sizeOf(shape, 1080)),
    ].map((size) => [sizeKey(size), size]),
  );
  const rateNames = Object.keys(rates) as (keyof typeof rates)[];
  const fps = upTo(framesPerSecond(format.rate), 3);
  const rateName = set.rate && rateNames.find((name) => framesPerSecond(rates[name]) === framesPerSecond(set.rate!));
  const { sizes: otherSizes, rates: otherRates } = brought;
  const said = [
    otherSizes > 0 && `${otherSizes === 1 ? '1 reel is' : `${otherSizes} reels are`} brought to this shape and fill it`,
    otherRates > 0 && `${counted(otherRates, 'reel')} to this rate`,
  ].filter(Boolean);
  return (
    <>
      <Field label="Picture">
        <select
          className={`${choice} tabular`}
          value={set.size ? sizeKey(set.size) : ''}
          onChange={(event) => change({ ...set, size: sizes.get(event.target.value) ?? null })}
        >
          <option value="">like most: {sizeKey(format.size)}</option>
          {set.size && !sizes.has(sizeKey(set.size)) && <option>{sizeKey(set.size)}</option>}
          {[...sizes.keys()].map((key) => (
            <option key={key}>{key}</option>
          ))}
        </select>
      </Field>
      <Field label="Frame rate">
        <select
          className={`${choice} tabular`}
          value={rateName ?? ''}
          onChange={(event) =>
            change({ ...set, rate: event.target.value ? rates[event.target.value as keyof typeof rates] : null })
          }
        >
          <option value="">like most: {fps} fps</option>
          {rateNames.map((name) => (
            <option key={name} value={name}>
              {name} fps
            </option>
          ))}
        </select>
      </Field>
      {said.length > 0 && (
        <p className="text-xs text-muted" data-testid="variant-brought">
          {said.join(', ')}.
        </p>
      )}
    </>
  );
}

function PatternField({ variants: { set, change } }: { variants: Variants }) {
  const [typed, setTyped] = useState(set.pattern);
  const take = () => {
    if (!typed.trim()) setTyped(set.pattern);
    else if (typed.trim() !== set.pattern) change({ ...set, pattern: typed.trim() });
  };
  return (
    <Field label="Named">
      <input
        className={choice}
        value={typed}
        maxLength={120}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && take()}
        onBlur={take}
      />
    </Field>
  );
}
