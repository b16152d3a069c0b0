import { ingredientNames, type Mix } from '#core/moments';
import { formatClock } from '#core/time';
import { counted } from '#core/sentences';
import { Button } from '../../ui/controls';
import type { Learned } from '../../workers/protocol';
import type { Tastes } from '../model/useTastes';
import { TastePart } from './TastePart';
import { ingredientLooks } from './WhyPanel';

/** What is changed about learning; a taste of null is this project only. */
export interface LearningChange {
  on?: boolean;
  forget?: boolean;
  taste?: string | null;
}

interface LearningPartProps {
  tastes: Tastes;
  learned: Learned | null;
  mix: Mix;
  on: boolean;
  forgotten: number;
  onTake(mix: Mix): void;
  onLearning(change: LearningChange): void;
}

/** What keeps and drops say, the mix they speak for, and what it would change; taken only when asked. */
export function LearningPart({ tastes, learned, mix, on, forgotten, onTake, onLearning }: LearningPartProps) {
  const preference = learned?.preference;
  const proposal = learned?.proposal;
  const moved = proposal ? ingredientNames.filter((name) => Math.abs(proposal.mix[name] - mix[name]) >= 1) : [];
  return (
    <section className="mt-2 rounded-md bg-raised px-3 py-2" aria-label="What your choices say">
      <label className="flex items-center justify-between">
        <span>Learn from keeps and drops</span>
        <input
          type="checkbox"
          className="h-4 w-4 accent-muted"
          checked={on}
          onChange={(event) => onLearning({ on: event.target.checked })}
        />
      </label>
      {on && <TastePart tastes={tastes} onTaste={(taste) => onLearning({ taste })} />}
      {on && !preference && (
        <p className="mt-1 text-xs text-muted">
          Keep one stretch and drop another, and what tells them apart shows here.
          {forgotten > 0 && ` ${forgotten} earlier choices are forgotten.`}
        </p>
      )}
      {on && preference && proposal && (
        <>
          <p className="mt-1 text-xs text-muted">
            From {preference.kept} kept and {preference.dropped} dropped; it agrees with{' '}
            {Math.round(preference.agreement * 100)} % of them.
          </p>
          <dl className="mt-1.5 space-y-1">
            {ingredientNames.map((name) => (
              <Lean
                key={name}
                label={ingredientLooks[name].label}
                colour={ingredientLooks[name].colour}
                weight={preference.weights[name]}
                from={mix[name]}
                to={proposal.mix[name]}
              />
            ))}
          </dl>
          <p className="mt-1.5" data-testid="proposal">
            {moved.length === 0
              ? 'The mix is as your choices would have it.'
              : `With it ${counted(proposal.moments, 'moment')} ${proposal.moments === 1 ? 'stays' : 'stay'}: ${formatClock(proposal.comeIn)} comes in, ${formatClock(proposal.goOut)} goes out.`}
          </p>
          <div className="mt-1.5 flex gap-2">
            <Button disabled={moved.length === 0} onClick={() => onTake(proposal.mix)}>
              Use this mix
            </Button>
            <Button look="quiet" onClick={() => onLearning({ forget: true })}>
              Forget these choices
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

/** A bar to the right speaks for, to the left against. */
function Lean({
  label,
  colour,
  weight,
  from,
  to,
}: {
  label: string;
  colour: string;
  weight: number;
  from: number;
  to: number;
}) {
  const share = Math.min(50, Math.abs(weight) * 25);
  return (
    <div className="grid grid-cols-[96px_1fr_72px] items-center gap-2 text-xs">
      <dt>{label}</dt>
      <dd
        className="relative h-1.5 rounded bg-line"
        title={weight > 0 ? 'speaks for keeping' : 'speaks against keeping'}
      >
        <span className="absolute left-1/2 top-[-2px] h-2.5 w-px bg-muted" />
        <span
          className="absolute h-full rounded"
          style={{ background: colour, width: `${share}%`, left: weight > 0 ? '50%' : `${50 - share}%` }}
        />
      </dd>
      <dd className="tabular text-right">{from === to ? from : `${from} → ${to}`}</dd>
    </div>
  );
}
