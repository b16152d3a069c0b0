import { VolumeX } from 'lucide-react';
import { Button } from '../ui/controls';
import { SaveMark, type SaveState } from '../ui/SaveMark';
import { silenceSentence } from './panels/SilencePanel';

/** What would be taken out, in a plain sentence, and the button that does it. */
export function SilenceBar({
  count,
  seconds,
  total,
  kept,
  saveState,
  making,
  onMake,
}: {
  count: number;
  seconds: number;
  total: number;
  kept: number;
  saveState: SaveState;
  making: boolean;
  onMake(): void;
}) {
  return (
    <div className="flex w-[250px] shrink-0 flex-col pb-3">
      <span className="self-end">
        <SaveMark state={saveState} />
      </span>
      <strong className="font-semibold" data-testid="silence-count">
        {silenceSentence(count, seconds, total, kept)}
      </strong>
      <span className="text-muted">What is lit stays.</span>
      <Button
        look="lamp"
        command="makeReel"
        className="mt-auto w-full"
        disabled={making || count === 0}
        onClick={onMake}
      >
        <VolumeX size={15} aria-hidden /> Take out {kept ? 'the rest' : 'the silence'}
      </Button>
    </div>
  );
}
