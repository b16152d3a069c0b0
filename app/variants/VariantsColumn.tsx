import { Layers } from 'lucide-react';
import { namePlaces } from '#core/reel';
import { Button, inputLook } from '../ui/controls';
import type { Combined } from './useVariants';

/** How many variants there are, how they are called, and the button that makes them. */
export function VariantsColumn({ combined }: { combined: Combined }) {
  const { used, all, most, names, twice, few, setFew, pattern, setPattern, render, setRender } = combined;
  const scope = most < all ? `${most} of them, spread evenly over all.` : 'All of them.';
  return (
    <aside className="flex w-[400px] shrink-0 flex-col border-l border-line bg-[#12191f] p-4">
      <p className="text-lg font-semibold" data-testid="variant-count">
        {all === 0 ? 'Nothing to combine yet' : `${used.map((group) => group.pieces.length).join(' × ')} = ${all}`}
      </p>
      <p className="mb-3 text-muted">{all === 0 ? 'Add reels to the groups.' : scope}</p>
      <div className="space-y-2">
        <label className="grid grid-cols-[88px_1fr] items-center gap-3">
          How many
          <input
            className={`${inputLook} tabular`}
            inputMode="numeric"
            placeholder={`all ${all}`}
            value={few}
            onChange={(event) => setFew(event.target.value.replace(/\D/g, ''))}
          />
        </label>
        <label className="grid grid-cols-[88px_1fr] items-center gap-3" title={`It may hold ${namePlaces.join(', ')}`}>
          Named
          <input className={inputLook} value={pattern} onChange={(event) => setPattern(event.target.value)} />
        </label>
        <p className="text-xs text-muted">
          {'{n} counts, {n:3} in three digits, {1} {2} are the pieces’ names, {date} is today.'}
        </p>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={render} onChange={(event) => setRender(event.target.checked)} /> Render them
          at once
        </label>
      </div>
      <ul className="tabular mt-3 min-h-0 flex-1 overflow-y-auto text-xs text-muted" aria-label="Names of the variants">
        {names.map((name, index) => (
          <li key={index} className={twice.has(name.toLocaleLowerCase()) ? 'text-shake' : ''}>
            {name}
          </li>
        ))}
      </ul>
      {twice.size > 0 && (
        <p role="alert" className="mt-2 text-shake">
          Some names stand twice. Put {'{n}'} into the pattern.
        </p>
      )}
      {combined.problem && (
        <p role="alert" className="mt-2 text-shake">
          {combined.problem}
        </p>
      )}
      <Button
        look="lamp"
        className="mt-3"
        disabled={all === 0 || twice.size > 0 || combined.busy}
        onClick={combined.make}
      >
        <Layers size={15} aria-hidden /> Make {most || ''} {most === 1 ? 'variant' : 'variants'}
      </Button>
    </aside>
  );
}
