import { FolderArchive } from 'lucide-react';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { Button } from './controls';

/** Opens a project archive as a new project. */
export function OpenArchive() {
  const field = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const [state, setState] = useState<{ busy: boolean; problem: string | null }>({ busy: false, problem: null });
  const open = async (file: File) => {
    setState({ busy: true, problem: null });
    const answer = await fetch('/archives', {
      method: 'POST',
      headers: { 'Content-Type': 'application/zip' },
      body: file,
    }).then(
      (got) => got.json() as Promise<{ problem: string | null; projectId: string | null; missing: string[] }>,
      () => null,
    );
    if (!answer?.projectId)
      return setState({
        busy: false,
        problem: answer?.problem ?? 'The server did not answer. Try again; nothing was changed.',
      });
    if (answer.missing.length)
      toast(
        `${answer.missing.length === 1 ? `“${answer.missing[0]}” is` : `${answer.missing.length} files are`} not in the archive. Bring ${answer.missing.length === 1 ? 'it' : 'them'} in again, and everything finds ${answer.missing.length === 1 ? 'it' : 'them'} by content.`,
        { duration: 10000 },
      );
    await navigate(`/projects/${answer.projectId}/footage`);
  };
  return (
    <div>
      <Button disabled={state.busy} onClick={() => field.current?.click()}>
        <FolderArchive size={15} aria-hidden /> {state.busy ? 'Opening…' : 'Open an archive…'}
      </Button>
      <input
        ref={field}
        type="file"
        accept=".zip,application/zip"
        aria-label="Project archive"
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) void open(file);
        }}
      />
      {state.problem && (
        <p role="alert" className="mt-1 max-w-xl text-[13px] text-shake">
          {state.problem}
        </p>
      )}
    </div>
  );
}
