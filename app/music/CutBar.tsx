import { counted } from '#core/sentences';
import { Activity } from 'lucide-react';
import type { Every } from '#core/montage';
import { Button } from '../ui/controls';
import { FillMenu } from './FillMenu';
import { everyWords } from './everyWords';
import type { MusicPlace } from './useMusicPlace';

const brushes: Every[] = [1, 2, 3, 4, 8, 'bar', 'marks'];

/** How often the picture changes, and what that comes to. */
export function CutBar({
  place: { desk, montage, actions, brush, setBrush, different, filled },
}: {
  place: MusicPlace;
}) {
  const { followEnergy } = montage.pattern;
  const { length } = montage.slots;
  const again = filled - different;
  return (
    <div className="shrink-0 border-t border-line px-4 py-2.5">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <span className="text-muted">Cut every</span>
        <div
          className="flex overflow-hidden rounded-md border border-line"
          role="group"
          aria-label="How often the picture changes"
        >
          {brushes.map((every) => (
            <button
              key={every}
              type="button"
              aria-pressed={brush === every}
              title={`Cut ${everyWords(every)}: press, then press the parts of the music to be cut so`}
              onClick={() => setBrush(every)}
              className={`h-[30px] px-2.5 ${brush === every ? 'bg-text font-semibold text-ground' : 'text-muted hover:text-text'}`}
            >
              {every}
            </button>
          ))}
        </div>
        <Button onClick={() => actions.pattern({ every: brush, painted: {}, followEnergy: false })}>Everywhere</Button>
        <Button
          command="followEnergy"
          aria-pressed={followEnergy}
          className={followEnergy ? 'border-text' : ''}
          onClick={() => actions.pattern({ followEnergy: !followEnergy, painted: {} })}
        >
          <Activity size={14} aria-hidden /> Follow the energy
        </Button>
        <FillMenu desk={desk} />
      </div>
      <p className="mt-1.5 flex gap-3 text-xs">
        <span className="whitespace-nowrap text-sm" data-testid="cuts">
          <strong>{counted(length, 'slot')}</strong>{' '}
          <span className="text-muted">
            {counted(different, 'piece')}
            {again > 0 ? `, ${again} shown again` : ''}
            {filled < length ? `, ${length - filled} empty` : ''}
          </span>
        </span>
        <span className="pt-0.5 text-muted" role="status">
          {desk.note}
        </span>
      </p>
    </div>
  );
}
