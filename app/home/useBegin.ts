import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { projectNameOf } from '#core/formats';
import type { Aim } from '#usecases/beginnings';
import { gather } from '../footage/dropped';
import { uploadsOf } from '../footage/uploadQueue';
import { homeWords } from './words';

/** Begins a project with files: it is named by what is in them, they are on their way at once, and it leads to what is made. */
export function useBegin() {
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const begin = async (found: readonly { file: File; path: string }[], aim: Aim | null) => {
    const { files } = gather(found, null);
    if (busy || found.length === 0) return;
    if (files.length === 0) return void toast.error(homeWords.nothingTaken);
    setBusy(true);
    const taken = new Set(files.map(({ file }) => file));
    const name = projectNameOf(
      found.flatMap(({ file, path }) => (taken.has(file) ? [{ path, lastModified: file.lastModified }] : [])),
      Date.now(),
    );
    const answer = await fetch('/projects', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name, aim, withFiles: true }),
    }).then(
      (got) => got.json() as Promise<{ id?: string; problem: string | null }>,
      () => null,
    );
    setBusy(false);
    if (!answer?.id) return void toast.error(answer?.problem ?? homeWords.away);
    uploadsOf(answer.id).add(files);
    await navigate(`/projects/${answer.id}/begin`);
  };
  return { begin: (...given: Parameters<typeof begin>) => void begin(...given), busy };
}
