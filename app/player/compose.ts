import { captionAt, drawCaption, type CaptionTrack } from '#core/captions';
import {
  affineOf,
  cropParts,
  cropWithin,
  isFramed,
  isSameShape,
  stillMoveAt,
  type Fit,
  type View,
} from '#core/framing';
import { applyTable, type ColourTable } from '#core/look';
import { framesToSeconds } from '#core/time';
import { drawTitle, fadeAt, logoBox, titleAt, titleStyle, type Reel, type Segment, type TitleCanvas } from '#core/reel';

/** A picture as it can be drawn, with its own size. */
export interface Picture {
  image: CanvasImageSource;
  width: number;
  height: number;
}

export interface Scene {
  /** While it plays, speed counts more than the finest scaling. */
  quick: boolean;
  reel: Pick<Reel, 'titles' | 'theme' | 'rate' | 'fit' | 'captions' | 'logo'>;
  captions: readonly CaptionTrack[];
  /** The logo; null while there is none to be drawn. */
  logo: Picture | null;
  /** The picture of a stretch at this moment; null while it is not there. */
  pictureOf(leaf: Segment): Picture | null;
  /** Whether it never will be there: the footage was taken away, or its file has vanished. */
  isMissing(leaf: Segment): boolean;
  /** The table of a stretch's look; null for as filmed. */
  tableOf(leaf: Segment): ColourTable | null;
  /** The view of a steadied stretch at a frame; null when it is not steadied, or that is not known yet. */
  viewOf(leaf: Segment, frame: number): View | null;
}

type Canvas2d = CanvasRenderingContext2D;

/** Draws a reel's frames as the renderer makes them: shape, view, look, fades, transitions, titles. */
export class Composer {
  private readonly second = document.createElement('canvas');
  private readonly small = document.createElement('canvas');
  private readonly titles = new Map<string, HTMLCanvasElement>();

  /** @param frame of the segment */
  draw(canvas: HTMLCanvasElement, segment: Segment | null, frame: number, scene: Scene): void {
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    const { width, height } = canvas;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalAlpha = 1;
    if (!segment) {
      context.fillStyle = 'black';
      context.fillRect(0, 0, width, height);
      return;
    }
    if (segment.cross) this.drawCross(context, width, height, segment, frame, scene);
    else this.drawLeaf(context, width, height, segment, frame, scene);
    this.drawTitles(context, width, height, segment.startFrame + frame, scene.reel);
    this.drawMarks(context, width, height, segment.startFrame + frame, scene);
  }

  private drawCross(
    context: Canvas2d,
    width: number,
    height: number,
    { cross, frames }: Segment,
    frame: number,
    scene: Scene,
  ): void {
    const { kind, from, to } = cross!;
    const share = Math.min(1, Math.max(0, frame / frames));
    this.second.width = width;
    this.second.height = height;
    const other = this.second.getContext('2d', { willReadFrequently: true })!;
    this.drawLeaf(context, width, height, from, frame, scene);
    this.drawLeaf(other, width, height, to, frame, scene);
    context.setTransform(1, 0, 0, 1, 0, 0);
    if (kind === 'push') {
      const gone = Math.round(share * width);
      context.drawImage(context.canvas, -gone, 0);
      context.drawImage(this.second, width - gone, 0);
    } else if (kind === 'wipe') {
      const edge = Math.round((1 - share) * width);
      if (edge < width) context.drawImage(this.second, edge, 0, width - edge, height, edge, 0, width - edge, height);
    } else {
      context.globalAlpha = share;
      context.drawImage(this.second, 0, 0);
      context.globalAlpha = 1;
    }
  }

  private drawLeaf(context: Canvas2d, width: number, height: number, leaf: Segment, frame: number, scene: Scene): void {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalAlpha = 1;
    const picture = leaf.media === null ? null : scene.pictureOf(leaf);
    const missing = leaf.media !== null && !picture && scene.isMissing(leaf);
    if (picture || missing || leaf.media === null) {
      context.fillStyle = 'black';
      context.fillRect(0, 0, width, height);
    }
    if (missing) this.say(context, width, height, `The footage of “${leaf.name}” is missing.`);
    if (picture) {
      this.place(context, width, height, picture, leaf, frame, scene);
      const table = scene.tableOf(leaf);
      if (table) {
        const pixels = context.getImageData(0, 0, width, height);
        applyTable(table, pixels.data);
        context.putImageData(pixels, 0, 0);
      }
    }
    const { share, colour } = fadeAt(leaf, frame);
    if (share < 1) {
      context.globalAlpha = 1 - share;
      context.fillStyle = colour;
      context.fillRect(0, 0, width, height);
      context.globalAlpha = 1;
    }
  }

  private say(context: Canvas2d, width: number, height: number, text: string): void {
    context.fillStyle = '#9fabb2';
    context.font = `${Math.round(height / 18)}px "Figtree Variable", sans-serif`;
    context.textAlign = 'center';
    context.fillText(text, width / 2, height / 2, width * 0.9);
    context.textAlign = 'start';
  }

