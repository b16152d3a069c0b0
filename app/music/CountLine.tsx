import { useMemo } from 'react';
import { Hand, Play, TriangleAlert, X } from 'lucide-react';
import { decimal } from '#core/sentences';
import { enoughTaps, tempoWithin, type Doubt, type MusicHearing } from '#core/sound';
import { formatClock, type Range } from '#core/time';
import { Button, IconButton, Key } from '../ui/controls';
import { countsOf, type Count, type Counts } from './useCounts';
import type { MontageDesk } from './useMontage';

/** So many doubtful parts are shown at once; each of them goes once it is settled. */
const mostShown = 3;

/** How sure the beats are, in words; over the whole of the music. */
export function sureness({ doubts, durationSeconds }: Pick<MusicHearing, 'doubts' | 'durationSeconds'>): string {
  const doubted = doubts.reduce((sum, { start, end }) => sum + end - start, 0);
  if (doubted === 0) return 'the beats are clear throughout';
  return doubted > durationSeconds / 2
    ? 'the beats are a guess'
    : `the beats are clear but for ${formatClock(doubted)}`;
}

/** Where the beats may be wrong, and how else each part can be counted: heard with clicks, taken with one key. */
export function CountLine({ desk, counts }: { desk: MontageDesk; counts: Counts }) {
  const { doubts } = desk;
  const { heard, tapped } = counts;
  const isDoubt = (part: Range) => doubts.some(({ start, end }) => start === part.start && end === part.end);
  const rows: { part: Range; doubt: Doubt | null }[] = doubts
    .slice(0, mostShown)
    .map((doubt) => ({ part: doubt, doubt }));
  if (heard && !isDoubt(heard.part)) rows.push({ part: heard.part, doubt: null });
  if (rows.length === 0 && !tapped) return null;
  return (
    <div
      role="status"
      data-testid={doubts.length ? 'doubts' : 'counts'}
      className="mx-4 mb-2 rounded-md bg-raised px-3 py-1.5 text-sm"
    >
      {rows.map((row) => (
        <PartRow key={`${row.part.start} ${row.part.end}`} {...row} desk={desk} counts={counts} />
      ))}
      {tapped && <TapRow tapped={tapped} desk={desk} counts={counts} />}
      {doubts.length > mostShown && (
        <p className="text-xs text-muted">
          {doubts.length - mostShown} more further on; they come up as these are settled.
        </p>
      )}
    </div>
  );
}

interface RowProps {
  desk: MontageDesk;
  counts: Counts;
}

function PartRow({ part, doubt, desk, counts }: RowProps & { part: Range; doubt: Doubt | null }) {
  const { heard } = counts;
  const { hearing } = desk;
  const { grid } = desk.montage;
  const ways = useMemo(() => countsOf(part, grid, hearing), [part, grid, hearing]);
  const isHeard = heard !== null && heard.part.start === part.start && heard.part.end === part.end;
  return (
    <div className="py-0.5">
      <p className="flex items-center gap-2">
        {doubt && <TriangleAlert size={14} className="shrink-0 text-shake" aria-hidden />}
        <span>
          {doubt ? 'The beats may be wrong from ' : 'Counted from '}
          <button type="button" className="tabular underline" onClick={() => desk.seek(part.start)}>
            {formatClock(part.start)}
          </button>{' '}
          to <span className="tabular">{formatClock(part.end)}</span>
          {doubt &&
            (doubt.tempo === null
              ? ': hardly anything sounds on them there.'
              : `: it sounds like ${decimal(doubt.tempo, 0)} bpm there.`)}
        </span>
        {!isHeard && doubt && (
          <span className="ml-auto text-xs text-muted">
            or play it and tap four beats <Key command="tapBeat" />
          </span>
        )}
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-1.5" role="group" aria-label="Ways to count it">
        {ways.map((count) => (
          <HearButton
            key={count.isOwn ? 'own' : count.tempo}
            count={count}
            pressed={isHeard && heard.count.isOwn === count.isOwn && heard.count.tempo === count.tempo}
            onHear={() => counts.hear(part, count)}
          />
        ))}
        {isHeard ? (
          <span className="ml-auto flex items-center gap-1.5">
            <Button className="!h-7 !px-2" command="takeCount" onClick={() => counts.take(false)}>
              {heard.count.isOwn ? 'It is right here' : 'Count this part so'}
            </Button>
            <Button className="!h-7 !px-2" command="takeCountAll" onClick={() => counts.take(true)}>
              {heard.count.isOwn ? 'Right throughout' : 'The whole song'}
            </Button>
            <IconButton label="Leave it as it is" onClick={counts.putAway}>
              <X size={14} />
            </IconButton>
          </span>
        ) : (
          <span className="text-xs text-muted">
            <Key command="hearCount" />
          </span>
        )}
      </div>
    </div>
  );
}

function HearButton({ count, pressed, onHear }: { count: Count; pressed: boolean; onHear(): void }) {
  const { tempo, isOwn } = count;
  const words = `${tempo > 0 ? `${decimal(tempo, 1)} bpm` : 'no beats'}${isOwn ? ', as now' : ''}`;
  return (
    <button
      type="button"
      aria-pressed={pressed}
      aria-label={`Hear ${words}, with clicks`}
      title="Hear it with a click on every beat"
      onClick={onHear}
      className={`tabular inline-flex h-7 items-center gap-1.5 rounded-md border px-2 ${pressed ? 'border-text bg-line' : 'border-line hover:bg-line/60'}`}
    >
      <Play size={12} aria-hidden /> {words}
    </button>
  );
}

function TapRow({ tapped, desk, counts }: RowProps & { tapped: NonNullable<Counts['tapped']> }) {
  const { taps, part } = tapped;
  const missing = enoughTaps - taps.length;
  return (
    <div className="flex items-center gap-2 py-0.5">
      <Hand size={14} className="shrink-0 text-muted" aria-hidden />
      {missing > 0 ? (
        <span>
          Beat {taps.length} of {enoughTaps} tapped: {missing} more in a row.
        </span>
      ) : (
        <span>
          Counted by your taps from <span className="tabular">{formatClock(part.start)}</span> to{' '}
          <span className="tabular">{formatClock(part.end)}</span>:{' '}
          <span className="tabular">{decimal(tempoWithin(desk.montage.grid, part), 1)} bpm</span>, the first begins a
          bar.
        </span>
      )}
      <span className="ml-auto flex items-center gap-1.5">
        {missing <= 0 && (
          <Button className="!h-7 !px-2" command="takeCountAll" onClick={() => counts.take(true)}>
            The whole song
          </Button>
        )}
        <IconButton label="Dismiss this line" onClick={counts.putAway}>
          <X size={14} />
        </IconButton>
      </span>
    </div>
  );
}
