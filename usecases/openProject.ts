import { findProject, type Project } from '#data/projects';
import { done, missing, type Result } from './result';

export type { Project };

/** The project of an address. */
export async function openProject(id: string): Promise<Result<Project>> {
  const project = await findProject(id);
  return project && !project.removedAt ? done(project) : missing('This project does not exist, or it was deleted.');
}
