import { data } from 'react-router';
import type { SourceInfo } from '#core/formats';
import { readerVersion } from '#core/readings';
import type { Source } from '#core/reel';
import { listMedia } from '#data/media';
import { openReel } from '#data/reels';
import { requireProject } from './project.server';

/** The reel of a project; 404 for any other. */
export async function requireReel(projectId: string, reelId: string) {
  const project = await requireProject(projectId);
  const reel = await openReel(reelId);
  if (!reel || reel.projectId !== project.id)
    throw data('This reel does not exist, or it was deleted.', { status: 404 });
  return reel;
}

/** What edits must know of the project's footage. */
export async function sourcesOf(projectId: string): Promise<Map<string, Source>> {
  const items = (await listMedia(projectId, readerVersion)).filter((item) => item.probe);
  return new Map(
    items.map((item) => [
      item.id,
      {
        id: item.id,
        name: item.name,
        durationSeconds: item.probe!.durationSeconds,
        photo: item.probe!.kind === 'photo',
        soundOnly: item.probe!.kind === 'sound',
      },
    ]),
  );
}

/** What documents say about the project's footage. */
export async function documentSources(projectId: string): Promise<SourceInfo[]> {
  const items = (await listMedia(projectId, readerVersion)).filter((item) => item.probe);
  return items.map((item) => ({
    id: item.id,
    name: item.name,
    hash: item.hash,
    durationSeconds: item.probe!.durationSeconds,
    photo: item.probe!.kind === 'photo',
    soundOnly: item.probe!.kind === 'sound',
  }));
}
