import { useLayoutEffect, useRef } from 'react';
import type { LinePart } from '#core/time';
import { drawLine, lineHeight, type LineFile } from '../drawing/drawLine';
import { onSheet } from '../drawing/sheets';
import { useShade } from '../ui/shade';

/** One line of the page as a canvas; drawn again when the choice, the width, the shade or a thumbnail sheet changes. */
export function StripLine({ parts, files, width }: { parts: LinePart[]; files: LineFile[]; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const shade = useShade();
  // Before the browser paints, so that a choice shows a frame earlier.
  useLayoutEffect(() => {
    let asked = 0;
    const draw = () => {
      const element = canvas.current;
      const context = element?.getContext('2d');
      if (!element || !context || width < 1) return;
      const ratio = window.devicePixelRatio || 1;
      const pixels = Math.round(width * ratio);
      if (element.width !== pixels) {
        element.width = pixels;
        element.height = lineHeight * ratio;
      }
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      drawLine(context, width, parts, files);
    };
    const ask = () => {
      cancelAnimationFrame(asked);
      asked = requestAnimationFrame(draw);
    };
    draw();
    const stop = onSheet(ask);
    return () => {
      stop();
      cancelAnimationFrame(asked);
    };
  }, [parts, files, width, shade]);
  return (
    <canvas
      ref={canvas}
      className="pointer-events-none absolute inset-0"
      style={{ width, height: lineHeight }}
      aria-hidden
    />
  );
}
