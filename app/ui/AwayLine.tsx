import { Unplug } from 'lucide-react';
import { useEffect, useReducer } from 'react';
import { counted, formatTimeOfDay } from '#core/sentences';
import { countWaiting } from '../history/saveQueue';
import { useOutage, type Outage } from './connection';

const kept = (waiting: number): string =>
  waiting === 0
    ? 'What you change is kept here and sent when it is back.'
    : waiting === 1
      ? 'One change waits here and is sent when it is back.'
      : `${counted(waiting, 'change')} wait here and are sent when it is back.`;

/** Since when the server is away and how much waits for it. */
export function AwayLine({ outage }: { outage: Outage }) {
  const [, look] = useReducer((times: number) => times + 1, 0);
  useEffect(() => {
    const timer = setInterval(look, 1000);
    return () => clearInterval(timer);
  }, []);
  return (
    <span className="flex min-w-0 items-center gap-2 text-left text-shake">
      <Unplug size={15} className="shrink-0" aria-hidden />
      <span>
        <span role="alert">The server does not answer</span>, since {formatTimeOfDay(outage.since)}.{' '}
        {kept(countWaiting())}
      </span>
    </span>
  );
}

/** The same where nothing else is said of the work: on screens outside a project. */
export function ConnectionLine() {
  const outage = useOutage();
  if (!outage) return null;
  return (
    <div className="ml-4 min-w-0 text-sm">
      {outage.why === 'locked' ? <LockedLine /> : <AwayLine outage={outage} />}
    </div>
  );
}

/** The session is over while a screen is open; what is on it stays. */
export function LockedLine() {
  return (
    <p role="alert" className="ml-4 self-center text-sm text-shake">
      The password is needed again.{' '}
      <a className="underline" href="/enter" target="_blank" rel="noreferrer">
        Give it in another tab
      </a>
      . What you change is kept here until then.
    </p>
  );
}
