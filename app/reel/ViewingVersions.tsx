import { RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { formatMoment } from '#core/sentences';
import type { ViewingLine } from '#usecases/viewings';
import { Button, IconButton, inputLook } from '../ui/controls';
import type { ReelDesk } from './useReelDesk';
import type { ReelViewing } from './useViewing';
import { viewingWords as words } from './viewingWords';

interface VersionsProps {
  desk: ReelDesk;
  viewing: ViewingLine;
  isBusy: boolean;
  send: ReelViewing['send'];
}

/** The states that were shown, and the button that shows the one of now. */
export function Versions({ desk, viewing, isBusy, send }: VersionsProps) {
  const [note, setNote] = useState('');
  const { versions } = viewing;
  const last = versions.at(-1);
  const isAsNow = last?.revision === desk.reel?.head && desk.live.state === 'saved';
  return (
    <section aria-label="Versions">
      <ul>
        {versions.map((version) => (
          <li key={version.id} className="py-1">
            <div className="flex items-center gap-2 whitespace-nowrap">
              <span className="font-semibold">{words.version(version.number)}</span>
              {version.isAsNow && <span className="text-muted">{words.asNow}</span>}
              <time className="ml-auto text-xs text-muted" dateTime={version.at} suppressHydrationWarning>
                {formatMoment(version.at)}
              </time>
              {(version.state === 'failed' || version.state === 'gone') && (
                <IconButton label={words.makeAgain} onClick={() => send({ intent: 'again', id: version.id })}>
                  <RotateCcw size={14} />
                </IconButton>
              )}
            </div>
            {version.state !== 'ready' && (
              <p role="status" className={version.state === 'making' ? 'text-muted' : 'text-shake'}>
                {version.state === 'making'
                  ? words.making(version.progress, version.secondsLeft)
                  : words[version.state]}
              </p>
            )}
            {version.note && <p className="text-muted">{version.note}</p>}
            {version.approvals.length > 0 && (
              <p className="text-speech">{words.approvedBy(version.approvals.map(({ name }) => name))}</p>
            )}
          </li>
        ))}
      </ul>
      {viewing.isOpen && !isAsNow && (
        <form
          className="mt-2 space-y-2"
          onSubmit={(event) => {
            event.preventDefault();
            send({ intent: 'show', text: note });
            setNote('');
          }}
        >
          <input
            aria-label={words.note}
            placeholder={words.notePlaceholder}
            maxLength={200}
            value={note}
            onChange={(event) => setNote(event.target.value)}
            className={`${inputLook} w-full`}
          />
          <Button type="submit" look="lamp" className="w-full" disabled={isBusy}>
            {words.show((last?.number ?? 0) + 1)}
          </Button>
        </form>
      )}
    </section>
  );
}
