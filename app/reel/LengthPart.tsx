import { toast } from 'sonner';
import { trimsTo, type Clip } from '#core/reel';
import { formatClock, type Range } from '#core/time';
import { afterSaving } from '../history/saveQueue';
import { Button } from '../ui/controls';
import { Part } from './panelParts';
import type { ReelDesk } from './useReelDesk';

/** Brings a piece that was trimmed back to its length: as it came into the reel, or all of its file. */
export function LengthPart({ desk, clip }: { desk: ReelDesk; clip: Clip }) {
  const { sources, rate, live, reel } = desk;
  const source = sources.get(clip.media);
  if (!source || !reel || clip.speed === 0) return null;
  const whole = { start: 0, end: source.durationSeconds };
  const bringTo = (stretch: Range) => {
    const command = trimsTo(clip, stretch, source, rate);
    if (command) live.edit(command);
    else toast(`“${clip.name}” has this length already.`);
  };
  const asPutIn = async () => {
    const address = `/projects/${reel.projectId}/reels/${reel.id}/first/${encodeURIComponent(clip.id)}`;
    const answer = await fetch(address).catch(() => null);
    if (answer?.ok) bringTo((await answer.json()) as Range);
    else toast.warning('The server does not answer just now; the piece stays as it is.');
  };
  return (
    <Part title="Length">
      <Button
        className="!h-7 !px-2"
        title="As long as it was when it came into the reel"
        onClick={() => void afterSaving(() => void asPutIn())}
      >
        As put in
      </Button>
      {!source.photo && trimsTo(clip, whole, source, rate) && (
        <Button className="tabular !h-7 !px-2" onClick={() => bringTo(whole)}>
          Whole file, {formatClock(source.durationSeconds)}
        </Button>
      )}
    </Part>
  );
}
