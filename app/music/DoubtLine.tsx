import { TriangleAlert } from 'lucide-react';
import type { BeatGrid, Doubt, MusicHearing } from '#core/sound';
import { formatClock } from '#core/time';
import { Button } from '../ui/controls';
import type { MontageDesk } from './useMontage';

/** How sure the beats are, in words; over the whole of the music. */
export function sureness({ doubts, durationSeconds }: Pick<MusicHearing, 'doubts' | 'durationSeconds'>): string {
  const doubted = doubts.reduce((sum, { start, end }) => sum + end - start, 0);
  if (doubted === 0) return 'the beats are clear throughout';
  return doubted > durationSeconds / 2
    ? 'the beats are a guess'
    : `the beats are clear but for ${formatClock(doubted)}`;
}

/** Tempo of a grid within a stretch; null where it has too few beats there. */
function tempoIn(grid: BeatGrid, start: number, end: number): number | null {
  const own = grid.beats.filter((beat) => beat >= start && beat < end);
  return own.length < 4 ? null : (60 * (own.length - 1)) / (own.at(-1)! - own[0]!);
}
/** Tempi this near to one another, or to twice and half of one another, are the same count. */
const sameCount = 0.05;

/** The other way to count the music that has a tempo in a stretch. */
function rivalFor(rivals: MusicHearing['rivals'], { start, end, tempo }: Doubt): BeatGrid | null {
  if (tempo === null) return null;
  const fits = rivals.find(({ grid }) => {
    const own = tempoIn(grid, start, end);
    const octaves = own === null ? NaN : Math.log2(own / tempo);
    return Math.abs(octaves - Math.round(octaves)) < sameCount;
  });
  return fits?.grid ?? null;
}

/** Says where the beats may be wrong, what they could be there, and offers to count so; nothing where all is clear. */
export function DoubtLine({ desk }: { desk: MontageDesk }) {
  const { doubts, hearing, actions, seek } = desk;
  if (doubts.length === 0) return null;
  return (
    <div role="status" data-testid="doubts" className="mx-4 mb-2 rounded-md bg-raised px-3 py-1.5 text-sm">
      {doubts.slice(0, 4).map(({ start, end, tempo }) => {
        const rival = rivalFor(hearing.rivals, { start, end, tempo });
        return (
          <p key={start} className="flex items-center gap-2 py-0.5">
            <TriangleAlert size={14} className="shrink-0 text-shake" aria-hidden />
            <span>
              The beats may be wrong from{' '}
              <button type="button" className="tabular underline" onClick={() => seek(start)}>
                {formatClock(start)}
              </button>{' '}
              to {formatClock(end)}
              {tempo === null
                ? ': hardly anything sounds on them there.'
                : `: it sounds like ${tempo.toFixed(0)} bpm there.`}
            </span>
            {rival && (
              <Button className="ml-auto !h-7 !px-2" onClick={() => actions.setGrid(rival)}>
                Count all of it like that
              </Button>
            )}
          </p>
        );
      })}
      <p className="text-xs text-muted">
        Put cuts there by hand: tap <kbd>T</kbd> while it plays, or set the beats right beside the tempo.
      </p>
    </div>
  );
}
