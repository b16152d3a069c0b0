import { Clapperboard } from 'lucide-react';
import { useState } from 'react';
import { arrangements, type Arrangement, type Moment } from '#core/moments';
import { counted } from '#core/sentences';
import { formatClock, parseClock } from '#core/time';
import { Button, inputLook } from '../ui/controls';
import { SaveMark, type SaveState } from '../ui/SaveMark';

interface MomentsBarProps {
  /** Null until the first choice is made. */
  moments: Moment[] | null;
  seconds: number;
  drops: number;
  targetSeconds: number;
  suggested: number;
  saveState: SaveState;
  making: boolean;
  arrangement: Arrangement;
  onTarget(seconds: number): void;
  onArrangement(arrangement: Arrangement): void;
  onMake(): void;
}

const arrangementNames: Record<Arrangement, string> = {
  story: 'As a story',
  time: 'By time',
  energy: 'By energy',
  people: 'By people',
  kind: 'By kind',
};
const arrangementHints: Record<Arrangement, string> = {
  story: 'By time, with an opening and an ending; no two like shots in a row',
  time: 'Strictly by time',
  energy: 'Rises to the strongest moment, then falls',
  people: 'One person after the other, as they first appear',
  kind: 'The place, what is said, what happens, who was there',
};

/** "5:00", "90" or "1:02:03" to seconds; null when it is no length. */
export function parseLength(text: string): number | null {
  const seconds = parseClock(text);
  return seconds !== null && seconds >= 1 ? seconds : null;
}

/** "2:31 of 5:00"; where what was kept by hand is longer than the target, "2:52, 2:12 over 0:40". */
export function lengthWords(seconds: number, targetSeconds: number): string {
  const over = Math.round(seconds) - Math.round(targetSeconds);
  return over > 0
    ? `${formatClock(seconds)}, ${formatClock(over)} over ${formatClock(targetSeconds)}`
    : `${formatClock(seconds)} of ${formatClock(targetSeconds)}`;
}

/** What is kept, in a plain sentence; the target; and the button that makes a reel. */
export function MomentsBar({
  moments: chosen,
  seconds,
  drops,
  targetSeconds,
  suggested,
  saveState,
  making,
  arrangement,
  onTarget,
  onArrangement,
  onMake,
}: MomentsBarProps) {
  const moments = chosen ?? [];
  const kept = moments.filter((moment) => moment.kept === 'hand').length;
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, setRefused] = useState(false);
  const commit = () => {
    const length = typed === null ? null : parseLength(typed);
    if (length !== null) onTarget(length);
    setRefused(typed !== null && length === null);
    setTyped(null);
  };
  return (
    <div className="flex w-[250px] shrink-0 flex-col pb-3">
      <div className="flex items-baseline justify-between gap-2">
        <strong className="whitespace-nowrap font-semibold" data-testid="count">
          {chosen ? `${counted(moments.length, 'moment')}, ${lengthWords(seconds, targetSeconds)}` : 'Choosing…'}
        </strong>
        <SaveMark state={saveState} />
      </div>
      <span className="text-muted">
        {kept} kept by hand, {drops} dropped by hand
      </span>
      <label className="mt-1 flex items-center gap-2 text-muted">
        Target
        <input
          aria-label="Target length"
          className={`${inputLook} tabular !h-6 w-16 text-right`}
          value={typed ?? formatClock(targetSeconds)}
          onFocus={() => {
            setRefused(false);
            setTyped(formatClock(targetSeconds));
          }}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
        {refused && (
          <span role="alert" className="text-xs text-shake">
            Type a length like 3:00.
          </span>
        )}
        {!refused && Math.abs(targetSeconds - suggested) > 1 && (
          <button type="button" className="text-xs underline hover:text-text" onClick={() => onTarget(suggested)}>
            {formatClock(suggested)} suggested
          </button>
        )}
      </label>
      <div className="mt-auto flex gap-2">
        <select
          aria-label="Order of the reel"
          title={arrangementHints[arrangement]}
          className={`${inputLook} w-24 shrink-0`}
          value={arrangement}
          onChange={(event) => onArrangement(event.target.value as Arrangement)}
        >
          {arrangements.map((each) => (
            <option key={each} value={each}>
              {arrangementNames[each]}
            </option>
          ))}
        </select>
        <Button
          look="lamp"
          command="makeReel"
          className="min-w-0 flex-1"
          disabled={making || moments.length === 0}
          onClick={onMake}
        >
          <Clapperboard size={15} aria-hidden /> Make reel
        </Button>
      </div>
    </div>
  );
}
