import { Activity, AudioLines, FolderOpen, HardDrive, Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useRef } from 'react';
import { Form, Link, redirect, useNavigation } from 'react-router';
import { changeProjects } from '#usecases/inThreads';
import { showHome, startProject } from '#usecases/projects';
import type { Aim } from '#usecases/beginnings';
import { useFilesLanding } from '../hands/useFilesLanding';
import { HelpLink } from '../handbook/HelpLink';
import { ConnectionLine } from '../ui/AwayLine';
import { ShadeMenu } from '../ui/ShadeMenu';
import { Doors } from '../home/Doors';
import { ProjectList } from '../home/ProjectList';
import { useBegin } from '../home/useBegin';
import { homeWords } from '../home/words';
import { failed, formOf, succeeded } from '../server/answer.server';
import { asksPassword } from '../server/guard.server';
import { LeaveButton } from '../enter/LeaveButton';
import { Button, Field, inputLook } from '../ui/controls';
import { FileButton } from '../ui/FileButton';
import { OpenArchive } from '../ui/OpenArchive';
import type { Route } from './+types/home';

export const loader = async () => ({ ...(await showHome()), mayLeave: asksPassword() });

/** Begins an empty project, or changes one of those that are there. */
export async function action({ request }: Route.ActionArgs) {
  const form = await formOf(request);
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
  const room = useRef<HTMLDivElement>(null);
  const over = useFilesLanding<Aim | ''>(
    room,
    (files, aim) => begin(files, aim || null),
    (under) => (under?.closest<HTMLElement>('[data-door]')?.dataset.door as Aim | undefined) ?? '',
  );
  return (
    <div ref={room} className="min-h-screen">
      <header className="flex h-11 items-center border-b border-line px-4">
        <span className="text-base font-semibold whitespace-nowrap">Bright Reel</span>
        <ConnectionLine />
        <div className="ml-auto flex items-center gap-2">
          <EmptyProject problem={actionData?.problems.name} />
          <OpenArchive />
          <Link to="/storage" className="flex items-center gap-1.5 px-2 text-muted hover:text-text">
            <HardDrive size={15} aria-hidden /> {homeWords.storage}
          </Link>
          <Link to="/speech-models" className="flex items-center gap-1.5 px-2 text-muted hover:text-text">
            <AudioLines size={15} aria-hidden /> {homeWords.speechModels}
          </Link>
          <Link to="/work" className="flex items-center gap-1.5 px-2 text-muted hover:text-text">
            <Activity size={15} aria-hidden /> {homeWords.work}
          </Link>
          <ShadeMenu />
          <HelpLink />
          {loaderData.mayLeave && <LeaveButton />}
        </div>
      </header>
      <main className="mx-auto max-w-5xl px-6 pb-16 pt-8">
        <h1 className="mb-4 text-lg font-semibold">{homeWords.question}</h1>
        <Doors over={over || null} disabled={busy} onFiles={(aim, files) => begin(plain(files), aim)} />
        <p
          className={`mt-4 flex items-center justify-between gap-4 rounded-md border border-dashed px-4 py-3 ${over === '' ? 'border-lampline bg-raised text-text' : 'border-line text-muted'}`}
        >
          <span role="status">{over === null ? homeWords.drop : homeWords.dropHere(over || null)}</span>
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
          aria-label="Empty project"
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
