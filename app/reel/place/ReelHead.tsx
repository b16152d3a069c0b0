import { ArrowLeft, Redo2, Undo2, UnfoldHorizontal } from 'lucide-react';
import { Link } from 'react-router';
import { formatClock } from '#core/time';
import { IconButton, inputLook } from '../../ui/controls';
import { FormatMenu } from '../FormatMenu';
import { KeysHere } from '../ReelDock';
import { RenderMenu } from '../render/RenderMenu';
import { TakeAway } from '../TakeAway';
import { SnapMenu } from './SnapMenu';
import type { ReelPlace } from './useReelPlace';

/** Name, length and format of the reel; how edits behave; what can be done with the whole of it. */
export function ReelHead({ place }: { place: ReelPlace }) {
  const { projectId, reel, lower, two, which, data } = place;
  const address = `/projects/${projectId}/reels/${reel.id}`;
  return (
    <div className="flex min-h-12 shrink-0 flex-wrap items-center gap-x-3 px-4">
      <Link to={`/projects/${projectId}/reels`} className="text-muted hover:text-text" aria-label="All reels">
        <ArrowLeft size={16} />
      </Link>
      <h1 className="sr-only">{reel.document.name}</h1>
      <NameAndExtent place={place} />
      {two && <KeysHere here={which === 'lower'} />}
      <span className="flex items-center gap-1">
        {!two && <ChooseAbove place={place} />}
        <Modes place={place} />
      </span>
      <TakeAway address={address} reel={(lower.live.reel ?? reel).document} />
      <RenderMenu desk={lower} address={address} pace={data.pace} />
    </div>
  );
}

function NameAndExtent({ place: { projectId, reel, lower, data } }: { place: ReelPlace }) {
  const { name } = reel.document;
  return (
    <div className="min-w-0 flex-1">
      <ReelName key={name} name={name} onRename={(next) => lower.live.edit({ type: 'rename', name: next })} />
      <div className="flex items-center gap-1 truncate text-xs leading-4" data-testid="extent">
        <span className="tabular whitespace-nowrap text-muted">{formatClock(lower.total, true)}</span> ·{' '}
        <FormatMenu projectId={projectId} desk={lower} />
        {data.slots && (
          <>
            {' '}
            ·{' '}
            <Link
              className="underline hover:text-text"
              to={`/projects/${projectId}/music/${data.slots}`}
              title="This reel follows the slots of its montage; change them there"
            >
              its slots
            </Link>
          </>
        )}
      </div>
    </div>
  );
}

function ReelName({ name, onRename }: { name: string; onRename(name: string): void }) {
  return (
    <input
      aria-label="Name of the reel"
      defaultValue={name}
      maxLength={120}
      className="block w-full max-w-96 rounded bg-transparent text-base font-semibold leading-5 hover:bg-raised focus:bg-raised"
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      onBlur={(event) => event.target.value.trim() && event.target.value !== name && onRename(event.target.value)}
    />
  );
}

function ChooseAbove({ place: { data, reel, putAbove } }: { place: ReelPlace }) {
  const others = data.reels.filter((each) => each.id !== reel.id);
  if (others.length === 0) return null;
  return (
    <select
      aria-label="Another reel above"
      className={`${inputLook} !h-[30px] max-w-32`}
      value=""
      onChange={(event) => putAbove(event.target.value)}
    >
      <option value="" disabled>
        Reel above…
      </option>
      {others.map((each) => (
        <option key={each.id} value={each.id}>
          {each.name}
        </option>
      ))}
    </select>
  );
}

function Modes({ place: { modes, history } }: { place: ReelPlace }) {
  const { snaps, snapping, setSnapping, setSnap, inPlace, setInPlace } = modes;
  return (
    <>
      <SnapMenu snaps={snaps} on={snapping} onToggle={setSnapping} onSet={setSnap} />
      <IconButton
        label={inPlace ? 'Ripple off: trims leave everything in place' : 'Ripple on: trims move what follows'}
        command="inPlace"
        aria-pressed={inPlace}
        className={inPlace ? 'bg-line' : ''}
        onClick={() => setInPlace(!inPlace)}
      >
        <UnfoldHorizontal size={16} />
      </IconButton>
      <IconButton label="Undo" command="undo" disabled={!history.canUndo} onClick={history.undo}>
        <Undo2 size={16} />
      </IconButton>
      <IconButton label="Redo" command="redo" disabled={!history.canRedo} onClick={history.redo}>
        <Redo2 size={16} />
      </IconButton>
    </>
  );
}
