import { Captions, Download, RotateCcw, X } from 'lucide-react';
import { useState } from 'react';
import { useFetcher, useNavigate, useSubmit } from 'react-router';
import { decimal, formatSize, formatTimeLeft } from '#core/sentences';
import type { OutputFormat } from '#core/reel';
import { formatClock } from '#core/time';
import type { OutputLine } from '#usecases/renders';
import type { TaskLine } from '#usecases/tasks';
import { Movable } from '../hands/Movable';
import { ContextMenu, type MenuEntry } from '../ui/ContextMenu';
import { Button } from '../ui/controls';
import { DeleteButton } from '../ui/DeleteButton';

interface OutputRowProps {
  render: OutputLine;
  /** Its task as it stands now; undefined when it ended long ago. */
  live: TaskLine | undefined;
  isShown: boolean;
  onShow(): void;
  /** Where tasks are cancelled. */
  tasksAddress: string;
}

/** A finished file, or one that is being made. */
export function OutputRow({ render, live, isShown, onShow, tasksAddress }: OutputRowProps) {
  const state = render.ready ? 'done' : (live?.state ?? render.task?.state ?? 'failed');
  const actions = useActions(render, tasksAddress);
  const [isAsking, setAsking] = useState(false);
  const entries: readonly MenuEntry[] = [
    { label: 'Look at it', isOff: !render.ready, act: onShow },
    { label: 'Download', isOff: !render.ready, act: () => void window.location.assign(downloadAddress(render)) },
    { label: 'Open its reel', act: actions.openReel },
    'line',
    isActive(state)
      ? { label: 'Cancel', act: actions.cancel }
      : { label: 'Try again', isOff: state === 'done', act: actions.again },
    { label: 'Delete…', isOff: isActive(state), act: () => setAsking(true) },
  ];
  return (
    <ContextMenu label={`What can be done with “${render.name}”`} entriesAt={() => entries}>
      <Movable
        as="tr"
        className={`border-b border-line/60 hover:bg-raised ${isShown ? 'bg-raised' : ''}`}
        data-render={render.id}
        data-state={state}
        kind="output"
        id={render.id}
        isFixed={!render.ready}
        title={render.ready ? 'Drag it to a folder, or into another program' : undefined}
        outside={() => {
          const address = new URL(downloadAddress(render), window.location.href).href;
          return {
            // What browsers that can take a file out of a page ask for: its type, its name, where it is.
            DownloadURL: `${mimeTypes[render.format]}:${render.name}.${render.format}:${address}`,
            'text/uri-list': address,
          };
        }}
      >
        <td className="py-2">
          <button
            type="button"
            className="text-left font-medium hover:underline disabled:no-underline"
            disabled={!render.ready}
            onClick={onShow}
          >
            {render.name}
          </button>
        </td>
        <td className="tabular">{formatClock(render.seconds)}</td>
        <td className="tabular text-muted">
          {render.format === 'wav' ? 'sound' : `${render.width}×${render.height}`}{' '}
          <span className="text-xs uppercase">{render.format}</span>
        </td>
        <td className="tabular text-muted">{render.size ? formatSize(render.size) : ''}</td>
        <td className="tabular text-muted" title="Measured in the file: integrated loudness, true peak">
          {render.lufs === null
            ? ''
            : `${decimal(render.lufs, 1)} LUFS${render.peakDb === null ? '' : `, ${decimal(render.peakDb, 1)} dBTP`}`}
        </td>
        <td className="text-muted">
          <div role="status">
            <State render={render} live={live} state={state} />
          </div>
        </td>
        <td>
          <Actions render={render} state={state} actions={actions} isAsking={isAsking} onAsk={setAsking} />
        </td>
      </Movable>
    </ContextMenu>
  );
}

interface StateProps extends Pick<OutputRowProps, 'render' | 'live'> {
  state: string;
}

function State({ render, live, state }: StateProps) {
  switch (state) {
    case 'running': {
      const progress = live?.progress ?? render.task?.progress ?? 0;
      const left = live?.secondsLeft ?? null;
      return (
        <span className="flex items-center gap-2">
          <span className="h-1 w-24 overflow-hidden rounded bg-line">
            <span className="block h-full bg-text/70" style={{ width: `${progress * 100}%` }} />
          </span>
          {left === null ? `${Math.round(progress * 100)} %` : formatTimeLeft(left)}
        </span>
      );
    }
    case 'queued':
      return live?.waits ?? 'waits for its turn';
    case 'done':
      return 'ready';
    case 'cancelled':
      return 'cancelled';
    default:
      return <span className="text-shake">{live?.sentence ?? render.task?.sentence ?? 'failed'}</span>;
  }
}

const isActive = (state: string) => state === 'running' || state === 'queued';
const downloadAddress = ({ id }: OutputLine) => `/outputs/${id}?download`;
const mimeTypes: Record<OutputFormat, string> = {
  mp4: 'video/mp4',
  webm: 'video/webm',
  gif: 'image/gif',
  wav: 'audio/wav',
  png: 'image/png',
};

/** What can be done with an output, from its row and from its menu. */
function useActions({ id, reelId, task }: OutputLine, tasksAddress: string) {
  const canceller = useFetcher();
  const submit = useSubmit();
  const navigate = useNavigate();
  return {
    cancel: () => void canceller.submit({ cancel: task!.id }, { method: 'post', action: tasksAddress }),
    again: () => void submit({ again: id }, { method: 'post' }),
    remove: () => void submit({ delete: id }, { method: 'post' }),
    openReel: () => void navigate(`../reels/${reelId}`, { relative: 'path' }),
  };
}

interface ActionsProps {
  render: OutputLine;
  state: string;
  actions: ReturnType<typeof useActions>;
  isAsking: boolean;
  onAsk(isAsking: boolean): void;
}

function Actions({ render, state, actions, isAsking, onAsk }: ActionsProps) {
  return (
    <span className="flex justify-end gap-1">
      {render.ready && (
        <a
          href={downloadAddress(render)}
          download
          className="inline-flex h-7 items-center gap-1.5 rounded-md bg-lamp px-2.5 font-semibold text-onlamp"
        >
          <Download size={15} aria-hidden /> Download
        </a>
      )}
      {render.ready && render.captions === 'beside' && (
        <a
          href={`/outputs/${render.id}/captions`}
          download
          title="Captions of this file, as SRT; with what was corrected since"
          className="inline-flex h-7 items-center gap-1.5 rounded-md border border-line px-2.5 hover:bg-line/60"
        >
          <Captions size={15} aria-hidden /> SRT
        </a>
      )}
      {isActive(state) && (
        <Button onClick={actions.cancel}>
          <X size={15} aria-hidden /> Cancel
        </Button>
      )}
      {(state === 'failed' || state === 'cancelled') && (
        <Button onClick={actions.again}>
          <RotateCcw size={15} aria-hidden /> Try again
        </Button>
      )}
      {!isActive(state) && (
        <DeleteButton
          label="Delete this output"
          question={`Delete the output “${render.name}”?`}
          says={`The file is deleted.${render.isUnderLink ? ' Others see it under a link: there it is missing then, with its comments kept, until it is made again.' : ''} The reel stays, and can be rendered again.`}
          onDelete={actions.remove}
          isOpen={isAsking}
          onOpen={onAsk}
        />
      )}
    </span>
  );
}
