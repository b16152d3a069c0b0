/** A small colour picture; `data` has width × height × 3 bytes, R'G'B', row by row. */
export interface ColourPicture {
  width: number;
  height: number;
  data: Uint8Array;
}

/** A part of a picture in fractions of its size; may reach over its edges. */
export interface Part {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * A part of a picture at another size, as three planes (NCHW) of floats, as nets take it. Each new pixel is the mean of
 * the old ones under it, or a bilinear mix where it is enlarged. Outside the picture is black.
 * @param scale what becomes of a byte: value × scale + offset
 */
export function planes(
  picture: ColourPicture,
  part: Part,
  width: number,
  height: number,
  scale = 1,
  offset = 0,
): Float32Array {
  const { data } = picture;
  const out = new Float32Array(3 * width * height);
  const size = width * height;
  const stepX = (part.width * picture.width) / width;
  const stepY = (part.height * picture.height) / height;
  const left = part.x * picture.width;
  const top = part.y * picture.height;
  const across = taps(width, left, stepX, picture.width);
  const down = taps(height, top, stepY, picture.height);
  // Across first, for the old lines that are needed, then down.
  const first = down.from.reduce((least, line) => Math.min(least, line), picture.height);
  const last = down.from.reduce((most, line) => Math.max(most, line), 0);
  const lines = new Float32Array((last - first + 1) * width * 3);
  const { from, weights, count } = across;
  for (let line = first, to = 0; line <= last; line++)
    for (let x = 0; x < width; x++, to += 3) {
      let red = 0,
        green = 0,
        blue = 0;
      for (let tap = x * count, end = tap + count; tap < end; tap++) {
        const weight = weights[tap]!;
        const at = (line * picture.width + from[tap]!) * 3;
        red += weight * data[at]!;
        green += weight * data[at + 1]!;
        blue += weight * data[at + 2]!;
      }
      lines[to] = red;
      lines[to + 1] = green;
      lines[to + 2] = blue;
    }
  out.fill(offset);
  for (let y = 0; y < height; y++)
    for (let tap = y * down.count, end = tap + down.count; tap < end; tap++) {
      const weight = down.weights[tap]! * scale;
      if (weight === 0) continue;
      let from = (down.from[tap]! - first) * width * 3;
      for (let to = y * width, stop = to + width; to < stop; to++, from += 3) {
        out[to]! += weight * lines[from]!;
        out[size + to]! += weight * lines[from + 1]!;
        out[2 * size + to]! += weight * lines[from + 2]!;
      }
    }
  return out;
}

/** Which old pixels a new one is made of, and their weights (a triangle as wide as the step, at least two pixels). */
function taps(
  count: number,
  start: number,
  step: number,
  limit: number,
): { count: number; from: Int32Array; weights: Float32Array } {
  const reach = Math.max(1, step);
  const each = Math.ceil(reach * 2) + 1;
  const from = new Int32Array(count * each);
  const weights = new Float32Array(count * each);
  for (let index = 0; index < count; index++) {
    const middle = start + (index + 0.5) * step - 0.5;
    const first = Math.ceil(middle - reach);
    let sum = 0;
    for (let tap = 0; tap < each; tap++) sum += Math.max(0, 1 - Math.abs(first + tap - middle) / reach);
    for (let tap = 0; tap < each; tap++) {
      const at = first + tap;
      const weight = Math.max(0, 1 - Math.abs(at - middle) / reach) / sum;
      from[index * each + tap] = Math.min(limit - 1, Math.max(0, at));
      weights[index * each + tap] = at < -0.5 || at > limit - 0.5 ? 0 : weight;
    }
  }
  return { count: each, from, weights };
}
