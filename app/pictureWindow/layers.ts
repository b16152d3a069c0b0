type Drawable = HTMLVideoElement | HTMLCanvasElement | HTMLImageElement;

/** A picture in a frame, and the box it fills there, in shares of the frame. */
export interface Layer {
  source: Drawable;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Pixels that it has of its own; none before they are there. */
function sizeOf(source: Drawable): { width: number; height: number } {
  // Elements of another window are of other classes: what they are is in their names.
  if (source.tagName === 'VIDEO') {
    const { videoWidth: width, videoHeight: height } = source as HTMLVideoElement;
    return { width, height };
  }
  if (source.tagName === 'IMG') {
    const { naturalWidth: width, naturalHeight: height } = source as HTMLImageElement;
    return { width, height };
  }
  return source;
}

/**
 * The pictures in a frame from the lowest to the highest, each as large as fits its box without being cut, as the screen
 * shows them. Words and lines over them are left away.
 */
export function layersOf(frame: Element): Layer[] {
  const room = frame.getBoundingClientRect();
  if (room.width < 1 || room.height < 1) return [];
  return [...frame.querySelectorAll<Drawable>('video, canvas, img')].flatMap((source) => {
    const box = source.getBoundingClientRect();
    const { width, height } = sizeOf(source);
    if (!width || !height || box.width < 1 || box.height < 1) return [];
    const scale = Math.min(box.width / width, box.height / height);
    const [wide, tall] = [width * scale, height * scale];
    return [
      {
        source,
        x: (box.left - room.left + (box.width - wide) / 2) / room.width,
        y: (box.top - room.top + (box.height - tall) / 2) / room.height,
        width: wide / room.width,
        height: tall / room.height,
      },
    ];
  });
}

/** The largest box of a shape in another box, in its middle. */
export function fittingBox(
  shape: { width: number; height: number },
  room: { width: number; height: number },
): { x: number; y: number; width: number; height: number } {
  const scale = Math.min(room.width / shape.width, room.height / shape.height);
  const [width, height] = [shape.width * scale, shape.height * scale];
  return { x: (room.width - width) / 2, y: (room.height - height) / 2, width, height };
}
