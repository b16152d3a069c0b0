import { upTo } from '#core/sentences';
import { useState } from 'react';
import { reelFrames } from '#core/reel';
import { formatClock, framesToSeconds } from '#core/time';
import { mostListed, partName, type Variant } from '#core/variants';
import { Button, inputLook } from '../ui/controls';
import { LongList } from '../ui/LongList';
import type { Variants } from './useVariants';

/** All combinations: which of them are wanted, how they are called, how long they are. A press plays one. */
export function VariantTable({ variants }: { variants: Variants }) {
  const { places, count, list, wanted, hasRepeats, tickAll, untickRepeats } = variants;
  if (count === 0)
    return (
      <p className="px-4 py-6 text-muted">
        Add pieces to the groups: reels, files, bins, kept stretches or markers. Every combination is listed here before
        anything is made.
      </p>
    );
  return (
    <section className="flex min-h-0 flex-1 flex-col border-t border-line" aria-label="Combinations">
      <div className="flex min-h-11 shrink-0 items-center gap-2 px-4">
        <h2 className="tabular font-semibold" data-testid="variant-count">
          {places.map((group) => group.parts.length).join(' × ')} = {upTo(count, 0)}
        </h2>
        <span className="tabular text-muted">
          {wanted.length} ticked{count > mostListed && `, ${upTo(mostListed, 0)} listed, spread over all`}
        </span>
        <span className="ml-auto flex items-center gap-1.5">
          {hasRepeats && (
            <Button
              look="quiet"
              className="!px-2"
              title="Takes the ticks from those in which a piece comes twice"
              onClick={untickRepeats}
            >
              No piece twice
            </Button>
          )}
          <TickSome variants={variants} />
          <Button look="quiet" className="!px-2" onClick={() => tickAll(true)}>
            All
          </Button>
          <Button look="quiet" className="!px-2" onClick={() => tickAll(false)}>
            None
          </Button>
        </span>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-2 pb-2">
        <LongList items={list} keyOf={({ key }) => key} height={30} label="Combinations">
          {(variant) => <Row variants={variants} variant={variant} />}
        </LongList>
      </div>
    </section>
  );
}

/** So many of them, spread evenly over all. */
function TickSome({ variants }: { variants: Variants }) {
  const [text, setText] = useState('');
  return (
    <form
      className="flex items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (Number(text) > 0) variants.tickSome(Number(text));
        setText('');
      }}
    >
      <label className="text-muted" title="Spread evenly, so that every piece has its turn. Enter ticks them.">
        Tick only{' '}
        <input
          className={`${inputLook} tabular !h-7 w-14`}
          inputMode="numeric"
          aria-label="How many, spread evenly"
          value={text}
          onChange={(event) => setText(event.target.value.replace(/\D/g, '').slice(0, 4))}
        />{' '}
        of them
      </label>
    </form>
  );
}

function Row({ variants, variant }: { variants: Variants; variant: Variant }) {
  const { names, twice, reels, format, footage, onScreen, show, tick } = variants;
  const name = names.get(variant.key);
  const pieces = variant.parts.map((part) => partName(part, footage) ?? '').join(' · ');
  const frames = variant.parts.reduce((sum, { id }) => sum + reelFrames(reels.get(id)!), 0);
  const isShown = onScreen?.key === variant.key;
  return (
    <div
      className={`flex min-h-[30px] items-center gap-2.5 rounded px-2 ${isShown ? 'bg-line/70' : 'hover:bg-line/40'}`}
      data-variant={isShown ? 'shown' : ''}
    >
      <input
        type="checkbox"
        aria-label={`Make ${name ?? pieces}`}
        checked={variant.ticked}
        onChange={(event) => tick([variant], event.target.checked)}
      />
      <button
        type="button"
        className="flex min-w-0 flex-1 items-center gap-3 text-left"
        aria-pressed={isShown}
        onClick={() => show(variant)}
      >
        <span
          className={`min-w-0 flex-1 truncate ${name === undefined ? 'text-muted' : twice.has(name.toLocaleLowerCase()) ? 'text-shake' : ''}`}
        >
          {name ?? pieces}
        </span>
        {name !== undefined && !name.includes(variant.parts.map((part) => partName(part, footage)).join(' ')) && (
          <span className="min-w-0 flex-1 truncate text-muted">{pieces}</span>
        )}
        <span className="tabular shrink-0 text-muted">{formatClock(framesToSeconds(frames, format.rate), true)}</span>
      </button>
    </div>
  );
}
