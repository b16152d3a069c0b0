import { upTo } from '#core/sentences';
import type { Fit } from '#core/framing';
import { Popover } from 'radix-ui';
import { lineCounts, shapeOf, shapes, sizeOf, type Shape } from '#core/reel';
import { framesPerSecond, rates } from '#core/time';
import { inputLook } from '../ui/controls';
import type { ReelDesk } from './useReelDesk';
import { useShapeChange } from './useShapeChange';

/** Shape, lines and rate of the reel, and how pictures of another shape fill it. */
export function FormatMenu({ projectId, desk }: { projectId: string; desk: ReelDesk }) {
  const { document, live } = desk;
  const shaping = useShapeChange(projectId, desk);
  if (!document) return null;
  const { size, rate } = document;
  const shape = shapeOf(size);
  const lines = Math.min(size.width, size.height);
  const set = (to: Shape, count: number) => void shaping.change({ type: 'format', size: sizeOf(to, count) });
  const choice = `${inputLook} !h-7 w-44`;
  const fps = upTo(framesPerSecond(rate), 3);
  return (
    <Popover.Root>
      <Popover.Trigger
        className="tabular whitespace-nowrap rounded px-1 text-muted underline decoration-dotted underline-offset-4 hover:text-text"
        title="Shape and frame rate of the reel"
      >
        {shape ?? `${size.width}×${size.height}`} · {lines} · {upTo(framesPerSecond(rate), 2)} fps
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Shape and frame rate of the reel"
          align="start"
          sideOffset={4}
          className="z-50 w-72 space-y-2 rounded-md border border-line bg-raised p-3 text-sm shadow-xl"
        >
          <label className="flex items-center justify-between">
            Shape
            <select
              className={choice}
              value={shape ?? ''}
              onChange={(event) =>
                set(event.target.value as Shape, (lineCounts as readonly number[]).includes(lines) ? lines : 1080)
              }
            >
              {!shape && (
                <option value="">
                  {size.width}×{size.height}
                </option>
              )}
              {(Object.keys(shapes) as Shape[]).map((each) => (
                <option key={each} value={each}>
                  {each}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center justify-between">
            Resolution
            <select
              className={choice}
              value={lines}
              onChange={(event) => set(shape ?? '16:9', Number(event.target.value))}
            >
              {!(lineCounts as readonly number[]).includes(lines) && <option value={lines}>{lines}</option>}
              {lineCounts.map((each) => (
                <option key={each} value={each}>
                  {each}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center justify-between">
            Frame rate
            <select
              className={choice}
              value={
                Object.keys(rates).find(
                  (name) => framesPerSecond(rates[name as keyof typeof rates]) === framesPerSecond(rate),
                ) ?? ''
              }
              onChange={(event) => live.edit({ type: 'format', rate: rates[event.target.value as keyof typeof rates] })}
            >
              {!Object.values(rates).some((each) => framesPerSecond(each) === framesPerSecond(rate)) && (
                <option value="">{fps}</option>
              )}
              {Object.keys(rates).map((name) => (
                <option key={name} value={name}>
                  {name} fps
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center justify-between">
            Other shapes
            <select
              className={choice}
              value={document.fit ?? 'bars'}
              onChange={(event) => void shaping.change({ type: 'fit', clip: null, fit: event.target.value as Fit })}
            >
              <option value="fill">fill the frame</option>
              <option value="blur">over a blurred copy</option>
              <option value="bars">with bars</option>
            </select>
          </label>
          <p className="text-xs text-muted">
            {shaping.busy
              ? 'Finding what to follow in each picture…'
              : 'In another shape pictures fill the frame and follow what matters. Cuts stay at their times; at another rate each goes to the nearest frame.'}
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
