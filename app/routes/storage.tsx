import { useEffect } from 'react';
import { Link, useFetcher } from 'react-router';
import { toast } from 'sonner';
import { formatSize } from '#core/sentences';
import { freeRoom, showStorage, type FreeableKind } from '#usecases/room';
import { failed, formOf, modelOf, succeeded } from '../server/answer.server';
import { RoomBar } from '../storage/RoomBar';
import { storageWords } from '../storage/words';
import { AsidePlace } from '../ui/AsidePlace';
import { DeleteButton } from '../ui/DeleteButton';
import type { Route } from './+types/storage';

export const loader = async () => modelOf(await showStorage());

/** Frees what can be freed, by its `kind`. */
export async function action({ request }: Route.ActionArgs) {
  const freed = await freeRoom(await formOf(request));
  return freed.ok ? succeeded({ freed: freed.value }) : failed(freed, { freed: null });
}

export const meta = () => [{ title: `${storageWords.title} · Bright Reel` }];

/** What takes how much room on the disk, and what of it can be freed. */
export default function Storage({ loaderData }: Route.ComponentProps) {
  const { used, freeable, projects, free, reserve, graceDays } = loaderData;
  const fetcher = useFetcher<{ problem: string | null; freed: number | null }>();
  const freed = fetcher.data?.freed;
  useEffect(() => {
    if (typeof freed === 'number') toast(storageWords.freed(freed));
  }, [freed, fetcher.data]);
  const kinds = (Object.keys(freeable) as FreeableKind[]).filter((kind) => freeable[kind].count > 0);
  return (
    <AsidePlace back={storageWords.back} title={storageWords.title} figure={storageWords.free(free)}>
      {free <= reserve && (
        <p role="alert" className="mt-2 rounded-md bg-raised px-3 py-2 text-shake">
          {storageWords.full}
        </p>
      )}
      <div className="mt-3">
        <RoomBar used={used} free={free} />
      </div>
      <p className="mt-3 text-muted">{storageWords.reserve(reserve)}</p>

      <h2 className="mt-8 text-base font-semibold">{storageWords.canBeFreed}</h2>
      {kinds.length === 0 && <p className="mt-2 text-muted">{storageWords.nothing}</p>}
      <ul className="mt-2 divide-y divide-line">
        {kinds.map((kind) => (
          <li key={kind} className="flex items-center gap-4 py-3">
            <div className="flex-1">
              <p>{storageWords.freeable[kind](freeable[kind].count)}</p>
              <p className="text-muted">{storageWords.hint[kind](graceDays.deleted, graceDays.uploads)}</p>
            </div>
            <span className="tabular text-muted">{formatSize(freeable[kind].bytes)}</span>
            <DeleteButton
              label={`${storageWords.freeNow}: ${storageWords.freeable[kind](freeable[kind].count)}`}
              text={storageWords.freeNow}
              question={storageWords.question[kind]}
              says={storageWords.says}
              disabled={fetcher.state !== 'idle'}
              onDelete={() => void fetcher.submit({ kind }, { method: 'post' })}
            />
          </li>
        ))}
      </ul>

      <h2 className="mt-8 text-base font-semibold">{storageWords.byProject}</h2>
      <table className="mt-2 w-full border-collapse">
        <thead className="text-left text-xs text-muted">
          <tr className="border-b border-line [&>th]:py-2 [&>th]:font-normal">
            <th>{storageWords.project}</th>
            <th className="text-right">{storageWords.room}</th>
          </tr>
        </thead>
        <tbody>
          {projects.map((project) => (
            <tr key={project.id} className="border-b border-line">
              <td className="py-2">
                {project.removed ? (
                  <span className="text-muted">
                    {project.name} ({storageWords.deleted})
                  </span>
                ) : (
                  <Link to={`/projects/${project.id}/outputs`} className="hover:underline">
                    {project.name}
                  </Link>
                )}
              </td>
              <td className="tabular py-2 text-right text-muted">{formatSize(project.bytes)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </AsidePlace>
  );
}
