import { formatMoment } from '#core/sentences';
import { Copy, GitCompare, History, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { afterSaving } from '../history/saveQueue';
import { useFetcher, useSearchParams } from 'react-router';
import { Button, IconButton, inputLook } from '../ui/controls';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import type { ReelDesk } from './useReelDesk';

interface Version {
  id: string;
  number: number;
  name: string;
  at: string;
}
export interface Step {
  number: number;
  says: string;
  at: string;
}

interface VersionsPanelProps {
  desk: ReelDesk;
  versions: Version[];
  steps: Step[];
  /** Between the version that is shown above and this one. */
  differences: { clip: string | null; says: string }[] | null;
}

/** Named versions of the reel and what was done to it, step by step; each can be looked at, compared and gone back to. */
export function VersionsPanel({ desk, versions, steps, differences }: VersionsPanelProps) {
  const fetcher = useFetcher<{ problem: string | null } & GoingAnswer>();
  useGoTo(fetcher);
  const [name, setName] = useState('');
  const [, setSearch] = useSearchParams();
  const reelId = desk.reel?.id;
  const compare = (number: number) =>
    setSearch((now) => {
      now.set('with', `${reelId}@${number}`);
      return now;
    });
  const submit = (fields: Record<string, string>) =>
    void afterSaving(() => void fetcher.submit(fields, { method: 'post' }));
  const back = (number: number) => desk.live.restore(number);
  const row = (key: string, number: number, text: string, at: string, extra?: React.ReactNode) => (
    <li key={key} className="flex items-center gap-1 py-0.5">
      <span className="min-w-0 flex-1 truncate" title={text}>
        {text}
      </span>
      <time className="tabular whitespace-nowrap text-xs text-muted" dateTime={at}>
        {formatMoment(at)}
      </time>
      <IconButton
        label={`Compare with “${text}”`}
        disabled={number === desk.reel?.head}
        onClick={() => compare(number)}
      >
        <GitCompare size={14} />
      </IconButton>
      <IconButton label={`Go back to “${text}”`} disabled={number === desk.reel?.head} onClick={() => back(number)}>
        <History size={14} />
      </IconButton>
      {extra}
    </li>
  );
  return (
    <div>
      {differences && (
        <section aria-label="Differences" className="mb-3 rounded-md bg-raised p-2.5">
          <h2 className="mb-1 font-semibold">What changed since the version above</h2>
          {differences.length === 0 ? (
            <p className="text-muted">Nothing: they are the same.</p>
          ) : (
            <ul className="max-h-48 overflow-y-auto text-[13px] leading-5">
              {differences.map((each, index) => (
                <li key={index}>
                  {each.clip ? (
                    <button
                      type="button"
                      className="text-left hover:underline"
                      onClick={() => {
                        const at = desk.segments.findIndex((segment) => segment.id === each.clip);
                        if (at >= 0) desk.pick(at);
                      }}
                    >
                      {each.says}
                    </button>
                  ) : (
                    each.says
                  )}
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          submit({ intent: 'nameVersion', name });
          setName('');
        }}
      >
        <input
          aria-label="Name of the version"
          placeholder="first cut, for Tuesday…"
          className={`${inputLook} min-w-0 flex-1`}
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" disabled={!name.trim()}>
          Keep as a version
        </Button>
      </form>
      {fetcher.data?.problem && (
        <p role="alert" className="mt-1 text-[13px] text-shake">
          {fetcher.data.problem}
        </p>
      )}
      <ul className="mt-2">
        {versions.map((version) =>
          row(
            version.id,
            version.number,
            version.name,
            version.at,
            <IconButton
              label={`Delete the name “${version.name}”`}
              onClick={() => submit({ intent: 'forgetVersion', version: version.id })}
            >
              <Trash2 size={14} />
            </IconButton>,
          ),
        )}
      </ul>
      <Button className="mt-2" onClick={() => submit({ intent: 'duplicate' })}>
        <Copy size={14} aria-hidden /> Make a copy of this reel
      </Button>
      <h2 className="mb-1 mt-4 border-t border-line pt-3 font-semibold">Steps</h2>
      <ol>{steps.map((step) => row(String(step.number), step.number, step.says, step.at))}</ol>
    </div>
  );
}
