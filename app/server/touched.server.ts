import { noteChanged, projectOfItem } from '#usecases/projects';
import { windowHeader } from '../ui/windowName';

/** Addresses of a project at which something is asked or told that changes nothing of it. */
const quiet = /^\/projects\/[0-9a-f-]{36}\/(here|tasks|spoken|more-pieces|framings)(\/|\.data|$)/;

/** The project that a request has changed, by its address and by how it was answered; null for none. */
export function changedProject({ method, url }: Pick<Request, 'method' | 'url'>, status: number): string | null {
  if (method === 'GET' || method === 'HEAD' || status >= 400) return null;
  const { pathname } = new URL(url);
  return quiet.test(pathname) ? null : (/^\/projects\/([0-9a-f-]{36})(\/|\.data|$)/.exec(pathname)?.[1] ?? null);
}

/** The item whose words or frames a request has changed; null for none. */
export function changedItem({ method, url }: Pick<Request, 'method' | 'url'>, status: number): string | null {
  if (method === 'GET' || method === 'HEAD' || status >= 400) return null;
  return /^\/media\/([0-9a-f-]{36})\/(words|framing)$/.exec(new URL(url).pathname)?.[1] ?? null;
}

/** Notes when a project was last changed, and tells whoever looks at it. That it could not be noted is no reason to answer otherwise. */
export async function noteChange(request: Request, answer: Response): Promise<Response> {
  const item = changedItem(request, answer.status);
  const project = item ? await projectOfItem(item).catch(() => null) : changedProject(request, answer.status);
  if (project) await noteChanged(project, windowOf(request)).catch(() => undefined);
  return answer;
}

/** How windows call themselves. */
const nameForm = /^[\w-]{1,64}$/;
function windowOf({ headers }: Request): string | null {
  const name = headers.get(windowHeader) ?? '';
  return nameForm.test(name) ? name : null;
}
