import type { HouseStyle } from '#core/reel';
import { deleteHouseStyle, listHouseStyles, saveHouseStyle } from '#data/shorts';
import { SaveHouseStyleDto } from './forms/shortsDto';
import { openProject } from './openProject';
import { done, type Result } from './result';
import { check, plain } from './validate';

/** House styles of a project, and those that other projects share. */
export const listStyles = async (projectId: string) =>
  (await listHouseStyles(projectId)).map(({ id, name, shared, projectId: of, document }) => ({
    id,
    name,
    shared,
    own: of === projectId,
    document,
  }));

export async function showHouseStyles(projectId: string) {
  const project = await openProject(projectId);
  return project.ok ? done({ styles: await listStyles(projectId) }) : project;
}

/** Keeps a house style, or forgets it; reels that were dressed in it stay as they are. @returns its id, if it was kept */
export async function changeHouseStyle(projectId: string, given: unknown): Promise<Result<{ id: string | null }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(SaveHouseStyleDto, given);
  if (!checked.ok) return checked;
  const { intent, id, name, shared, document } = checked.value;
  if (intent === 'delete') {
    if (id) await deleteHouseStyle(projectId, id);
    return done({ id: null });
  }
  return done({ id: await saveHouseStyle(projectId, name!, shared ?? false, plain(document) as HouseStyle, id) });
}
