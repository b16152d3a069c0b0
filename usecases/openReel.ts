import { openReel, type OpenReel } from '#data/reels';
import { openProject } from './openProject';
import { done, missing, type Result } from './result';

export type { OpenReel };

/** A reel of a project as it stands now. */
export async function openReelOf(projectId: string, reelId: string): Promise<Result<OpenReel>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const reel = await openReel(reelId);
  return reel?.projectId === projectId ? done(reel) : missing('This reel does not exist, or it was deleted.');
}
