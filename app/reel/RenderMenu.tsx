import { HardDriveDownload } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useFetcher } from 'react-router';
import {
  estimateOutput,
  formatNames,
  outputFor,
  outputFormats,
  purposeNames,
  purposes,
  qualities,
  reelFrames,
  whatIsSet,
  type OutputFormat,
  type Purpose,
  type Quality,
} from '#core/reel';
import { listOf } from '#core/sentences';
import { formatClock } from '#core/time';
import { afterSaving } from '../history/saveQueue';
import { Button, inputLook } from '../ui/controls';
import { formatSize, formatTimeLeft } from '../ui/format';
import { useGoTo, type GoingAnswer } from '../ui/useGoTo';
import type { ReelDesk } from './useReelDesk';

const qualityNames: Record<Quality, string> = { draft: 'draft, quick', good: 'good', best: 'best, slow' };

/** What to render, how, and how large and long that will be. */
export function RenderMenu({ desk, pace }: { desk: ReelDesk; pace: number }) {
  const fetcher = useFetcher<{ problem: string | null } & GoingAnswer>();
  useGoTo(fetcher);
  const [format, setFormat] = useState<OutputFormat>('mp4');
  const [quality, setQuality] = useState<Quality>('good');
  const { document } = desk;
  const own = document ? Math.min(document.size.width, document.size.height) : 720;
  const [lines, setLines] = useState('');
  const [part, setPart] = useState<'all' | 'piece' | 'from' | 'pieces'>('all');
  const [pattern, setPattern] = useState('{n} {name}');
  if (!document) return null;
  const scale = (Number(lines) || own) / own;
  const size = {
    width: Math.round((document.size.width * scale) / 2) * 2,
    height: Math.round((document.size.height * scale) / 2) * 2,
  };
  const still = format === 'png';
  const piece = desk.segment;
  const range = still
    ? { start: desk.playFrame, end: desk.playFrame + 1 }
    : part === 'piece' && piece
      ? { start: piece.startFrame, end: piece.startFrame + piece.frames }
      : part === 'from'
        ? { start: desk.playFrame, end: reelFrames(document) }
        : undefined;
  const set = whatIsSet(document);
  const guess = estimateOutput(document, { format, quality, size, ...(range ? { range } : {}) }, pace);
  const frames = range ? range.end - range.start : reelFrames(document);
  const submit = () => {
    const wanted = {
      intent: 'render',
      format,
      quality,
      ...(Number(lines) ? { lines } : {}),
      ...(range ? { from: String(range.start), to: String(range.end) } : {}),
      ...(part === 'pieces' && !still ? { pattern } : {}),
    };
    void afterSaving(() => void fetcher.submit(wanted, { method: 'post' }));
  };
  const purpose = purposes.find((each) => {
    const wanted = outputFor(each, document);
    return (
      wanted.format === format &&
      (format === 'wav' || (wanted.quality === quality && (wanted.lines ?? own) === (Number(lines) || own)))
    );
  });
  const choice = `${inputLook} !h-7 w-56`;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button look="lamp" disabled={desk.segments.length === 0}>
          <HardDriveDownload size={15} aria-hidden /> Render
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 w-[352px] rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <div className="space-y-2">
            <PurposeField
              purpose={purpose ?? null}
              onPurpose={(wanted) => {
                const next = outputFor(wanted, document);
                setFormat(next.format);
                setQuality(next.quality);
                setLines(next.lines === null ? '' : String(next.lines));
              }}
            />
            <label className="flex items-center justify-between">
              Format
              <select
                className={choice}
                value={format}
                onChange={(event) => setFormat(event.target.value as OutputFormat)}
              >
                {outputFormats.map((each) => (
                  <option key={each} value={each}>
                    {formatNames[each]}
                  </option>
                ))}
              </select>
            </label>
            {format !== 'wav' && format !== 'png' && format !== 'gif' && (
              <QualityField quality={quality} onQuality={setQuality} />
            )}
            {format !== 'wav' && <ResolutionField own={own} size={size} lines={lines} onLines={setLines} />}
            {!still && (
              <label className="flex items-center justify-between">
                Range
                <select
                  className={choice}
                  value={part}
                  onChange={(event) => setPart(event.target.value as typeof part)}
                >
                  <option value="all">the whole reel, one file</option>
                  <option value="from">from the playhead on</option>
                  {piece && <option value="piece">only “{piece.name || 'this piece'}”</option>}
                  <option value="pieces">every piece as a file</option>
                </select>
              </label>
            )}
            {part === 'pieces' && !still && (
              <label
                className="flex items-center justify-between"
                title="{n} is the piece's number, {name} its name, {reel} the reel's"
              >
                Named
                <input className={choice} value={pattern} onChange={(event) => setPattern(event.target.value)} />
              </label>
            )}
          </div>
          <p className="mt-2.5 text-muted" data-testid="estimate">
            {still ? 'One picture' : `${formatClock(frames / (document.rate.num / document.rate.den), true)}`}, about{' '}
            {formatSize(guess.bytes)}, {formatTimeLeft(guess.seconds).replace(/ left$/, '')} to make.
            {still ? '' : set.length > 0 ? ` With ${listOf(set)}.` : ' Plain cuts.'}
          </p>
          {fetcher.data?.problem && (
            <p role="alert" className="mt-1 text-shake">
              {fetcher.data.problem}
            </p>
          )}
          <Button look="lamp" className="mt-3 w-full" disabled={fetcher.state !== 'idle'} onClick={submit}>
            Start
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What the file is for; everything below follows, and can be set otherwise. */
function PurposeField({ purpose, onPurpose }: { purpose: Purpose | null; onPurpose(purpose: Purpose): void }) {
  return (
    <label className="flex items-center justify-between">
      For
      <select
        className={`${inputLook} !h-7 w-56`}
        value={purpose ?? ''}
        onChange={(event) => onPurpose(event.target.value as Purpose)}
      >
        <option value="" disabled hidden>
          as set below
        </option>
        {purposes.map((each) => (
          <option key={each} value={each}>
            {purposeNames[each].name}: {purposeNames[each].says}
          </option>
        ))}
      </select>
    </label>
  );
}

function QualityField({ quality, onQuality }: { quality: Quality; onQuality(quality: Quality): void }) {
  return (
    <label className="flex items-center justify-between">
      Quality
      <select
        className={`${inputLook} !h-7 w-56`}
        value={quality}
        onChange={(event) => onQuality(event.target.value as Quality)}
      >
        {qualities.map((each) => (
          <option key={each} value={each}>
            {qualityNames[each]}
          </option>
        ))}
      </select>
    </label>
  );
}

interface ResolutionFieldProps {
  /** Lines of the shorter side of the reel itself, and of the file; '' for those of the reel. */
  own: number;
  lines: string;
  size: { width: number; height: number };
  onLines(lines: string): void;
}

function ResolutionField({ own, lines, size, onLines }: ResolutionFieldProps) {
  return (
    <label className="flex items-center justify-between">
      Resolution
      <span className="flex w-56 items-center gap-2">
        <input
          list="lines"
          inputMode="numeric"
          className={`${inputLook} tabular !h-7 w-20`}
          placeholder={String(own)}
          value={lines}
          onChange={(event) => onLines(event.target.value.replace(/\D/g, '').slice(0, 4))}
        />
        <datalist id="lines">
          {[480, 720, 1080, 2160].map((each) => (
            <option key={each} value={each} />
          ))}
        </datalist>
        <span className="tabular text-muted">
          {size.width}×{size.height}
        </span>
      </span>
    </label>
  );
}
