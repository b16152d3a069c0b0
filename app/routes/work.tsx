import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { formatClock } from '#core/time';
import { showWork, type WorkData } from '#usecases/work';
import { modelOf } from '../server/answer.server';
import { AsidePlace } from '../ui/AsidePlace';
import { repeatedly } from '../ui/repeatedly';
import { useReload } from '../ui/useReload';
import { workWords } from '../atWork/words';
import type { Route } from './+types/work';

export const loader = async () => modelOf(await showWork());
export const meta = () => [{ title: `${workWords.title} · Bright Reel` }];

const lookMilliseconds = 2000;

/** Who works, what waits and what failed, over all projects; for whoever runs an installation. */
export default function Work({ loaderData }: Route.ComponentProps) {
  const { workers, waiting, failed, nobodyTakes } = loaderData;
  const reload = useReload();
  useEffect(() => repeatedly(reload, lookMilliseconds), [reload]);
  return (
    <AsidePlace back={workWords.back} title={workWords.title} figure={workWords.workers(workers.length)}>
      {workers.length === 0 && (
        <p role="alert" className="mt-2 rounded-md bg-raised px-3 py-2 text-shake">
          {workWords.nobody}
        </p>
      )}
      {workers.length > 0 && nobodyTakes.length > 0 && (
        <p role="alert" className="mt-2 rounded-md bg-raised px-3 py-2 text-shake">
          {workWords.nobodyTakes(nobodyTakes)}
        </p>
      )}
      <ul className="mt-2 divide-y divide-line">
        {workers.map((worker) => (
          <WorkerRow key={worker.id} worker={worker} />
        ))}
      </ul>

      <h2 className="mt-8 text-base font-semibold">{workWords.waiting}</h2>
      {waiting.length === 0 && <p className="mt-2 text-muted">{workWords.nothingWaits}</p>}
      {waiting.length > 0 && (
        <table className="mt-2 w-full text-left">
          <thead className="text-xs text-muted">
            <tr>
              <th className="py-1 font-normal">{workWords.project}</th>
              <th className="py-1 font-normal">{workWords.kindTitle}</th>
              <th className="py-1 text-right font-normal">{workWords.count}</th>
              <th className="py-1 text-right font-normal">{workWords.longest}</th>
            </tr>
          </thead>
          <tbody className="divide-y divide-line">
            {waiting.map(({ project, projectId, kind, count, sinceSeconds }) => (
              <tr key={`${projectId} ${kind}`}>
                <td className="py-1.5">
                  <ProjectLink name={project} id={projectId} />
                </td>
                <td className="py-1.5">{workWords.kind(kind)}</td>
                <td className="tabular py-1.5 text-right">{count}</td>
                <td className="tabular py-1.5 text-right text-muted">{formatClock(sinceSeconds)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}

      <h2 className="mt-8 text-base font-semibold">{workWords.failed}</h2>
      {failed.length === 0 && <p className="mt-2 text-muted">{workWords.nothingFailed}</p>}
      <ul className="mt-2 divide-y divide-line">
        {failed.map(({ id, kind, title, sentence, project, projectId }) => (
          <li key={id} className="py-2">
            <p className="flex justify-between gap-4">
              <span className="truncate">
                {title} <span className="text-muted">· {workWords.kind(kind)}</span>
              </span>
              <ProjectLink name={project} id={projectId} />
            </p>
            <p className="text-xs text-shake">{sentence}</p>
          </li>
        ))}
      </ul>
    </AsidePlace>
  );
}

function ProjectLink({ name, id }: { name: string | null; id: string | null }) {
  if (id === null) return <span className="text-muted">{workWords.noProject}</span>;
  return (
    <Link to={`/projects/${id}/footage`} className="truncate hover:underline">
      {name}
    </Link>
  );
}

function WorkerRow({ worker }: { worker: WorkData['workers'][number] }) {
  const { host, pid, slots, draining, startedAt, tasks, helps } = worker;
  // Which time it is here the server does not know.
  const [since, setSince] = useState('');
  useEffect(() => setSince(workWords.since(new Date(startedAt))), [startedAt]);
  return (
    <li className="py-3">
      <p className="flex items-baseline justify-between gap-4">
        <span>{workWords.process(host, pid)}</span>
        <span className="text-muted" title={workWords.takesTitle}>
          {draining ? workWords.draining : workWords.takes(slots)}
        </span>
      </p>
      <p className="text-xs text-muted">
        {since}
        {tasks.length + helps.length === 0 && `${since && ' · '}${workWords.idle}`}
      </p>
      {helps.map(({ id, title }) => (
        <p key={id} className="mt-2 truncate">
          {title} <span className="text-muted">· {workWords.helps}</span>
        </p>
      ))}
      {tasks.map((task) => (
        <div key={task.id} className="mt-2">
          <p className="flex justify-between gap-4">
            <span className="truncate">
              {task.title} <span className="text-muted">· {workWords.kind(task.kind)}</span>
            </span>
            <span className="tabular shrink-0 text-muted">
              {Math.round(task.progress * 100)} %{task.secondsLeft !== null && ` · ${formatClock(task.secondsLeft)}`}
            </span>
          </p>
          <div className="mt-1 h-1 overflow-hidden rounded bg-line">
            <div className="h-full bg-text/70" style={{ width: `${task.progress * 100}%` }} />
          </div>
        </div>
      ))}
    </li>
  );
}
