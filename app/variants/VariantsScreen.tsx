import { Plus, Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { orderedGroups } from '#core/variants';
import type { Item } from '#usecases/projects';
import type { VariantsData } from '#usecases/variants';
import { keySets } from '../keys';
import { Button, IconButton } from '../ui/controls';
import { KeySheet } from '../ui/KeySheet';
import { SaveMark } from '../ui/SaveMark';
import { useShortcuts } from '../ui/useShortcuts';
import { useVariantPlayer } from './useVariantPlayer';
import { useVariants } from './useVariants';
import { VariantPlace } from './VariantPlace';
import { VariantsColumn } from './VariantsColumn';
import { VariantTable } from './VariantTable';

/** Groups that may stand at all, and places. */
const mostPlaces = 12;

interface VariantsScreenProps {
  projectId: string;
  data: VariantsData;
  items: readonly Item[];
}

/** One piece from each group, every way: listed, named, played and counted before anything is made. */
export function VariantsScreen({ projectId, data, items }: VariantsScreenProps) {
  const variants = useVariants(projectId, data, items);
  const playing = useVariantPlayer(projectId, variants.reel, items);
  const [help, setHelp] = useState(false);
  const { set, history, list, onScreen, show } = variants;
  const { player, step } = playing;
  const go = (by: 1 | -1) => {
    const next = list[list.findIndex(({ key }) => key === onScreen?.key) + by];
    if (next) show(next);
  };
  useShortcuts({
    play: () => (player.playing ? player.pause() : player.play()),
    frameBack: () => player.seek(player.time - step),
    frameOn: () => player.seek(player.time + step),
    secondBack: () => player.seek(player.time - 1),
    secondOn: () => player.seek(player.time + 1),
    toStart: () => player.seek(0),
    lineUp: () => go(-1),
    lineDown: () => go(1),
    undo: history.undo,
    redo: history.redo,
    help: () => setHelp(true),
  });
  return (
    <div className="flex min-h-0 flex-1">
      <main className="flex min-w-0 flex-1 flex-col">
        <div className="flex min-h-12 shrink-0 items-center gap-3 px-4">
          <h1 className="text-base font-semibold">Variants</h1>
          <Link to="../reels" relative="path" className="whitespace-nowrap text-muted underline hover:text-text">
            All reels
          </Link>
          <p className="truncate text-muted">One piece from each group, one after the other, in every combination.</p>
          <span className="ml-auto flex items-center gap-1">
            <SaveMark state={variants.saving} />
            <IconButton label="Undo" command="undo" disabled={!history.canUndo} onClick={history.undo}>
              <Undo2 size={15} />
            </IconButton>
            <IconButton label="Redo" command="redo" disabled={!history.canRedo} onClick={history.redo}>
              <Redo2 size={15} />
            </IconButton>
          </span>
        </div>
        <ol className="flex max-h-[45%] min-h-40 shrink-0 gap-2 overflow-x-auto px-4 pb-3">
          {orderedGroups(set).map((group, place) => (
            <VariantPlace key={`${group.id}${place}`} variants={variants} group={group} place={place} />
          ))}
          {set.order.length < mostPlaces && (
            <li className="flex shrink-0 items-start">
              <Button look="quiet" onClick={variants.addGroup}>
                <Plus size={15} aria-hidden /> {set.order.length === 0 ? 'A group' : 'Another group'}
              </Button>
            </li>
          )}
        </ol>
        <VariantTable variants={variants} />
      </main>
      <VariantsColumn variants={variants} player={player} onStep={go} />
      <KeySheet open={help} onOpenChange={setHelp} sets={[['Variants', keySets.variants]]} />
    </div>
  );
}
