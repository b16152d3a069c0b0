import { Link2 } from 'lucide-react';
import { useFetcher } from 'react-router';
import { formatSize } from '#core/sentences';
import { formatClock } from '#core/time';
import type { SplitRecording } from '#usecases/splitRecordings';
import { Button } from '../ui/controls';

/** Recordings that a camera or recorder split into several files, each to be put together. */
export const SplitRows = ({ recordings }: { recordings: readonly SplitRecording[] }) =>
  recordings.map((recording) => <SplitRow key={recording.ids.join()} recording={recording} />);

function SplitRow({ recording }: { recording: SplitRecording }) {
  const { ids, names, durationSeconds, bytes, isJoining } = recording;
  const fetcher = useFetcher<{ problem: string | null }>();
  const send = (intent: 'join' | 'apart') => {
    const form = new FormData();
    form.set('intent', intent);
    for (const id of ids) form.append('ids', id);
    void fetcher.submit(form, { method: 'post' });
  };
  const isBusy = fetcher.state !== 'idle' || isJoining;
  return (
    <section
      aria-label="A recording in parts"
      className="flex items-center gap-3 border-b border-line/60 px-4 py-2 text-muted"
    >
      <Link2 size={15} className="shrink-0" aria-hidden />
      <p className="min-w-0 flex-1" title={names.join('\n')}>
        <span className="text-text">
          “{names[0]}” {ids.length > 2 ? 'to' : 'and'} “{names.at(-1)}”
        </span>{' '}
        are one recording in {ids.length} files, <span className="tabular">{formatClock(durationSeconds)}</span>: names,
        times, picture and sound go on.{' '}
        {isJoining
          ? 'They are being put together.'
          : `One file of them takes ${formatSize(bytes)} more; nothing is coded anew, and the parts can be brought back.`}
        {fetcher.data?.problem && (
          <span role="alert" className="block text-shake">
            {fetcher.data.problem}
          </span>
        )}
      </p>
      <Button className="shrink-0" disabled={isBusy} onClick={() => send('join')}>
        Make one file of them
      </Button>
      <button
        type="button"
        disabled={isBusy}
        className="shrink-0 underline hover:text-text disabled:opacity-50"
        onClick={() => send('apart')}
      >
        They are several
      </button>
    </section>
  );
}
