import { formatSize, formatTimeLeft } from '#core/sentences';
import { Download } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useFetcher, useNavigate } from 'react-router';
import {
  clashes,
  estimateOutput,
  fileNames,
  namePlaces,
  shapeOf,
  shapes,
  sizeOf,
  type Quality,
  type Shape,
} from '#core/reel';
import { afterSaving } from '../history/saveQueue';
import { QualityField } from '../reel/QualityField';
import { Button, inputLook } from '../ui/controls';
import type { ShownShort } from './ShortCards';

/** Renders all shorts or some, in their shape or another, named by a pattern that is checked before. */
export function RenderShorts({
  shorts,
  chosen,
  address,
  projectId,
}: {
  shorts: readonly ShownShort[];
  chosen: string;
  address: string;
  projectId: string;
}) {
  const [which, setWhich] = useState<'all' | 'one'>('all');
  const [shape, setShape] = useState<Shape | ''>('');
  const [lines, setLines] = useState('1080');
  const [quality, setQuality] = useState<Quality>('good');
  const [pattern, setPattern] = useState('{n} {title}');
  const sender = useFetcher<{ problem: string | null }>();
  const navigate = useNavigate();
  const wanted = which === 'all' ? shorts : shorts.filter((short) => short.id === chosen);
  const names = fileNames(
    wanted.map((short) => ({ title: short.reel.document.name })),
    pattern,
  );
  const twice = clashes(names);
  const sizes = wanted.map((short) => sizeOf(shape || (shapeOf(short.reel.document.size) ?? '9:16'), Number(lines)));
  const guesses = wanted.map((short, index) =>
    estimateOutput(short.reel.document, { format: 'mp4', quality, size: sizes[index]! }),
  );
  const start = () => {
    const wish = {
      intent: 'render',
      reels: wanted.map((short) => short.reel.id),
      ...(shape ? { shape } : {}),
      lines: Number(lines),
      quality,
      pattern,
    };
    void afterSaving(() => void sender.submit(wish, { method: 'post', action: address, encType: 'application/json' }));
  };
  const busy = sender.state !== 'idle';
  const answer = sender.state === 'idle' ? sender.data : undefined;
  useEffect(() => {
    if (answer && answer.problem === null) void navigate(`/projects/${projectId}/outputs`);
  }, [answer, navigate, projectId]);
  const problem = answer?.problem;
  const choice = `${inputLook} !h-7 w-56`;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button look="lamp" disabled={shorts.length === 0}>
          <Download size={15} aria-hidden /> Render all
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Render all"
          align="end"
          sideOffset={4}
          className="z-50 w-[352px] rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <div className="space-y-2">
            <label className="flex items-center justify-between">
              Range
              <select
                className={choice}
                value={which}
                onChange={(event) => setWhich(event.target.value as typeof which)}
              >
                <option value="all">{shorts.length === 1 ? 'the one short' : `all ${shorts.length} shorts`}</option>
                <option value="one">only the chosen one</option>
              </select>
            </label>
            <label className="flex items-center justify-between">
              Shape
              <select className={choice} value={shape} onChange={(event) => setShape(event.target.value as Shape | '')}>
                <option value="">as they are</option>
                {Object.keys(shapes).map((each) => (
                  <option key={each}>{each}</option>
                ))}
              </select>
            </label>
            <label className="flex items-center justify-between">
              Resolution
              <span className="flex w-56 items-center gap-2">
                <select
                  className={`${inputLook} !h-7`}
                  value={lines}
                  onChange={(event) => setLines(event.target.value)}
                >
                  {[720, 1080, 2160].map((each) => (
                    <option key={each}>{each}</option>
                  ))}
                </select>
                {sizes[0] && (
                  <span className="tabular text-muted">
                    {sizes[0].width}×{sizes[0].height}
                  </span>
                )}
              </span>
            </label>
            <QualityField quality={quality} onQuality={setQuality} />
            <label
              className="flex items-center justify-between"
              title={`It may hold ${namePlaces.filter((place) => !/^\{[12p]/.test(place)).join(', ')}`}
            >
              Named
              <input className={choice} value={pattern} onChange={(event) => setPattern(event.target.value)} />
            </label>
          </div>
          <ul className="tabular mt-2 max-h-28 overflow-y-auto text-xs text-muted" aria-label="File names">
            {names.map((name, index) => (
              <li key={index} className={twice.includes(name) ? 'text-shake' : ''}>
                {name}.mp4
              </li>
            ))}
          </ul>
          {twice.length > 0 && (
            <p role="alert" className="mt-1 text-shake">
              Two files would get the same name. Put {'{n}'} or {'{title}'} into the pattern.
            </p>
          )}
          {problem && (
            <p role="alert" className="mt-1 text-shake">
              {problem}
            </p>
          )}
          <p className="mt-2 text-muted">
            About {formatSize(guesses.reduce((sum, guess) => sum + guess.bytes, 0))},{' '}
            {formatTimeLeft(guesses.reduce((sum, guess) => sum + guess.seconds, 0)).replace(/ left$/, '')} to make.
          </p>
          <Button look="lamp" className="mt-3 w-full" disabled={busy || twice.length > 0} onClick={start}>
            Start
          </Button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
