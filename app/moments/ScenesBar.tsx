import { counted } from '#core/sentences';
import { Clapperboard } from 'lucide-react';
import { sceneTags, type SceneCell, type SceneTag } from '#core/moments';
import { formatClock } from '#core/time';
import { Button } from '../ui/controls';
import { SaveMark, type SaveState } from '../ui/SaveMark';
import { TagMark } from './ScenesView';

interface ScenesBarProps {
  /** Those on show. */
  cells: SceneCell[];
  tagged: Record<SceneTag, number>;
  tag: SceneTag | null;
  current: SceneCell | null;
  saveState: SaveState;
  making: boolean;
  onFilter(tag: SceneTag | null): void;
  onTag(tag: SceneTag): void;
  onMake(): void;
}

/** Tags of the scene under the playhead, which tag is on show, and the button that makes a reel in this order. */
export function ScenesBar({ cells, tagged, tag, current, saveState, making, onFilter, onTag, onMake }: ScenesBarProps) {
  return (
    <div className="flex w-[250px] shrink-0 flex-col pb-3">
      <div className="flex items-baseline justify-between gap-2">
        <strong className="font-semibold" data-testid="scene-count">
          {counted(cells.length, 'scene')}, {formatClock(cells.reduce((sum, cell) => sum + cell.end - cell.start, 0))}
        </strong>
        <SaveMark state={saveState} />
      </div>
      <div className="mt-1 flex items-center gap-1" role="group" aria-label="Tag this scene">
        {sceneTags.map((each, index) => (
          <button
            key={each}
            type="button"
            disabled={!current}
            aria-pressed={current?.tag === each}
            title={`Tag ${each} (${index + 1})`}
            onClick={() => onTag(each)}
            className={`flex h-6 w-6 items-center justify-center rounded hover:bg-line disabled:opacity-40 ${current?.tag === each ? 'bg-line' : ''}`}
          >
            <TagMark tag={each} />
          </button>
        ))}
        <select
          aria-label="Show scenes"
          className="ml-auto h-6 rounded-md border border-line bg-ground px-1.5 text-xs"
          value={tag ?? ''}
          onChange={(event) => onFilter((event.target.value || null) as SceneTag | null)}
        >
          <option value="">all scenes</option>
          {sceneTags.map((each) => (
            <option key={each} value={each}>
              {each}, {tagged[each]}
            </option>
          ))}
        </select>
      </div>
      <Button
        look="lamp"
        command="makeReel"
        className="mt-auto w-full"
        disabled={making || cells.length === 0}
        onClick={onMake}
      >
        <Clapperboard size={15} aria-hidden /> Reel of these scenes
      </Button>
    </div>
  );
}
