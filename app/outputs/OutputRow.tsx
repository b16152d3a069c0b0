import { Download, RotateCcw, X } from 'lucide-react';
import { Form, useFetcher, useSubmit } from 'react-router';
import { formatClock } from '#core/time';
import type { OutputLine } from '#usecases/renders';
import type { TaskLine } from '#usecases/tasks';
import { Button } from '../ui/controls';
import { DeleteButton } from '../ui/DeleteButton';
import { formatSize, formatTimeLeft } from '../ui/format';

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
  return (
    <tr
      className={`border-b border-line/60 hover:bg-raised ${isShown ? 'bg-raised' : ''}`}
      data-render={render.id}
      data-state={state}
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
          : `${render.lufs.toFixed(1)} LUFS${render.peakDb === null ? '' : `, ${render.peakDb.toFixed(1)} dBTP`}`}
      </td>
      <td className="text-muted">
        <div role="status">
          <State render={render} live={live} state={state} />
        </div>
      </td>
      <td>
        <Actions render={render} state={state} tasksAddress={tasksAddress} />
      </td>
    </tr>
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

function Actions({ render, state, tasksAddress }: { render: OutputLine; state: string; tasksAddress: string }) {
  const cancel = useFetcher();
  const submit = useSubmit();
  const isActive = state === 'running' || state === 'queued';
  return (
    <span className="flex justify-end gap-1">
      {render.ready && (
        <a
          href={`/outputs/${render.id}?download`}
          download
          className="inline-flex h-7 items-center gap-1.5 rounded-md bg-lamp px-2.5 font-semibold text-ground"
        >
          <Download size={15} aria-hidden /> Download
        </a>
      )}
      {isActive && (
        <Button
          onClick={() => void cancel.submit({ cancel: render.task!.id }, { method: 'post', action: tasksAddress })}
        >
          <X size={15} aria-hidden /> Cancel
        </Button>
      )}
      {(state === 'failed' || state === 'cancelled') && (
        <Form method="post">
          <input type="hidden" name="again" value={render.id} />
          <Button type="submit">
            <RotateCcw size={15} aria-hidden /> Try again
          </Button>
        </Form>
      )}
      {!isActive && (
        <DeleteButton
          label="Delete this output"
          question={`Delete the output “${render.name}”?`}
          says={`The file is deleted.${render.isUnderLink ? ' Others see it under a link: there it is missing then, with its comments kept, until it is made again.' : ''} The reel stays, and can be rendered again.`}
          onDelete={() => void submit({ delete: render.id }, { method: 'post' })}
        />
      )}
    </span>
  );
}
