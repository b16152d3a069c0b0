import { Loader, Music as MusicIcon } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import type { Item } from '#usecases/projects';
import { Button } from '../ui/controls';

/** While the beats are being found, or when there was none to find. */
export function WaitForBeats({ music, problem }: { music: Item; problem: string | null }) {
  const [, setSearch] = useSearchParams();
  return (
    <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
      {problem ? (
        <MusicIcon size={28} className="text-muted" aria-hidden />
      ) : (
        <Loader size={24} className="animate-spin text-muted motion-reduce:animate-none" aria-hidden />
      )}
      <h1 className="text-base font-semibold">
        {problem ? `“${music.name}” could not be heard` : `Finding the beats of “${music.name}”`}
      </h1>
      <p className="max-w-sm text-muted" role="status">
        {problem ?? 'This takes some seconds, once. Everything else goes on meanwhile.'}
      </p>
      {problem && <Button onClick={() => setSearch({ again: '1' })}>Try again</Button>}
      {problem && (
        <Link to="../footage" relative="path" className="mt-1 text-muted underline">
          To the footage
        </Link>
      )}
    </main>
  );
}
