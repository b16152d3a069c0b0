import { HardDriveDownload } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useFetcher } from 'react-router';
import { estimateOutput, reelFrames, renderPlaces, scaledSize, whatIsSet, type Reel } from '#core/reel';
import { listOf, formatSize, formatTimeLeft } from '#core/sentences';
import { formatClock } from '#core/time';
import { isDoubtful } from '#core/words';
import { afterSaving } from '../../history/saveQueue';
import { Button, inputLook } from '../../ui/controls';
import { useGoTo, type GoingAnswer } from '../../ui/useGoTo';
import type { ReelDesk } from '../useReelDesk';
import { CodingFields, KeepPreset } from './CodingFields';
import { FileWays } from './FileWays';
import { renderWords as words } from './renderWords';
import { usePresets } from './usePresets';
import { useRenderChoice, type FileWay } from './useRenderChoice';

/** Whether somebody answers a notification: what is open stays open then. */
const isToast = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('[data-sonner-toast]') !== null;

const parts = ['all', 'from', 'piece', 'pieces'] as const;
type Part = (typeof parts)[number];
const choiceLook = `${inputLook} !h-7 w-56`;

interface RenderMenuProps {
  desk: ReelDesk;
  /** Of the reel. */
  address: string;
  /** How much slower this machine was than the table of estimates. */
  pace: number;
}

/** What to render, as what, and how large and long that will be. */
export function RenderMenu({ desk, address, pace }: RenderMenuProps) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="lamp" disabled={desk.segments.length === 0}>
          <HardDriveDownload size={15} aria-hidden /> {words.render}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Render"
          align="end"
          sideOffset={4}
          onInteractOutside={(event) => isToast(event.target) && event.preventDefault()}
          className="z-50 max-h-[calc(100vh-64px)] w-[352px] overflow-y-auto rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          {desk.document && <RenderChoices desk={desk} reel={desk.document} address={address} pace={pace} />}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function RenderChoices({ desk, reel, address, pace }: RenderMenuProps & { reel: Reel }) {
  const fetcher = useFetcher<{ problem: string | null } & GoingAnswer>();
  useGoTo(fetcher);
  const presets = usePresets(true);
  const choice = useRenderChoice(reel, presets.presets);
  const [part, setPart] = useState<Part>('all');
  const [written, setPattern] = useState<string | null>(null);
  const isStill = choice.chosen.length > 0 && choice.chosen.every(({ coding }) => coding.format === 'png');
  const pattern = written ?? patternFor(part === 'pieces' && !isStill, choice.chosen.length > 1);
  const submit = () => {
    const wanted = {
      files: choice.chosen.map((way) => {
        const range = rangeOf(desk, reel, part, way);
        const purpose = way.name || way.coding.format.toUpperCase();
        return { ...way.coding, purpose, from: range?.start ?? null, to: range?.end ?? null };
      }),
      pieces: part === 'pieces',
      pattern,
    };
    const sent = { method: 'post', action: `${address}/render`, encType: 'application/json' } as const;
    void afterSaving(() => void fetcher.submit(wanted, sent));
  };
  /** Words that nobody has looked at, and that are to stand in the picture. */
  const doubtful = choice.chosen.some(({ coding }) => coding.captions === 'burnt' && coding.format !== 'wav')
    ? desk.captions.flatMap((line) => line.words).filter(isDoubtful).length
    : 0;
  const [isLookedAt, setLookedAt] = useState(false);
  const problem = presets.problem ?? fetcher.data?.problem;
  return (
    <>
      <FileWays choice={choice} reel={reel} remove={presets.remove} />
      <div className="mt-2 space-y-2 border-t border-line pt-2">
        {choice.shown && <CodingFields coding={choice.shown} reel={reel} onChange={choice.change} />}
        {choice.shown && choice.isByHand && (
          <KeepPreset
            onKeep={async (name) => {
              const id = await presets.keep(name, choice.shown!);
              if (id) choice.choose(id);
              return id !== null;
            }}
          />
        )}
        {!isStill && <RangeField part={part} piece={desk.segment?.name} onPart={setPart} />}
        <label className="flex items-center justify-between" title={words.mayHold(renderPlaces)}>
          {words.named}
          <input className={choiceLook} value={pattern} onChange={(event) => setPattern(event.target.value)} />
        </label>
      </div>
      <p className="mt-2.5 text-muted" data-testid="estimate">
        {estimateWords(desk, reel, part, choice.chosen, pace)}
      </p>
      {doubtful > 0 && (
        <div className="mt-2 rounded-md border border-line px-2 py-1.5">
          <p>{words.doubtful(doubtful)}</p>
          <label className="mt-1 flex items-center gap-2">
            <input type="checkbox" checked={isLookedAt} onChange={(event) => setLookedAt(event.target.checked)} />
            {words.burnDoubtful}
          </label>
        </div>
      )}
      {problem && (
        <p role="alert" className="mt-1 text-shake">
          {problem}
        </p>
      )}
      <Button
        look="lamp"
        className="mt-3 w-full"
        disabled={
          fetcher.state !== 'idle' || choice.chosen.length === 0 || !pattern.trim() || (doubtful > 0 && !isLookedAt)
        }
        onClick={submit}
      >
        {words.start}
      </Button>
    </>
  );
}

