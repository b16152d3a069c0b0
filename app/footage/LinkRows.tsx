import { formatTimeLeft } from '#core/sentences';
import { Link as LinkIcon } from 'lucide-react';
import { useFetcher } from 'react-router';
import { useTasks } from '../ui/useTasks';

/** Footage that is on its way from an address, or did not come; failures of the last day stay until they are tried again. */
export function LinkRows({ projectId }: { projectId: string }) {
  const tasks = useTasks(projectId) ?? [];
  const sender = useFetcher();
  const coming = tasks.filter((task) => task.kind === 'fetch' && task.state !== 'done' && task.state !== 'cancelled');
  // What was tried again, or came after all, is shown once.
  const shown = coming.filter(
    (task, index) =>
      task.state !== 'failed' ||
      !tasks.some(
        (other) =>
          other.kind === 'fetch' &&
          other.subject === task.subject &&
          other.id !== task.id &&
          (other.state !== 'failed' || coming.indexOf(other) > index),
      ),
  );
  return shown.map((task) => {
    const [bin, address] = [task.subject.split(' ')[0]!, task.subject.split(' ').slice(1).join(' ')];
    return (
      <div
        key={task.id}
        className="flex items-center gap-3 border-b border-line/60 px-4 py-2"
        role="status"
        data-link={task.state}
      >
        <LinkIcon size={15} className="text-muted" aria-hidden />
        <span className="w-64 truncate" title={address}>
          {task.title}
        </span>
        {task.state === 'failed' ? (
          <span className="text-shake">{task.sentence}</span>
        ) : (
          <>
            <span className="h-1 w-48 overflow-hidden rounded bg-line">
              <span className="block h-full bg-text/70" style={{ width: `${task.progress * 100}%` }} />
            </span>
            <span className="text-muted">
              {task.state === 'queued'
                ? (task.waits ?? 'waits for its turn')
                : `${Math.round(task.progress * 100)} %${task.secondsLeft === null ? '' : `, ${formatTimeLeft(task.secondsLeft)}`}`}
            </span>
          </>
        )}
        <button
          type="button"
          className="ml-auto text-muted underline hover:text-text"
          onClick={() =>
            void (task.state === 'failed'
              ? sender.submit(
                  {
                    binId: bin.startsWith('-') ? '' : bin,
                    ...(address.startsWith('here:')
                      ? { intent: 'here', paths: address.slice('here:'.length) }
                      : { intent: 'link', address }),
                  },
                  { method: 'post', action: `/projects/${projectId}/footage` },
                )
              : sender.submit({ cancel: task.id }, { method: 'post', action: `/projects/${projectId}/tasks` }))
          }
        >
          {task.state === 'failed' ? 'Try again' : 'Cancel'}
        </button>
      </div>
    );
  });
}
