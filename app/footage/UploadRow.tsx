import { Upload } from 'lucide-react';
import { formatSize, formatTimeLeft } from '../ui/format';
import type { UploadLine } from '../ui/useUploads';

/** A file on its way in. */
export function UploadRow({ upload, onCancel }: { upload: UploadLine; onCancel(): void }) {
  return (
    <div className="flex items-center gap-3 border-b border-line/60 px-4 py-2" role="status">
      <Upload size={15} className="text-muted" aria-hidden />
      <span className="w-64 truncate">{upload.name}</span>
      <span className="h-1 w-48 overflow-hidden rounded bg-line">
        <span className="block h-full bg-text/70" style={{ width: `${upload.share * 100}%` }} />
      </span>
      <span className="text-muted">
        {upload.problem ? (
          <span className="text-shake">{upload.problem}</span>
        ) : (
          `${formatSize(upload.share * upload.size)} of ${formatSize(upload.size)}${upload.secondsLeft === null ? '' : `, ${formatTimeLeft(upload.secondsLeft)}`}`
        )}
      </span>
      <button type="button" className="ml-auto text-muted underline hover:text-text" onClick={onCancel}>
        {upload.problem ? 'Dismiss' : 'Cancel'}
      </button>
    </div>
  );
}