function RangeField({
  part,
  piece,
  onPart,
}: {
  part: Part;
  /** The name of the chosen piece; undefined where none is. */
  piece: string | undefined;
  onPart(part: Part): void;
}) {
  const names: Record<Part, string> = {
    all: words.whole,
    from: words.fromPlayhead,
    piece: words.onlyPiece(piece || 'this piece'),
    pieces: words.eachPiece,
  };
  return (
    <label className="flex items-center justify-between">
      {words.range}
      <select className={choiceLook} value={part} onChange={(event) => onPart(event.target.value as Part)}>
        {parts.map(
          (each) =>
            (each !== 'piece' || piece !== undefined) && (
              <option key={each} value={each}>
                {names[each]}
              </option>
            ),
        )}
      </select>
    </label>
  );
}

const patternFor = (pieces: boolean, several: boolean): string =>
  `${pieces ? '{n} {title}' : '{reel}'}${several ? ', {for}' : ''}`;

interface FrameRange {
  start: number;
  end: number;
}

/** The frames that a file shows; undefined for the whole. A picture shows the one under the playhead. */
function rangeOf(desk: ReelDesk, reel: Reel, part: Part, { coding }: FileWay): FrameRange | undefined {
  if (coding.format === 'png') return { start: desk.playFrame, end: desk.playFrame + 1 };
  const piece = desk.segment;
  if (part === 'piece' && piece) return { start: piece.startFrame, end: piece.startFrame + piece.frames };
  return part === 'from' ? { start: desk.playFrame, end: reelFrames(reel) } : undefined;
}

/** How long, how large, how long to make, and what goes along. */
function estimateWords(desk: ReelDesk, reel: Reel, part: Part, ways: readonly FileWay[], pace: number): string {
  if (ways.length === 0) return words.noneChosen;
  const ranges = ways.map((way) => rangeOf(desk, reel, part, way));
  const guesses = ways.map(({ coding: { format, quality, lines } }, index) => {
    const size = scaledSize(reel.size, lines);
    const range = ranges[index];
    return estimateOutput(reel, { format, quality, size, ...(range ? { range } : {}) }, pace);
  });
  const sum = (of: 'bytes' | 'seconds') => guesses.reduce((total, guess) => total + guess[of], 0);
  const moving = ways.findIndex(({ coding }) => coding.format !== 'png');
  const range = ranges[moving];
  const frames = range ? range.end - range.start : reelFrames(reel);
  const what = moving < 0 ? words.onePicture : formatClock(frames / (reel.rate.num / reel.rate.den), true);
  const set = whatIsSet(reel);
  const along = moving < 0 ? '' : set.length > 0 ? ` With ${listOf(set)}.` : ` ${words.plainCuts}`;
  const toMake = formatTimeLeft(sum('seconds')).replace(/ left$/, '');
  return `${what}, about ${formatSize(sum('bytes'))}, ${toMake} to make.${along}`;
}
