import { Scissors } from 'lucide-react';
import { Link, useSubmit } from 'react-router';
import { counted, formatMoment } from '#core/sentences';
import type { Shape } from '#core/reel';
import { Poster } from '../drawing/Poster';
import type { Item } from '#usecases/projects';
import { DeleteButton } from '../ui/DeleteButton';

interface SetLine {
  id: string;
  mediaId: string;
  shorts: number;
  minSeconds: number;
  maxSeconds: number;
  shape: Shape;
  titles: string[];
  at: string;
}

/** What was looked for before, newest first. */
export function ShortSets({
  sets,
  items,
  projectId,
}: {
  sets: readonly SetLine[];
  items: readonly Item[];
  projectId: string;
}) {
  const submit = useSubmit();
  if (sets.length === 0) {
    return (
      <div className="flex h-full flex-col items-center justify-center gap-2 text-center">
        <Scissors size={28} className="text-muted" aria-hidden />
        <p className="font-semibold">No shorts yet</p>
        <p className="max-w-sm text-muted">
          Choose a long recording and press “Find shorts”. They are there in seconds, play without a render, and
          everything about them can be changed.
        </p>
      </div>
    );
  }
  return (
    <>
      <h2 className="mb-3 text-sm font-semibold">Found earlier</h2>
      <ul className="space-y-2">
        {sets.map((set) => {
          const item = items.find((each) => each.id === set.mediaId);
          return (
            <li key={set.id} className="group relative">
              <Link
                to={`/projects/${projectId}/shorts/${set.id}`}
                className="flex gap-3 rounded-md border border-line bg-raised p-2.5 hover:border-muted"
              >
                <Poster
                  media={set.mediaId}
                  sheets={item?.sheets ?? null}
                  kind={item?.probe?.kind ?? null}
                  seconds={(item?.probe?.durationSeconds ?? 0) * 0.3}
                />
                <span className="min-w-0">
                  <span className="block font-semibold">
                    {counted(set.shorts, 'short')} from “
                    {item?.name.replace(/\.\w+$/, '') ?? 'a recording that is gone'}”
                  </span>
                  <span className="block truncate text-muted">{set.titles.join(' · ')}</span>
                  <span className="tabular block text-xs text-muted">
                    {set.minSeconds} to {set.maxSeconds} s · {set.shape} ·{' '}
                    <time dateTime={set.at} suppressHydrationWarning>
                      {formatMoment(set.at)}
                    </time>
                  </span>
                </span>
              </Link>
              <span className="absolute bottom-2 right-2 opacity-0 focus-within:opacity-100 group-hover:opacity-100">
                <DeleteButton
                  label="Delete these shorts"
                  question="Delete these shorts?"
                  says="Their reels stay among the reels."
                  onDelete={() =>
                    void submit(
                      { intent: 'delete' },
                      { method: 'post', action: `/projects/${projectId}/shorts/${set.id}` },
                    )
                  }
                />
              </span>
            </li>
          );
        })}
      </ul>
    </>
  );
}
