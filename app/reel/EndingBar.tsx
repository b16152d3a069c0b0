import { useMemo, useState } from 'react';
import { adviseEnding, mainTrack } from '#core/reel';
import { newId } from '../newId';
import { useReadings } from '../readings/useReadings';
import type { ReelDesk } from './useReelDesk';

/** Says when a reel stops in a sentence or in full motion, and offers an ending. */
export function EndingBar({ desk }: { desk: ReelDesk }) {
  const { document, sources, live } = desk;
  const last = document && mainTrack(document).items.at(-1);
  const media = last?.kind === 'clip' ? last.media : null;
  const readings = useReadings(media ? [media] : []);
  const [left, setLeft] = useState<string | null>(null);
  const advice = useMemo(
    () => (document && readings?.[0]?.id === media ? adviseEnding(document, readings[0], sources, newId()) : null),
    [document, readings, media, sources],
  );
  if (!advice || !last || left === `${last.id} ${last.frames}` || desk.reel?.readOnly) return null;
  return (
    <div
      className="mx-4 mb-3 ml-[72px] flex flex-wrap items-center gap-x-3 gap-y-1 rounded-md bg-raised px-3 py-2"
      role="status"
      data-testid="ending"
    >
      <span>
        {advice.because} Proposed ending: {advice.says}.{' '}
        <button type="button" className="font-semibold text-lampline" onClick={() => live.edit(advice.command)}>
          End it there
        </button>
      </span>
      {advice.others.map((other) => (
        <button
          key={other.says}
          type="button"
          className="text-muted underline hover:text-text"
          onClick={() => live.edit(other.command)}
        >
          {other.says[0]!.toUpperCase()}
          {other.says.slice(1)}
        </button>
      ))}
      <button
        type="button"
        className="ml-auto text-muted hover:text-text"
        onClick={() => setLeft(`${last.id} ${last.frames}`)}
      >
        Leave it
      </button>
    </div>
  );
}
