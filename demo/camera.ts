import { createCanvas, type Canvas, type SKRSContext2D } from '@napi-rs/canvas';
import { wander } from './random';

export const frame = { width: 1280, height: 720, fps: 30 };

/** Where the camera looks: the middle of the picture in world pixels, zoom (1 = one to one), roll in radians. */
export interface View {
  x: number;
  y: number;
  zoom: number;
  roll: number;
}

export interface Shot {
  seconds: number;
  view(seconds: number): View;
  draw(context: SKRSContext2D, seconds: number, place: { toPicture: (draw: () => void) => void }): void;
  /** Exposure shares per frame; more than one draws motion blur. */
  exposures?: number;
  /** Width of defocus in picture pixels. */
  defocus?: number;
  /** 0 is full light, 1 is black. */
  dark?: (seconds: number) => number;
}

/** Handheld wander of 2 to 9 Hz; `strength` is the RMS of the position in world pixels. */
export function handheld(seed: number, strength: (seconds: number) => number) {
  const x = wander(seed, 2, 9, 7);
  const y = wander(seed + 1, 2, 9, 7);
  const roll = wander(seed + 2, 2, 6, 5);
  return (view: View, seconds: number): View => {
    const now = strength(seconds);
    return {
      ...view,
      x: view.x + x(seconds) * now,
      y: view.y + y(seconds) * now,
      roll: view.roll + roll(seconds) * now * 0.0009,
    };
  };
}

/** Draws shots into RGBA frames, one after another. */
export class FilmCamera {
  private readonly canvas: Canvas;
  private readonly small: Canvas;
  readonly context: SKRSContext2D;

  /** @param size of its pictures; what they show is the same at every width */
  constructor(
    private readonly background: Canvas,
    readonly size: typeof frame = frame,
  ) {
    this.canvas = createCanvas(size.width, size.height);
    this.small = createCanvas(size.width, size.height);
    this.context = this.canvas.getContext('2d');
  }

  take(shot: Shot, seconds: number): Buffer {
    const exposures = shot.exposures ?? 1;
    for (let index = 0; index < exposures; index++) {
      this.context.globalAlpha = 1 / (index + 1);
      if (index === 0) this.expose(this.context, shot, seconds);
      else {
        const layer = this.small.getContext('2d');
        this.expose(layer, shot, seconds + (index / exposures) * (0.6 / this.size.fps));
        this.context.drawImage(this.small, 0, 0);
      }
    }
    this.context.globalAlpha = 1;
    if (shot.defocus) this.blur(shot.defocus);
    const dark = shot.dark?.(seconds) ?? 0;
    if (dark > 0) {
      this.context.fillStyle = `rgba(2,3,5,${dark})`;
      this.context.fillRect(0, 0, this.size.width, this.size.height);
    }
    return this.canvas.data();
  }

  still(): Canvas {
    return this.canvas;
  }

  private expose(context: SKRSContext2D, shot: Shot, seconds: number) {
    const alpha = context.globalAlpha;
    context.globalAlpha = 1;
    const view = shot.view(seconds);
    context.save();
    const { width, height } = this.size;
    const scale = (view.zoom * width) / frame.width;
    context.translate(width / 2, height / 2);
    context.rotate(view.roll);
    context.scale(scale, scale);
    context.translate(-view.x, -view.y);
    context.drawImage(this.background, 0, 0);
    shot.draw(context, seconds, {
      toPicture: (draw) => {
        context.save();
        context.resetTransform();
        draw();
        context.restore();
      },
    });
    context.restore();
    context.globalAlpha = alpha;
  }

  private blur(width: number) {
    const factor = Math.max(2, width);
    const w = Math.round(this.size.width / factor);
    const h = Math.round(this.size.height / factor);
    const layer = this.small.getContext('2d');
    layer.imageSmoothingEnabled = true;
    layer.imageSmoothingQuality = 'high';
    this.context.imageSmoothingQuality = 'high';
    layer.drawImage(this.canvas, 0, 0, w, h);
    this.context.drawImage(this.small, 0, 0, w, h, 0, 0, this.size.width, this.size.height);
  }
}
