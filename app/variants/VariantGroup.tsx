import { X } from 'lucide-react';
import { clipsOf, reelFrames, type Reel } from '#core/reel';
import { formatClock, framesToSeconds } from '#core/time';
import type { Item } from '#usecases/projects';
import { Poster } from '../drawing/Poster';
import { IconButton, inputLook } from '../ui/controls';

export interface Group {
  key: number;
  name: string;
  pieces: string[];
}

interface VariantGroupProps {
  group: Group;
  index: number;
  reels: readonly { id: string; document: Reel }[];
  items: readonly Item[];
  onChange(values: Partial<Group>): void;
  onRemove(): void;
}

const lengthOf = (reel: Reel) => framesToSeconds(reelFrames(reel), reel.rate);

/** Reels of which each variant has one. */
export function VariantGroup({ group, index, reels, items, onChange, onRemove }: VariantGroupProps) {
  return (
    <li className="rounded-md border border-line p-3" data-group={index}>
      <div className="mb-2 flex items-center gap-2">
        <input
          aria-label={`Name of group ${index + 1}`}
          value={group.name}
          maxLength={60}
          onChange={(event) => onChange({ name: event.target.value })}
          className="rounded bg-transparent font-semibold hover:bg-raised focus:bg-raised"
        />
        <span className="tabular text-muted">{group.pieces.length}</span>
        <IconButton label={`Take “${group.name}” away`} className="ml-auto !text-muted" onClick={onRemove}>
          <X size={14} />
        </IconButton>
      </div>
      <ul className="flex flex-wrap gap-2">
        {group.pieces.map((id, at) => (
          <li key={`${id}${at}`}>
            <Piece
              reel={reels.find((reel) => reel.id === id)!.document}
              items={items}
              onRemove={() => onChange({ pieces: group.pieces.filter((_, place) => place !== at) })}
            />
          </li>
        ))}
        <li>
          <select
            aria-label={`Add a reel to ${group.name}`}
            className={`${inputLook} w-44`}
            value=""
            onChange={(event) => onChange({ pieces: [...group.pieces, event.target.value] })}
          >
            <option value="" disabled>
              Add a reel…
            </option>
            {reels
              .filter((reel) => !group.pieces.includes(reel.id))
              .map((reel) => (
                <option key={reel.id} value={reel.id}>
                  {reel.document.name} ({formatClock(lengthOf(reel.document))})
                </option>
              ))}
          </select>
        </li>
      </ul>
    </li>
  );
}

function Piece({ reel, items, onRemove }: { reel: Reel; items: readonly Item[]; onRemove(): void }) {
  const clip = clipsOf(reel)[0];
  const item = clip && items.find((each) => each.id === clip.media);
  return (
    <span className="group relative block w-28">
      {clip && (
        <Poster
          media={clip.media}
          sheets={item?.sheets ?? null}
          kind={item?.probe?.kind ?? null}
          seconds={framesToSeconds(clip.sourceIn + clip.frames / 2, reel.rate)}
          width={112}
          height={63}
        />
      )}
      <span className="block truncate text-xs" title={reel.name}>
        {reel.name}
      </span>
      <span className="absolute right-1 top-1 opacity-0 focus-within:opacity-100 group-hover:opacity-100">
        <IconButton label={`Take “${reel.name}” out of the group`} className="!h-6 !w-6 bg-black/70" onClick={onRemove}>
          <X size={12} />
        </IconButton>
      </span>
    </span>
  );
}
