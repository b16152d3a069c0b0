import { CircleHelp } from 'lucide-react';
import { useLocation } from 'react-router';
import { helpFor } from './helpFor';

/** Leads to what the handbook says of the place that is open, in a window of its own, so that nothing is left. */
export function HelpLink() {
  const { pathname } = useLocation();
  return (
    <a
      href={helpFor(pathname)}
      target="_blank"
      rel="noreferrer"
      aria-label="Help for this place"
      title="Help for this place"
      className="flex items-center px-2 text-muted hover:text-text"
    >
      <CircleHelp size={15} aria-hidden />
    </a>
  );
}