  private place(
    context: Canvas2d,
    width: number,
    height: number,
    picture: Picture,
    leaf: Segment,
    frame: number,
    scene: Scene,
  ): void {
    const { clip } = leaf;
    const size = { width, height };
    context.imageSmoothingQuality = scene.quick ? 'low' : 'high';
    if (clip?.move) {
      const share = clip.frames > 1 ? (leaf.into + frame) / (clip.frames - 1) : 0;
      return this.through(context, picture, stillMoveAt(clip.move, share, picture, size), size, {
        x: 0,
        y: 0,
        ...size,
      });
    }
    const fit: Fit = clip?.fit ?? scene.reel.fit ?? 'bars';
    if (isFramed(clip?.framing, fit, picture, size)) {
      const steady = clip?.steady ? scene.viewOf(leaf, frame) : null;
      const seconds = leaf.sourceSeconds + framesToSeconds(frame, scene.reel.rate) * leaf.speed;
      for (const part of cropParts(clip.framing, seconds, picture, size)) {
        const box = { x: 0, y: Math.round(part.top * height), width, height: Math.round(part.height * height) };
        this.through(context, picture, steady ? cropWithin(steady, part.view, picture) : part.view, box, box);
      }
      return;
    }
    const cover = fit === 'fill' || isSameShape(picture, { width, height });
    const scale = cover
      ? Math.max(width / picture.width, height / picture.height)
      : Math.min(width / picture.width, height / picture.height);
    const box = {
      x: (width - picture.width * scale) / 2,
      y: (height - picture.height * scale) / 2,
      width: picture.width * scale,
      height: picture.height * scale,
    };
    if (!cover && fit === 'blur') this.backdrop(context, picture, width, height);
    const view = clip?.steady ? scene.viewOf(leaf, frame) : null;
    if (!view) return context.drawImage(picture.image, box.x, box.y, box.width, box.height);
    context.save();
    context.beginPath();
    context.rect(box.x, box.y, box.width, box.height);
    context.clip();
    if (clip!.steady!.edges === 'fill') this.backdrop(context, picture, width, height);
    this.through(context, picture, view, { width: box.width, height: box.height }, box);
    context.restore();
  }

  /** Draws a picture so that a view of it fills a box. */
  private through(
    context: Canvas2d,
    picture: Picture,
    view: View,
    size: { width: number; height: number },
    box: { x: number; y: number; width: number; height: number },
  ): void {
    // The renderer asks where a pixel comes from; a canvas, where it goes to: the other way round.
    const { a, b, c, d, e, f } = affineOf(view, picture, size);
    const det = a * e - b * d;
    context.save();
    context.beginPath();
    context.rect(box.x, box.y, box.width, box.height);
    context.clip();
    context.translate(box.x, box.y);
    context.transform(e / det, -d / det, -b / det, a / det, (b * f - c * e) / det, (c * d - a * f) / det);
    context.drawImage(picture.image, 0, 0, picture.width, picture.height);
    context.restore();
  }

  /** The picture, filling everything, blurred and a little darker. */
  private backdrop(context: Canvas2d, picture: Picture, width: number, height: number): void {
    this.small.width = 24;
    this.small.height = Math.max(2, Math.round((24 * height) / width));
    const small = this.small.getContext('2d')!;
    const scale = Math.max(this.small.width / picture.width, this.small.height / picture.height);
    small.drawImage(
      picture.image,
      (this.small.width - picture.width * scale) / 2,
      (this.small.height - picture.height * scale) / 2,
      picture.width * scale,
      picture.height * scale,
    );
    context.drawImage(this.small, 0, 0, width, height);
    context.fillStyle = 'rgba(0,0,0,0.12)';
    context.fillRect(0, 0, width, height);
  }

  /** Logo and captions, in the order in which the renderer lays them over. */
  private drawMarks(
    context: Canvas2d,
    width: number,
    height: number,
    frame: number,
    { reel, captions, logo }: Scene,
  ): void {
    if (reel.logo && logo) {
      const box = logoBox(reel.logo, logo, { width, height });
      context.globalAlpha = reel.logo.opacity;
      context.drawImage(logo.image, box.x, box.y, box.width, box.height);
      context.globalAlpha = 1;
    }
    const seconds = framesToSeconds(frame, reel.rate) + framesToSeconds(1, reel.rate) / 2;
    for (const { lines, style, follows } of captions) {
      const now = captionAt(lines, seconds);
      if (now)
        drawCaption(context, now.line, follows ? now.lit : null, style, { width, height }, seconds - now.line.start);
    }
  }

  private drawTitles(context: Canvas2d, width: number, height: number, frame: number, reel: Scene['reel']): void {
    const size = { width, height };
    for (const title of reel.titles ?? []) {
      if (frame < title.frame || frame >= title.frame + title.frames) continue;
      const style = titleStyle(reel);
      const key = `${JSON.stringify(title)} ${reel.theme ?? ''} ${width}×${height}`;
      let drawn = this.titles.get(key);
      if (!drawn) {
        drawn = document.createElement('canvas');
        drawn.width = width;
        drawn.height = height;
        drawTitle(drawn.getContext('2d') as unknown as TitleCanvas, title, style, size);
        // A font that is still on its way would be kept for ever.
        if (document.fonts.status === 'loaded') {
          if (this.titles.size > 40) this.titles.clear();
          this.titles.set(key, drawn);
        }
      }
      const { opacity, x, y } = titleAt(title, style, frame - title.frame, reel.rate, size);
      context.globalAlpha = opacity;
      context.drawImage(drawn, x, y);
      context.globalAlpha = 1;
    }
  }
}
