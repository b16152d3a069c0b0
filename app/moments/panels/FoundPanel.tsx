import { counted } from '#core/sentences';
import type { Hit } from '#core/ask';
import { formatClock } from '#core/time';
import { Button } from '../../ui/controls';
import { LongList } from '../../ui/LongList';
import type { AskAnswer } from '../../workers/protocol';

interface FoundPanelProps {
  found: AskAnswer | null;
  current: Hit | null;
  only: boolean;
  nameOf(media: string): string;
  onGo(hit: Hit): void;
  onOnly(): void;
  onTake(): void;
}

/** What a request found, best first, each with what in it answers. */
export function FoundPanel({ found, current, only, nameOf, onGo, onOnly, onTake }: FoundPanelProps) {
  if (!found?.text.trim())
    return (
      <p className="text-muted">
        Ask in the field above the page, for instance: <q>boats close up</q>, <q>two faces, talking, not shaky</q>,{' '}
        <q>cheering after 1:20</q>, <q>zoom in or whip pan</q>. What is found stands here, best first.
      </p>
    );
  const { hits, request } = found;
  if (!request.tree)
    return (
      <p className="text-muted">
        Nothing of this was understood. Ask for people, things, camera moves, motion, sound, size, spoken words or
        times.
      </p>
    );
  return (
    <div className="flex min-h-full flex-col">
      <h2 className="mb-1 text-base font-semibold" data-testid="found-count">
        {hits.length === 0
          ? 'Nothing found'
          : `${counted(hits.length, 'stretch', 'stretches')}, ${formatClock(hits.reduce((sum, hit) => sum + hit.end - hit.start, 0))}`}
      </h2>
      {hits.length === 0 && (
        <p className="text-muted">No stretch answers all of it. Take a word away, or join words with “or”.</p>
      )}
      <LongList
        label="Found stretches"
        items={hits}
        keyOf={(hit) => `${hit.media}${hit.start}`}
        height={46}
        current={current ? hits.indexOf(current) : -1}
      >
        {(hit) => (
          <div className="pb-0.5">
            <button
              type="button"
              aria-current={hit === current}
              className={`block w-full rounded-md px-2 py-1 text-left hover:bg-raised ${hit === current ? 'bg-raised' : ''}`}
              onClick={() => onGo(hit)}
            >
              <span className="flex items-baseline gap-2">
                <span className="tabular">
                  {formatClock(hit.start, true)} – {formatClock(hit.end, true)}
                </span>
                <span className="min-w-0 truncate text-xs text-muted">{nameOf(hit.media)}</span>
                <span className="tabular ml-auto text-muted" title="How well it answers, of 100">
                  {Math.round(hit.fit)}
                </span>
              </span>
              <span className="block text-xs text-muted">{hit.reasons.join(' · ')}</span>
            </button>
          </div>
        )}
      </LongList>
      <div className="sticky -bottom-3 mt-auto flex gap-2 bg-panel pb-3 pt-2">
        <Button onClick={onOnly} aria-pressed={only} disabled={hits.length === 0}>
          {only ? 'Show everything' : 'Only these on the page'}
        </Button>
        <Button onClick={onTake} disabled={hits.length === 0}>
          All to the reel
        </Button>
      </div>
    </div>
  );
}
