import { Music as MusicIcon } from 'lucide-react';
import { Link, redirect } from 'react-router';
import { findMusic } from '#usecases/montages';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/music';

/** To the music that was cut to last, else to the first; a page of its own only while there is none. */
export async function loader({ params }: Route.LoaderArgs) {
  const music = modelOf(await findMusic(params.projectId));
  if (music) throw redirect(`/projects/${params.projectId}/music/${music}`);
  return null;
}

export default function Music() {
  return (
    <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
      <MusicIcon size={28} className="text-muted" aria-hidden />
      <h1 className="text-base font-semibold">No music yet</h1>
      <p className="max-w-sm text-muted">
        Bring in a piece of music on the Footage screen. Its beats are found by themselves, and pieces of footage are
        laid on them. Recordings of speech are not offered as music; the reading of each has a link to cut to it all the
        same.
      </p>
      <Link to="../footage" relative="path" className="mt-2 text-lampline underline">
        To the footage
      </Link>
    </main>
  );
}
