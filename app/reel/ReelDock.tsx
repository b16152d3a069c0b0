import { counted } from '#core/sentences';
import { ExternalLink, X } from 'lucide-react';
import { Link } from 'react-router';
import { formatClock } from '#core/time';
import { IconButton, inputLook } from '../ui/controls';
import { ReelStrips } from './ReelStrips';
import type { ReelDesk } from './useReelDesk';

interface ReelDockProps {
  desk: ReelDesk;
  projectId: string;
  reels: { id: string; name: string; role: string | null }[];
  focused: boolean;
  /** Does an edit and notes that it was done. */
  onFocus(): void;
  onOpen(id: string | null): void;
}

/** The open reel below the page. A bright edge and a word say when keys go to it. */
export function ReelDock({ desk, projectId, reels, focused, onFocus, onOpen }: ReelDockProps) {
  const { reel } = desk;
  if (!reel) return null;
  return (
    <section
      aria-label={`Open reel: ${reel.document.name}`}
      data-focused={focused}
      className={`flex min-h-[172px] shrink-0 flex-col border-l-2 border-t ${focused ? 'border-l-lampline border-t-line bg-panel' : 'border-l-transparent border-t-line'}`}
      onPointerDownCapture={onFocus}
    >
      <div className="flex min-h-9 shrink-0 items-center gap-2 px-4">
        <select
          aria-label="Open reel"
          className={`${inputLook} !h-7 max-w-56 font-semibold`}
          value={reel.id}
          onChange={(event) => onOpen(event.target.value)}
        >
          {!reels.some((each) => each.id === reel.id) && <option value={reel.id}>{reel.document.name}</option>}
          {reels.map((each) => (
            <option key={each.id} value={each.id}>
              {each.id === reel.id ? reel.document.name : each.name}
            </option>
          ))}
        </select>
        <span className="tabular text-muted">
          {formatClock(desk.total, true)} · {counted(desk.segments.length, 'piece')}
        </span>
        <KeysHere here={focused} />
        <span className="ml-auto flex items-center">
          <Link
            to={`/projects/${projectId}/reels/${reel.id}`}
            aria-label="Open this reel on its own screen"
            title="Open on its own screen"
            className="inline-flex h-7 w-7 items-center justify-center rounded-md hover:bg-line/60"
          >
            <ExternalLink size={15} />
          </Link>
          <IconButton label="Close the reel" onClick={() => onOpen(null)}>
            <X size={15} />
          </IconButton>
        </span>
      </div>
      {desk.live.problem && (
        <p role="alert" className="mx-4 mb-1 rounded-md bg-raised px-3 py-1 text-shake">
          {desk.live.problem}
        </p>
      )}
      {desk.segments.length === 0 && !reel.document.moved?.length ? (
        <p className="px-4 pt-1 text-muted">Nothing in it yet. Mark a range, or stand on a moment, and press Enter.</p>
      ) : (
        <ReelStrips desk={desk} compact />
      )}
    </section>
  );
}

/** Says which of two places receives the keys. */
export const KeysHere = ({ here }: { here: boolean }) => (
  <span className={`rounded px-1.5 text-xs leading-5 ${here ? 'bg-lamp font-semibold text-onlamp' : 'text-muted'}`}>
    {here ? 'keys go here' : 'press ` to work here'}
  </span>
);
