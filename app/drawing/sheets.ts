/** Thumbnail sheets, loaded once and kept; lines ask to be drawn again when one arrives. */
const images = new Map<string, HTMLImageElement>();
const listeners = new Set<() => void>();
/** A picture that did not come is asked for again, later and later: over a minute in all. */
const mostTries = 6;
const retryMilliseconds = 3000;

export interface Sheets {
  /** Time of the first thumbnail. */
  start?: number;
  /** Which input look its pictures have. */
  inputLook?: string;
  hz: number;
  width: number;
  height: number;
  columns: number;
  rows: number;
  count: number;
}

export function onSheet(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Draws the frame at `seconds` into the box, filling it; false while its sheet is still loading. */
export function drawFrame(
  context: CanvasRenderingContext2D,
  media: string,
  sheets: Sheets,
  seconds: number,
  x: number,
  y: number,
  width: number,
  height: number,
): boolean {
  const each = sheets.columns * sheets.rows;
  const index = Math.max(
    0,
    Math.min(sheets.count * each - 1, Math.floor((seconds - (sheets.start ?? 0)) * sheets.hz + 0.01)),
  );
  // The rough reading's sheets and those of the whole one have the same address; this tells them apart.
  const image = load(
    `/media/${media}/sheets/${Math.floor(index / each) + 1}?of=${sheets.start ?? 0}-${sheets.hz}-${sheets.count}${sheets.inputLook ? `-${sheets.inputLook}` : ''}`,
  );
  if (!image.complete || image.naturalWidth === 0) return false;
  const cell = index % each;
  const scale = Math.max(width / sheets.width, height / sheets.height);
  const w = width / scale;
  const h = height / scale;
  context.drawImage(
    image,
    (cell % sheets.columns) * sheets.width + (sheets.width - w) / 2,
    Math.floor(cell / sheets.columns) * sheets.height + (sheets.height - h) / 2,
    w,
    h,
    x,
    y,
    width,
    height,
  );
  return true;
}

/** Draws a photo into the box, filling it; false while it is still loading. */
export function drawPhoto(
  context: CanvasRenderingContext2D,
  media: string,
  x: number,
  y: number,
  width: number,
  height: number,
): boolean {
  const image = load(`/media/${media}`);
  if (!image.complete || image.naturalWidth === 0) return false;
  const scale = Math.max(width / image.naturalWidth, height / image.naturalHeight);
  const w = width / scale;
  const h = height / scale;
  context.drawImage(image, (image.naturalWidth - w) / 2, (image.naturalHeight - h) / 2, w, h, x, y, width, height);
  return true;
}

function load(address: string): HTMLImageElement {
  let image = images.get(address);
  if (!image) {
    image = new Image();
    image.crossOrigin = 'anonymous';
    const own = image;
    let tries = 0;
    own.onload = () => listeners.forEach((listener) => listener());
    // The server may be away for a while; what is not there at all is not asked for for ever.
    own.onerror = () => {
      if (++tries <= mostTries) setTimeout(() => (own.src = address), retryMilliseconds * tries);
    };
    own.src = address;
    images.set(address, image);
  }
  return image;
}
