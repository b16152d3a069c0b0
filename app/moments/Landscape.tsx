import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react';
import type { Moment } from '#core/moments';
import { formatClock, type StringOut } from '#core/time';
import { inks } from '../drawing/inks';
import { useDraw, type DrawPoint } from '../hands/useDraw';
import { useShade } from '../ui/shade';
import { useInnerWidth } from '../ui/useInnerWidth';
import { lengthWords } from './MomentsBar';

export interface LandscapeProps {
  string: StringOut;
  landscape: Float32Array;
  water: number;
  moments: Moment[];
  wells: { media: string; start: number; end: number }[];
  /** Where the playhead stands; null when it does not. */
  here: number | null;
  seconds: number;
  targetSeconds: number;
  onWater(level: number): void;
  onPoint(time: number): void;
}

const height = 96;
const top = 12;
const ground = 88;

type Drawn = Pick<LandscapeProps, 'landscape' | 'water' | 'string' | 'moments' | 'wells'> & { highest: number };

/**
 * Where a worth stands, 0 at the ground and 1 at the highest, and back. Roots: most of a reel lies near the ground, since
 * what comes once more is worth little, and that is where the line has to be moved finely.
 */
const standsAt = (worth: number, highest: number) => Math.sqrt(Math.min(1, Math.max(0, worth / highest)));
const worthAt = (share: number, highest: number) => Math.min(100, Math.max(0, share) ** 2 * highest);
const yOf = (worth: number, highest: number) => ground - standsAt(worth, highest) * (ground - top);

/** What all material is worth as a landscape. What rises above the water is kept; the line can be dragged. */
export function Landscape(props: LandscapeProps) {
  const { landscape, water, string, moments, wells, seconds, targetSeconds, onWater, onPoint } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const width = useInnerWidth(frame);
  const shade = useShade();
  const highest = useMemo(() => Math.max(40, ...landscape) * 1.06, [landscape]);
  const levelAt = (y: number) => worthAt((ground - y) / (ground - top), highest);

  useEffect(() => {
    const element = canvas.current!;
    const context = element.getContext('2d')!;
    const ratio = window.devicePixelRatio || 1;
    element.width = width * ratio;
    element.height = height * ratio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    draw(context, width, { landscape, water, string, moments, wells, highest });
  }, [width, landscape, water, string, moments, wells, highest, shade]);

  const hold = useDraw({
    begin: () => {
      const move = ({ clientY }: DrawPoint) => onWater(levelAt(clientY - frame.current!.getBoundingClientRect().top));
      return { move, done: move, left: () => onWater(water) };
    },
  });
  const keys = (event: KeyboardEvent) => {
    const step = { ArrowUp: 0.01, ArrowDown: -0.01, PageUp: 0.05, PageDown: -0.05 }[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    onWater(worthAt(standsAt(water, highest) + step, highest));
  };
  return (
    <div ref={frame} className="relative min-w-0 flex-1" style={{ height }}>
      <canvas
        ref={canvas}
        style={{ width, height }}
        className="absolute inset-0 cursor-pointer"
        aria-hidden
        onClick={(event) =>
          onPoint(((event.clientX - event.currentTarget.getBoundingClientRect().left) / width) * string.total)
        }
      />
      {props.here !== null && string.total > 0 && (
        <div
          className="pointer-events-none absolute top-2 w-px bg-text/70"
          style={{ left: (props.here / string.total) * width, height: ground - 8 }}
        />
      )}
      <div
        role="slider"
        tabIndex={0}
        aria-label="Waterline"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(water)}
        aria-valuetext={`keeps ${formatClock(seconds)}`}
        aria-orientation="vertical"
        className="absolute inset-x-0 h-4 pointer-coarse:h-11 -translate-y-1/2 cursor-ns-resize touch-none"
        style={{ top: yOf(water, highest) }}
        onKeyDown={keys}
        {...hold()}
      >
        <div className="absolute inset-x-0 top-1/2 h-px bg-text" />
        <div className="absolute left-0 top-1/2 h-2.5 w-2.5 -translate-y-1/2 rounded-full bg-playhead" />
        <div className="tabular absolute right-0 bottom-[9px] rounded bg-playhead px-1.5 py-0.5 text-xs text-ground">
          {lengthWords(seconds, targetSeconds)}
        </div>
      </div>
    </div>
  );
}

function draw(
  context: CanvasRenderingContext2D,
  width: number,
  { landscape, water, string, moments, wells, highest }: Drawn,
) {
  context.clearRect(0, 0, width, height);
  if (width < 1 || landscape.length === 0 || string.total === 0) return;
  const xOf = (time: number) => (time / string.total) * width;
  const hill = (fill: string) => {
    context.fillStyle = fill;
    context.beginPath();
    context.moveTo(0, ground);
    for (let index = 0; index < landscape.length; index++)
      context.lineTo((index / (landscape.length - 1)) * width, yOf(landscape[index]!, highest));
    context.lineTo(width, ground);
    context.fill();
  };
  const place = (media: string, seconds: number) => xOf(string.timeOf(media, seconds) ?? 0);
  for (const moment of moments) {
    context.fillStyle = inks().beam;
    const x = place(moment.media, moment.start);
    context.fillRect(x, 2, Math.max(1, place(moment.media, moment.end) - x), ground - 2);
  }
  hill(inks().hill);
  context.save();
  context.beginPath();
  for (const moment of moments) {
    const x = place(moment.media, moment.start);
    context.rect(x, 0, Math.max(1, place(moment.media, moment.end) - x), yOf(water, highest));
  }
  context.clip();
  hill(inks().lampFill);
  context.restore();
  context.setLineDash([3, 3]);
  context.lineWidth = 1;
  for (const moment of moments) {
    if (moment.kept !== 'hand') continue;
    const x = place(moment.media, moment.start);
    context.strokeStyle = inks().lamp;
    context.strokeRect(x + 0.5, 16.5, Math.max(3, place(moment.media, moment.end) - x), ground - 17);
  }
  for (const well of wells) {
    const x = place(well.media, well.start);
    const w = Math.max(3, place(well.media, well.end) - x);
    context.fillStyle = inks().ground;
    context.fillRect(x, 16, w, ground - 16);
    context.strokeStyle = inks().muted;
    context.strokeRect(x + 0.5, 16.5, w, ground - 17);
  }
  context.setLineDash([]);
  context.fillStyle = inks().line;
  context.fillRect(0, ground, width, 1);
  context.fillStyle = inks().muted;
  for (const offset of string.offsets) context.fillRect(Math.round(xOf(offset)), ground, 1, 5);
}
