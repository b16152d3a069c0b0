import { touchProject } from '#usecases/projects';

/** Addresses of a project at which something is asked or told that changes nothing of it. */
const quiet = /^\/projects\/[0-9a-f-]{36}\/(here|tasks|spoken|more-pieces|framings)(\/|\.data|$)/;

/** The project that a request has changed, by its address and by how it was answered; null for none. */
export function changedProject({ method, url }: Pick<Request, 'method' | 'url'>, status: number): string | null {
  if (method === 'GET' || method === 'HEAD' || status >= 400) return null;
  const { pathname } = new URL(url);
  return quiet.test(pathname) ? null : (/^\/projects\/([0-9a-f-]{36})(\/|\.data|$)/.exec(pathname)?.[1] ?? null);
}

/** Notes when a project was last changed. That it could not be noted is no reason to answer otherwise. */
export async function noteChange(request: Request, answer: Response): Promise<Response> {
  const project = changedProject(request, answer.status);
  if (project) await touchProject(project).catch(() => undefined);
  return answer;
}
