import { useFetcher, useParams } from 'react-router';
import type { Beginning } from '#usecases/beginnings';
import type { Item } from '#usecases/projects';
import { Button } from '../ui/controls';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import { beginWords } from './words';

/** Once everything is read: what was made from a first look can be made again, or kept. */
export function FirstLookBar({ beginning, items }: { beginning: Beginning; items: readonly Item[] }) {
  const fetcher = useFetcher<{ problem: string | null } & GoingAnswer>();
  useGoTo(fetcher);
  const { projectId } = useParams();
  const { aim, made, isFirstLook } = beginning;
  const isRead = items.every(({ isRough, state, probe, problem }) => !isRough && !state && (probe || problem));
  if (!aim || !made || !isFirstLook || !isRead) return null;
  const send = (intent: string) =>
    void fetcher.submit({ intent, aim }, { method: 'post', action: `/projects/${projectId}/begin` });
  return (
    <div className="flex shrink-0 items-center gap-3 border-b border-line bg-raised px-4 py-1.5" role="status">
      <span>{fetcher.data?.problem ?? beginWords.isRead}</span>
      <Button className="!h-7" disabled={fetcher.state !== 'idle'} onClick={() => send('again')}>
        {fetcher.state === 'idle' ? beginWords.makeAgain[aim] : beginWords.made[aim]}
      </Button>
      <Button look="quiet" className="!h-7" disabled={fetcher.state !== 'idle'} onClick={() => send('keep')}>
        {beginWords.keep}
      </Button>
    </div>
  );
}
