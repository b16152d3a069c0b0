import { FolderOpen, Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState, type DragEvent } from 'react';
import { Form, redirect, useNavigation } from 'react-router';
import { changeProjects, showHome, startProject } from '#usecases/projects';
import type { Aim } from '#usecases/beginnings';
import { droppedFiles } from '../footage/dropped';
import { HelpLink } from '../handbook/HelpLink';
import { ShadeMenu } from '../ui/ShadeMenu';
import { Doors } from '../home/Doors';
import { ProjectList } from '../home/ProjectList';
import { useBegin } from '../home/useBegin';
import { homeWords } from '../home/words';
import { failed, succeeded } from '../server/answer.server';
import { Button, Field, inputLook } from '../ui/controls';
import { FileButton } from '../ui/FileButton';
import { OpenArchive } from '../ui/OpenArchive';
import type { Route } from './+types/home';

export const loader = showHome;

/** Begins an empty project, or changes one of those that are there. */
export async function action({ request }: Route.ActionArgs) {
  const form = await request.formData();
  if (form.has('intent')) {
    const changed = await changeProjects(form);
    return changed.ok ? succeeded() : failed(changed);
  }
  const project = await startProject(form);
  return project.ok ? redirect(`/projects/${project.value.id}/footage`) : failed(project);
}

const plain = (files: readonly File[]) => files.map((file) => ({ file, path: file.webkitRelativePath || file.name }));

export default function Home({ loaderData, actionData }: Route.ComponentProps) {
  const { begin, busy } = useBegin();
  const [over, setOver] = useState<{ aim: Aim | null } | null>(null);
  const aimUnder = (event: DragEvent) =>
    ((event.target as HTMLElement).closest<HTMLElement>('[data-door]')?.dataset.door as Aim | undefined) ?? null;
  return (
    <div
      className="min-h-screen"
      onDragOver={(event) => {
        event.preventDefault();
        const aim = aimUnder(event);
        if (over?.aim !== aim || !over) setOver({ aim });
      }}
      onDragLeave={(event) => !event.currentTarget.contains(event.relatedTarget as Node | null) && setOver(null)}
      onDrop={(event) => {
        event.preventDefault();
        const aim = aimUnder(event);
        setOver(null);
        void droppedFiles(event.dataTransfer).then((found) => begin(found, aim));
      }}
    >
      <header className="flex h-11 items-center border-b border-line px-4">
        <span className="text-base font-semibold">Bright Reel</span>
        <div className="ml-auto flex items-center gap-2">
          <EmptyProject problem={actionData?.problems.name} />
          <OpenArchive />
          <ShadeMenu />
          <HelpLink />
        </div>
      </header>
      <main className="mx-auto max-w-5xl px-6 pb-16 pt-8">
        <h1 className="mb-4 text-lg font-semibold">{homeWords.question}</h1>
        <Doors over={over?.aim ?? null} disabled={busy} onFiles={(aim, files) => begin(plain(files), aim)} />
        <p
          className={`mt-4 flex items-center justify-between gap-4 rounded-md border border-dashed px-4 py-3 ${over && over.aim === null ? 'border-lampline bg-raised text-text' : 'border-line text-muted'}`}
        >
          <span role="status">{over ? homeWords.dropHere(over.aim) : homeWords.drop}</span>
          <FileButton folder label={homeWords.chooseFolder} onFiles={(files) => begin(plain(files), null)}>
            <FolderOpen size={15} aria-hidden /> {homeWords.chooseFolder}
          </FileButton>
        </p>
        <ProjectList projects={loaderData.projects} />
      </main>
    </div>
  );
}

/** A project that is named first and filled later. */
function EmptyProject({ problem }: { problem?: string | undefined }) {
  const busy = useNavigation().state !== 'idle';
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>
          <Plus size={15} aria-hidden /> {homeWords.empty}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 w-80 rounded-md border border-line bg-raised p-3 shadow-xl"
        >
          <Form method="post" className="space-y-3">
            <Field label={homeWords.emptyName} {...(problem ? { error: problem } : {})}>
              <input name="name" className={`${inputLook} w-full`} maxLength={120} autoComplete="off" />
            </Field>
            <Button type="submit" look="lamp" disabled={busy}>
              {homeWords.create}
            </Button>
          </Form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
