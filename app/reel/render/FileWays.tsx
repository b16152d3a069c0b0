import { X } from 'lucide-react';
import { formatSize } from '#core/sentences';
import { estimateOutput, scaledSize, type Reel } from '#core/reel';
import { IconButton } from '../../ui/controls';
import { renderWords as words } from './renderWords';
import type { Presets } from './usePresets';
import { byHand, type FileWay, type RenderChoice } from './useRenderChoice';

/** What files are for, to be ticked: one or several at once. */
export function FileWays({ choice, reel, remove }: { choice: RenderChoice; reel: Reel; remove: Presets['remove'] }) {
  return (
    <fieldset aria-label={words.files} className="-mx-1.5 max-h-64 overflow-y-auto">
      {choice.ways.map((way) => (
        <Way key={way.id} way={way} choice={choice} aside={sizeWords(way, reel)}>
          {way.isOwn && (
            <IconButton label={words.removePreset(way.name)} onClick={() => void remove(way)} className="!h-6 !w-6">
              <X size={13} aria-hidden />
            </IconButton>
          )}
        </Way>
      ))}
      {choice.isByHand && (
        <Way
          way={{ id: byHand, name: words.asSet, says: words.asSetSays }}
          choice={choice}
          aside={sizeWords({ coding: choice.chosen.at(-1)!.coding }, reel)}
        />
      )}
    </fieldset>
  );
}

interface WayProps {
  way: Pick<FileWay, 'id' | 'name' | 'says'>;
  choice: RenderChoice;
  aside: string;
  children?: React.ReactNode;
}

function Way({ way: { id, name, says }, choice, aside, children }: WayProps) {
  const isTicked = choice.chosen.some((each) => each.id === id);
  return (
    <div className="flex items-center rounded px-1.5 hover:bg-line/40">
      <label className="flex min-h-7 min-w-0 flex-1 items-center gap-2" title={says}>
        <input type="checkbox" checked={isTicked} onChange={(event) => choice.tick(id, event.target.checked)} />
        <span className="truncate">{name}</span>
        <span className="tabular ml-auto whitespace-nowrap pl-2 text-xs text-muted">{aside}</span>
      </label>
      {children}
    </div>
  );
}

function sizeWords({ coding: { format, quality, lines } }: Pick<FileWay, 'coding'>, reel: Reel): string {
  const size = scaledSize(reel.size, lines);
  const { bytes } = estimateOutput(reel, { format, quality, size });
  const picture = format === 'wav' ? '' : `${size.width}×${size.height} `;
  return `${picture}${format.toUpperCase()}, ${formatSize(bytes)}`;
}
