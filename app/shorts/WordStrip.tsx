import { useEffect, useRef, useState } from 'react';
import type { Word } from '#core/words';
import { useDraw, type DrawPoint } from '../hands/useDraw';
import { useShade } from '../ui/shade';
import { inks } from '../drawing/inks';

interface Levels {
  hz: number;
  values: Float32Array;
}
const known = new Map<string, Promise<Levels | null>>();
const levelsOf = (media: string): Promise<Levels | null> => {
  let found = known.get(media);
  if (!found) {
    found = fetch(`/media/${media}/levels`).then(
      async (answer) =>
        answer.status === 200
          ? { hz: Number(answer.headers.get('X-Hz')), values: new Float32Array(await answer.arrayBuffer()) }
          : null,
      () => null,
    );
    known.set(media, found);
  }
  return found;
};

interface WordStripProps {
  media: string;
  words: readonly Word[];
  from: number;
  to: number;
  chosen: number;
  /** The playhead, in the source. */
  time: number;
  /** A word begins at another second of the source. */
  onRetime(index: number, start: number): void;
}

const height = 40;
/** Quieter than this is drawn flat, in dBFS. */
const floor = -54;

/** The sound under a caption, with its words; their beginnings can be dragged, or moved by arrow keys. */
export function WordStrip({ media, words, from, to, chosen, time, onRetime }: WordStripProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const shade = useShade();
  const [levels, setLevels] = useState<Levels | null>(null);
  const [held, setHeld] = useState<{ index: number; start: number } | null>(null);
  useEffect(() => void levelsOf(media).then(setLevels), [media]);
  const own = words.slice(from, to);
  const start = (own[0]?.start ?? 0) - 0.3,
    end = (own.at(-1)?.end ?? 1) + 0.3;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !levels) return;
    const { width } = canvas.current!;
    context.clearRect(0, 0, width, height * 2);
    context.fillStyle = inks().speech;
    for (let x = 0; x < width; x += 3) {
      const seconds = start + (x / width) * (end - start);
      const level =
        levels.values[Math.max(0, Math.min(levels.values.length - 1, Math.round(seconds * levels.hz)))] ?? floor;
      const tall = Math.max(1, (Math.max(0, level - floor) / -floor) * height * 1.1);
      context.globalAlpha = 0.75;
      context.fillRect(x, height - tall / 2, 2, tall);
    }
    context.globalAlpha = 1;
  }, [levels, start, end, shade]);
  const place = (seconds: number) => `${((seconds - start) / (end - start)) * 100}%`;
  const least = (index: number) => (words[index - 1]?.start ?? 0) + 0.05,
    most = (index: number) => words[index]!.end - 0.05;
  const within = (index: number, seconds: number) => Math.min(most(index), Math.max(least(index), seconds));
  const draw = useDraw<number>({
    begin: (_, element, index) => {
      const area = element.closest('[data-testid=word-strip]')!.getBoundingClientRect();
      const at = ({ clientX }: DrawPoint) =>
        within(index, start + ((clientX - area.left) / area.width) * (end - start));
      return {
        move: (point) => setHeld({ index, start: at(point) }),
        done: (point) => {
          setHeld(null);
          if (Math.abs(at(point) - words[index]!.start) > 0.005) onRetime(index, at(point));
        },
        left: () => setHeld(null),
      };
    },
  });
  return (
    <div className="relative overflow-hidden rounded bg-ground" style={{ height }} data-testid="word-strip">
      <canvas ref={canvas} width={720} height={height * 2} className="absolute inset-0 h-full w-full" aria-hidden />
      {own.map((word, offset) => {
        const index = from + offset;
        const begins = held?.index === index ? held.start : word.start;
        return (
          <div key={index}>
            <span
              className={`pointer-events-none absolute bottom-0 truncate border-l px-0.5 text-xs leading-4 ${index === chosen ? 'border-lampline bg-lamp/20' : 'border-text/40'}`}
              style={{ left: place(begins), width: `calc(${place(word.end)} - ${place(begins)})`, top: 0 }}
            >
              {word.text}
            </span>
            <span
              role="slider"
              tabIndex={0}
              aria-label={`“${word.text}” begins`}
              aria-valuenow={Number(begins.toFixed(2))}
              className="absolute top-0 h-full w-2.5 -translate-x-1/2 cursor-ew-resize touch-none pointer-coarse:w-6"
              style={{ left: place(begins) }}
              onKeyDown={(event) => {
                const by = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0;
                if (by) {
                  event.preventDefault();
                  event.stopPropagation();
                  onRetime(index, within(index, word.start + by));
                }
              }}
              {...draw(index)}
            />
          </div>
        );
      })}
      {time >= start && time <= end && (
        <span className="pointer-events-none absolute top-0 h-full w-px bg-text" style={{ left: place(time) }} />
      )}
    </div>
  );
}
