import { Link } from 'react-router';
import { formatSize } from '#core/sentences';
import { formatNames } from '#core/reel';
import { formatClock } from '#core/time';
import type { OutputLine } from '#usecases/renders';
import { PostForm } from './PostForm';

interface OutputPreviewProps {
  /** Null while nothing is ready. */
  preview: OutputLine | null;
  postsAddress: string;
}

/** A finished file to look at, and where it came from. */
export function OutputPreview({ preview, postsAddress }: OutputPreviewProps) {
  const isUpright = preview !== null && preview.height > preview.width;
  return (
    <aside className="w-[400px] shrink-0 overflow-y-auto border-l border-line bg-panel">
      <div className={`bg-black ${isUpright ? 'h-[400px]' : 'aspect-video'}`}>
        {preview && <Look preview={preview} />}
      </div>
      {preview ? (
        <div className="p-4">
          <h2 className="text-base font-semibold">{preview.name}</h2>
          <p className="text-muted">
            {formatNames[preview.format]} · {formatClock(preview.seconds)} ·{' '}
            {preview.size ? formatSize(preview.size) : ''}
          </p>
          <Link
            to={`../reels/${preview.reelId}`}
            relative="path"
            className="mt-3 inline-block text-muted underline hover:text-text"
          >
            Open the reel it came from
          </Link>
          {(preview.format === 'mp4' || preview.format === 'webm') && (
            <div>
              <PostForm key={preview.id} file={preview} address={postsAddress} />
            </div>
          )}
        </div>
      ) : (
        <p className="p-4 text-muted">The preview shows here as soon as a render is ready.</p>
      )}
    </aside>
  );
}

function Look({ preview }: { preview: OutputLine }) {
  const address = `/outputs/${preview.id}`;
  const says = `Preview of ${preview.name}`;
  if (preview.format === 'gif' || preview.format === 'png')
    return <img key={preview.id} src={address} alt={says} className="h-full w-full object-contain" />;
  return (
    <video key={preview.id} src={address} controls preload="metadata" className="h-full w-full" aria-label={says} />
  );
}
