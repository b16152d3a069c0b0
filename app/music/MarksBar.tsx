import { counted } from '#core/sentences';
import { Button } from '../ui/controls';
import type { MusicPlace } from './useMusicPlace';

/** Seconds; a first mark that comes later leaves something before it that would not be cut. */
const laterThanStart = 0.15;

/** What can be done with the marks that were tapped; nothing while there are none. */
export function MarksBar({ place: { montage, marks, actions } }: { place: MusicPlace }) {
  const { length } = montage.marks;
  if (length === 0) return null;
  const lacksStart = montage.marks[0]! > montage.span.start + laterThanStart;
  const noBeats = montage.grid.beats.length === 0;
  const small = '!h-7 !px-2';
  return (
    <div
      className="mx-4 mb-2 flex flex-wrap items-center gap-2 rounded-md bg-raised px-3 py-1.5 text-sm"
      role="group"
      aria-label="Marks"
    >
      <span data-testid="marks">{counted(length, 'mark')}</span>
      {lacksStart && (
        <Button className={small} onClick={marks.atStart}>
          One at the very start
        </Button>
      )}
      <Button className={small} disabled={noBeats} onClick={() => marks.ontoBeats(false)}>
        Onto beats
      </Button>
      <Button className={small} disabled={noBeats} onClick={() => marks.ontoBeats(true)}>
        Onto half beats
      </Button>
      <Button className={small} onClick={actions.cutOnMarks}>
        Cut on the marks
      </Button>
      <Button className={small} onClick={marks.clear}>
        Clear all
      </Button>
      {marks.late !== null && (
        <Button look="quiet" className={small} onClick={marks.takeOffsetOff}>
          You tap {Math.round(Math.abs(marks.late) * 1000)} ms {marks.late > 0 ? 'late' : 'early'}: take that off
        </Button>
      )}
    </div>
  );
}
