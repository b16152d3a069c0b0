import { ArrowLeft } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { ConnectionLine } from './AwayLine';

interface AsidePlaceProps {
  /** The way back to the projects, in words. */
  back: string;
  title: string;
  /** At the right of the title. */
  figure: string;
  children: ReactNode;
}

/** A place beside the projects: the way back to them, since when the server is away, a title with its figure, and what it shows. */
export function AsidePlace({ back, title, figure, children }: AsidePlaceProps) {
  return (
    <main className="mx-auto max-w-3xl px-6 pb-16 pt-6">
      <div className="flex min-h-8 items-center">
        <Link to="/" className="flex items-center gap-1.5 whitespace-nowrap text-muted hover:text-text">
          <ArrowLeft size={15} aria-hidden /> {back}
        </Link>
        <ConnectionLine />
      </div>
      <div className="mt-4 flex items-baseline justify-between">
        <h1 className="text-lg font-semibold">{title}</h1>
        <p className="tabular text-muted">{figure}</p>
      </div>
      {children}
    </main>
  );
}
