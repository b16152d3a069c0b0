import { useEffect, useRef } from 'react';
import { runsOf } from '#core/readings';
import { inks } from './inks';
import { useShade } from '../ui/shade';
import { useSeen } from './useSeen';
import { useReadings } from '../readings/useReadings';

const width = 220;
const height = 22;

/** A file's traces at a glance: faces, speech, motion, shake. Loaded when it comes into view. */
export function MiniTraces({ media, stamp }: { media: string; stamp: string }) {
  const frame = useRef<HTMLSpanElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const seen = useSeen(frame);
  const reading = useReadings(seen ? [media] : [], stamp)?.[0] ?? null;
  const shade = useShade();
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !reading) return;
    context.setTransform(2, 0, 0, 2, 0, 0);
    context.clearRect(0, 0, width, height);
    const { traces, hz, durationSeconds, runs } = reading;
    const toX = (seconds: number) => (seconds / durationSeconds) * width;
    const most = (values: Float32Array, x: number) => {
      const from = Math.floor((x / width) * values.length);
      let top = 0;
      for (let at = from; at <= Math.min(values.length - 1, Math.floor(((x + 1) / width) * values.length)); at++)
        top = Math.max(top, values[at]!);
      return top;
    };
    context.fillStyle = inks().motion;
    context.globalAlpha = 0.5;
    for (let x = 0; x < width; x++)
      context.fillRect(x, height - most(traces.motion, x) * 10, 1, most(traces.motion, x) * 10);
    context.globalAlpha = 1;
    context.fillStyle = inks().speech;
    for (const run of runsOf(runs, 'speech'))
      context.fillRect(toX(run.start), 7, Math.max(1, toX(run.end) - toX(run.start) - 0.5), 2);
    context.fillStyle = inks().faces;
    for (let x = 0; x < width; x += 5)
      if ((traces.faces[Math.min(traces.faces.length - 1, Math.floor((x / width) * durationSeconds * hz))] ?? 0) > 0.5)
        context.fillRect(x, 1.5, 2, 2);
    context.strokeStyle = inks().shake;
    context.beginPath();
    for (const run of runsOf(runs, 'shaky')) {
      context.moveTo(toX(run.start), height - 1);
      for (let x = toX(run.start), up = true; x < toX(run.end); x += 3, up = !up)
        context.lineTo(x, up ? height - 1 : height - 6);
    }
    context.stroke();
  }, [reading, shade]);
  return (
    <span ref={frame} className="block" style={{ width, height }}>
      {reading && <canvas ref={canvas} width={width * 2} height={height * 2} style={{ width, height }} aria-hidden />}
    </span>
  );
}
