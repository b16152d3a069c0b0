import { formatSize } from '#core/sentences';
import type { StorageData } from '#usecases/room';
import { storageWords } from './words';

const looks = ['bg-text', 'bg-text/70', 'bg-text/50', 'bg-text/35', 'bg-text/20'];

/** How the room is divided: what each kind takes, and what is free. */
export function RoomBar({ used, free }: Pick<StorageData, 'used' | 'free'>) {
  const kinds = Object.entries(used) as [keyof StorageData['used'], number][];
  const all = kinds.reduce((sum, [, bytes]) => sum + bytes, free);
  return (
    <>
      <div className="flex h-3 overflow-hidden rounded-sm bg-raised" aria-hidden>
        {kinds.map(([kind, bytes], index) => (
          <div key={kind} className={looks[index]} style={{ width: `${(bytes / all) * 100}%` }} />
        ))}
      </div>
      <dl className="mt-3 grid max-w-md grid-cols-[auto_1fr_auto] items-center gap-x-3 gap-y-1">
        {kinds.map(([kind, bytes], index) => (
          <div key={kind} className="contents">
            <span className={`h-2.5 w-2.5 rounded-sm ${looks[index]}`} aria-hidden />
            <dt>{storageWords.used[kind]}</dt>
            <dd className="tabular text-right text-muted">{formatSize(bytes)}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}
