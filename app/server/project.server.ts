import { data } from 'react-router';
import { findProject, type Project } from '#data/projects';

/** The project of the address, or a 404 that says so. */
export async function requireProject(id: string): Promise<Project> {
  const project = await findProject(id);
  if (!project) throw data('This project does not exist, or it was deleted.', { status: 404 });
  return project;
}
