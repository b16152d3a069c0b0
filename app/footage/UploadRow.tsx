import { formatSize } from '#core/sentences';
import { Upload } from 'lucide-react';
import type { UploadLine } from './uploadQueue';

/** A file on its way in. */
export function UploadRow({ upload, onCancel }: { upload: UploadLine; onCancel(): void }) {
  const { name, size, sent, state, problem } = upload;
  return (
    <div className="flex items-center gap-3 border-b border-line/60 px-4 py-2" role="status">
      <Upload size={15} className="text-muted" aria-hidden />
      <span className="w-64 truncate">{name}</span>
      {state !== 'stopped' && (
        <span className="h-1 w-48 overflow-hidden rounded bg-line">
          <span className="block h-full bg-text/70" style={{ width: `${size ? (sent / size) * 100 : 0}%` }} />
        </span>
      )}
      <span className="text-muted">
        {problem ? (
          <span className="text-shake">{problem}</span>
        ) : state === 'waiting' ? (
          `waits, ${formatSize(size)}`
        ) : (
          `${formatSize(sent)} of ${formatSize(size)}`
        )}
      </span>
      <button type="button" className="ml-auto text-muted underline hover:text-text" onClick={onCancel}>
        {problem ? 'Dismiss' : 'Cancel'}
      </button>
    </div>
  );
}
