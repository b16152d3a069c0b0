import { Film, Plus } from 'lucide-react';
import { Form, Link, redirect, useNavigation } from 'react-router';
import { showHome, startProject } from '#usecases/projects';
import { failed } from '../server/answer.server';
import { Button, Field, inputLook } from '../ui/controls';
import { OpenArchive } from '../ui/OpenArchive';
import type { Route } from './+types/home';

export const loader = showHome;

export async function action({ request }: Route.ActionArgs) {
  const project = await startProject(await request.formData());
  return project.ok ? redirect(`/projects/${project.value.id}/footage`) : failed(project);
}

export default function Home({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle';
  return (
    <main className="mx-auto max-w-3xl px-6 py-16">
      <h1 className="text-lg font-semibold">Bright Reel</h1>
      <p className="mt-1 max-w-xl text-base text-muted">
        Bring in raw footage. It is read for faces, speech, motion and shake; the best moments light up, and you decide
        what stays.
      </p>
      <Form method="post" className="mt-8 flex items-start gap-2">
        <Field label="New project" error={actionData?.problems.name}>
          <input name="name" className={`${inputLook} w-80`} placeholder="What is it about?" maxLength={120} />
        </Field>
        <Button type="submit" look="lamp" disabled={busy} className="mt-[21px] !h-8">
          <Plus size={15} aria-hidden /> Create
        </Button>
      </Form>
      <div className="mt-3">
        <OpenArchive />
      </div>
      <h2 className="mt-8 text-xs text-muted">Projects</h2>
      <ul className="mt-2 divide-y divide-line border-y border-line">
        {loaderData.projects.map((project) => (
          <li key={project.id}>
            <Link to={`/projects/${project.id}`} className="flex items-center gap-3 px-1 py-3 hover:bg-raised">
              <Film size={16} className="text-muted" aria-hidden />
              <span className="text-base font-medium">{project.name}</span>
              <span className="ml-auto text-muted">
                {project.items} {project.items === 1 ? 'item' : 'items'}
              </span>
            </Link>
          </li>
        ))}
        {loaderData.projects.length === 0 && (
          <li className="py-4 text-muted">No projects yet. Name one above to begin.</li>
        )}
      </ul>
    </main>
  );
}
