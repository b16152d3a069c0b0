import { BellRing, Check, Hourglass, Loader, TriangleAlert, X } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { useFetcher } from 'react-router';
import { formatClock } from '#core/time';
import { counted } from '#core/sentences';
import { AwayLine, LockedLine } from './AwayLine';
import { tellChangedElsewhere } from './changesElsewhere';
import { useOutage } from './connection';
import { IconButton } from './controls';
import { useTellWhenDone } from './useTellWhenDone';
import type { TaskLine } from '#usecases/tasks';
import { useProjectEvents, useTasks } from './useTasks';
import { useReload } from './useReload';

const isActive = (task: Pick<TaskLine, 'state'>) => task.state === 'queued' || task.state === 'running';
/** Over in a second or two. */
const isBrief = ({ kind }: Pick<TaskLine, 'kind'>) => kind === 'glance' || kind === 'chain';
const words = {
  frame: 'Framing',
  post: 'Posting',
  fetch: 'Bringing in',
  glance: 'First look at',
  chain: 'Comparing',
  join: 'Putting together',
  music: 'Making music:',
  hear: 'Finding the beats of',
  match: 'Matching the sound of',
  read: 'Reading',
  render: 'Rendering',
  words: 'Transcribing',
  align: 'Aligning the text of',
  voices: 'Telling the speakers apart in',
  sync: 'Synchronising',
};
const stateWords: Record<string, string> = {
  queued: 'waiting',
  running: '',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** Seconds until all active tasks are over; null before that can be told. First looks are over in seconds. */
export function timeLeftOf(tasks: readonly TaskLine[]): number | null {
  const ends = tasks.filter((task) => isActive(task) && !isBrief(task)).map((task) => task.endsIn);
  const known = ends.filter((seconds): seconds is number => seconds !== null);
  return known.length && known.length === ends.length ? Math.max(...known) : null;
}

/** The work at the right of the top bar, and the list of tasks it opens. */
export function RunningWork({
  projectId,
  name,
  isEmpty,
  initial,
}: {
  projectId: string;
  name: string;
  /** There is no footage yet. */
  isEmpty: boolean;
  initial: TaskLine[];
}) {
  const outage = useOutage();
  const sender = useFetcher();
  const reload = useReload();
  // Gone at once; the next answer of the server has them no more.
  const [putAway, setPutAway] = useState<ReadonlySet<string>>(new Set());
  const tasks = (useTasks(projectId) ?? initial).filter(({ id }) => !putAway.has(id));
  const end = (wish: { cancel: string } | { putAway: string }) => {
    if ('putAway' in wish) setPutAway(new Set([...putAway, wish.putAway]));
    void sender.submit(wish, { method: 'post', action: `/projects/${projectId}/tasks` });
  };
  const running = tasks.filter(isActive);
  const failed = tasks.filter((task) => task.state === 'failed');
  // Something new to show: a task began or ended, or said that a part of it is there.
  const states = tasks.map((task) => `${task.id} ${task.state} ${task.sentence ?? ''}`).join();
  const seen = useRef(states);
  useProjectEvents(projectId, running.length || outage ? 1000 : 5000, () => {
    tellChangedElsewhere();
    void reload();
  });
  useEffect(() => {
    if (states !== seen.current) void reload();
    seen.current = states;
  }, [states, reload]);
  const atWork = running.filter((task) => task.state === 'running');
  const first = atWork.find((task) => task.progress > 0 && !isBrief(task)) ?? atWork[0] ?? running[0];
  const left = timeLeftOf(tasks);
  const share = running.length ? running.reduce((sum, task) => sum + task.progress, 0) / running.length : 1;
  const batch = tasks.filter((task) => task.kind === first?.kind);
  const askToTell = useTellWhenDone(name, tasks, running.length ? share : null, left);
  return (
    <>
      {askToTell && (
        <IconButton label="Tell me when it is done" className="ml-2 self-center text-muted" onClick={askToTell}>
          <BellRing size={15} />
        </IconButton>
      )}
      {outage?.why === 'locked' && <LockedLine />}
      <Popover.Root>
        <Popover.Trigger
          className="ml-4 flex min-w-4 items-center gap-2 max-[960px]:ml-2 text-sm text-muted hover:text-text"
          title="Running work"
        >
          {outage?.why === 'away' ? (
            <AwayLine outage={outage} />
          ) : first?.state === 'queued' ? (
            <>
              <Hourglass size={15} aria-hidden />
              <span role="status" className="max-w-md truncate">
                “{first.title}” {first.waits ?? 'waits for its turn'}
              </span>
            </>
          ) : first ? (
            <>
              <Loader size={15} className="animate-spin" aria-hidden />
              <span role="status">
                {words[first.kind]}{' '}
                {batch.filter(isActive).length <= 1
                  ? first.title
                  : first.kind === 'glance'
                    ? counted(batch.length, 'file')
                    : `${batch.length - batch.filter(isActive).length + 1} of ${batch.length}`}
              </span>
              <span className="h-1 w-20 overflow-hidden rounded bg-line">
                <span className="block h-full bg-text/70" style={{ width: `${share * 100}%` }} />
              </span>
              <span className="tabular">
                {left !== null
                  ? `${formatClock(left)} left`
                  : first.secondsLeft !== null
                    ? `${formatClock(first.secondsLeft)} left for this one`
                    : 'working out time'}
              </span>
            </>
          ) : failed.length ? (
            <>
              <TriangleAlert size={15} aria-hidden /> {counted(failed.length, 'task')} failed
            </>
          ) : (
            <>
              <Check size={15} aria-hidden />{' '}
              <span className="whitespace-nowrap max-[760px]:sr-only">{isEmpty ? 'Nothing to read' : 'All read'}</span>
            </>
          )}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            aria-label="Running work"
            align="end"
            sideOffset={6}
            className="z-50 max-h-[70vh] w-96 overflow-auto rounded-md border border-line bg-raised p-2 shadow-xl"
          >
            {tasks.length === 0 && (
              <p className="p-2 text-muted">Nothing is running. Bring in footage and its reading shows here.</p>
            )}
            {[...running, ...tasks.filter((task) => !isActive(task)).reverse()].map((task) => (
              <div key={task.id} className="flex items-center gap-3 rounded px-2 py-1.5">
                <div className="min-w-0 flex-1">
                  <div className="flex justify-between gap-2">
                    <span className="truncate">
                      {words[task.kind]} {task.title}
                    </span>
                    <span className="tabular shrink-0 text-xs text-muted">
                      {task.state === 'running' ? `${Math.round(task.progress * 100)} %` : stateWords[task.state]}
                    </span>
                  </div>
                  {task.state === 'running' && (
                    <div className="mt-1 h-1 overflow-hidden rounded bg-line">
                      <div className="h-full bg-text/70" style={{ width: `${task.progress * 100}%` }} />
                    </div>
                  )}
                  {task.waits && <p className="text-xs text-muted">{task.waits}</p>}
                  {task.sentence && task.state !== 'cancelled' && (
                    <p className={`text-xs ${task.state === 'failed' ? 'text-shake' : 'text-muted'}`}>
                      {task.sentence}
                    </p>
                  )}
                </div>
                <EndButton task={task} onEnd={end} />
              </div>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </>
  );
}

/** Cancels a task that is on its way; takes the line of one that is over away. */
function EndButton({ task, onEnd }: { task: TaskLine; onEnd(wish: { cancel: string } | { putAway: string }): void }) {
  const active = isActive(task);
  return (
    <button
      type="button"
      aria-label={active ? `Cancel ${task.title}` : `Put “${task.title}” away`}
      title={active ? 'Cancel' : 'Dismiss this line'}
      className="rounded p-1 text-muted hover:bg-line hover:text-text"
      onClick={() => onEnd(active ? { cancel: task.id } : { putAway: task.id })}
    >
      <X size={15} />
    </button>
  );
}
