import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { Button, Key } from '../ui/controls';
import { useKept } from '../ui/useKept';
import { hintParts, hintPlace, hints, hintsKept, hintWords as words } from './hintWords';

/** What one would not find by looking, at the first visit of a place; once read it does not come again. */
export function Hints() {
  const place = hintPlace(useLocation().pathname);
  const [read, setRead] = useKept(hintsKept);
  // What was read is known in the browser only.
  const [isKnown, setKnown] = useState(false);
  useEffect(() => setKnown(true), []);
  const all = read.split(',');
  if (!isKnown || !place || all.includes('*') || all.includes(place)) return null;
  return (
    <aside
      aria-label={words.here}
      className="flex shrink-0 items-start gap-4 border-b border-line bg-raised px-4 py-2 text-xs leading-5"
    >
      <ul className="grid min-w-0 flex-1 gap-x-6 lg:grid-flow-col lg:auto-cols-fr">
        {hints[place]!.map((hint) => (
          <li key={hint} className="border-l-2 border-line pl-2.5">
            {hintParts(hint).map((part, index) =>
              typeof part === 'string' ? part : <Key key={index} command={part.command} />,
            )}
          </li>
        ))}
      </ul>
      <Button className="!h-7" onClick={() => setRead([...all.filter(Boolean), place].join())}>
        {words.gotIt}
      </Button>
      <Button look="quiet" className="!h-7 !px-1" onClick={() => setRead('*')}>
        {words.noMore}
      </Button>
    </aside>
  );
}
