import { Music as MusicIcon } from 'lucide-react';
import { Link, redirect } from 'react-router';
import { readerVersion } from '#core/readings';
import { listMedia } from '#data/media';
import { lastMontage } from '#data/montages';
import { requireProject } from '../server/project.server';
import type { Route } from './+types/music';

/** To the music that was cut to last, else to the first; a page of its own only while there is none. */
export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  const sounds = (await listMedia(project.id, readerVersion)).filter(
    (item) => item.probe?.kind === 'sound' && !item.problem,
  );
  const last = await lastMontage(project.id);
  // A song rather than somebody's voice.
  const first =
    sounds.find((item) => item.id === last) ??
    sounds.find((item) => (item.summary?.speechShare ?? 0) < 0.3) ??
    sounds[0];
  if (first) throw redirect(`/projects/${project.id}/music/${first.id}`);
  return null;
}

export default function Music() {
  return (
    <main className="flex flex-1 flex-col items-center justify-center gap-2 text-center">
      <MusicIcon size={28} className="text-muted" aria-hidden />
      <h1 className="text-base font-semibold">No music yet</h1>
      <p className="max-w-sm text-muted">
        Bring in a piece of music on the Footage screen. Its beats are found by themselves, and pieces of footage are
        laid on them.
      </p>
      <Link to="../footage" relative="path" className="mt-2 text-lamp underline">
        To the footage
      </Link>
    </main>
  );
}
