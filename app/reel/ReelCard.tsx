import { Copy } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { counted, upTo, formatMoment } from '#core/sentences';
import { formatClock, framesPerSecond, framesToSeconds } from '#core/time';
import type { Item } from '#usecases/projects';
import type { ReelCardData } from '#usecases/reels';
import { Poster } from '../drawing/Poster';
import { ContextMenu } from '../ui/ContextMenu';
import { IconButton } from '../ui/controls';
import { DeleteButton } from '../ui/DeleteButton';

interface ReelCardProps {
  reel: ReelCardData;
  itemOf: ReadonlyMap<string, Item>;
  /** How many of others are open. */
  comments: number | undefined;
  onCopy(): void;
  onDelete(): void;
}

/** A reel among the others: its pictures, its length, and what can be done with it. */
export function ReelCard({ reel, itemOf, comments, onCopy, onDelete }: ReelCardProps) {
  const { id, name, rate, size, frames, pieces, pictures, role, updatedAt } = reel;
  const [isAsking, setAsking] = useState(false);
  const navigate = useNavigate();
  return (
    <ContextMenu
      label={`What can be done with “${name}”`}
      entriesAt={() => [
        { label: 'Open', act: () => void navigate(id) },
        { label: 'Make a copy', act: onCopy },
        'line',
        { label: 'Delete…', act: () => setAsking(true) },
      ]}
    >
      <li className="group relative [contain-intrinsic-size:auto_146px] [content-visibility:auto]">
        <Link to={id} className="block rounded-md border border-line bg-raised p-3 hover:border-muted">
          <span className="flex h-[72px] gap-0.5 overflow-hidden rounded">
            {pictures.map((picture) => {
              const item = itemOf.get(picture.media);
              return (
                <Poster
                  key={picture.id}
                  media={picture.media}
                  sheets={item?.sheets ?? null}
                  kind={item?.probe?.kind ?? null}
                  seconds={picture.seconds}
                  width={128}
                  height={72}
                  className="!rounded-none"
                />
              );
            })}
          </span>
          <span className="mt-2 block text-base font-semibold">
            {name}
            {role === 'selects' && (
              <span className="ml-2 rounded border border-line px-1.5 py-0.5 text-xs font-normal text-muted">
                selects
              </span>
            )}
            {comments !== undefined && (
              <span className="ml-2 rounded-full bg-line px-2 py-0.5 text-xs font-normal">
                {counted(comments, 'comment')}
              </span>
            )}
          </span>
          <span className="text-muted">
            <span className="tabular">{formatClock(framesToSeconds(frames, rate))}</span> · {counted(pieces, 'piece')} ·{' '}
            {size.width}×{size.height}, {upTo(framesPerSecond(rate), 2)} fps ·{' '}
            <time dateTime={new Date(updatedAt).toISOString()} suppressHydrationWarning>
              {formatMoment(updatedAt)}
            </time>
          </span>
        </Link>
        <span className="absolute bottom-2.5 right-2 flex opacity-0 focus-within:opacity-100 group-hover:opacity-100 pointer-coarse:opacity-100">
          <IconButton label={`Make a copy of “${name}”`} onClick={onCopy}>
            <Copy size={15} />
          </IconButton>
          <DeleteButton
            label={`Delete “${name}”`}
            question={`Delete the reel “${name}”?`}
            says="Its history goes with it, and so do the files that were rendered of it and the link under which it is shown. The footage stays."
            onDelete={onDelete}
            isOpen={isAsking}
            onOpen={setAsking}
          />
        </span>
      </li>
    </ContextMenu>
  );
}
