/** A small grey picture; `data` has width × height bytes, row by row. */
export interface Gray {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Luma of an R'G'B' triple after ITU-R BT.709 (item 3.2): 0.2126 R' + 0.7152 G' + 0.0722 B'. */
export const luma709 = (red: number, green: number, blue: number): number =>
  0.2126 * red + 0.7152 * green + 0.0722 * blue;

/** Half the size, each pixel the mean of four; an odd last row or column is left out. */
export function halve(picture: Gray, into?: Gray): Gray {
  const width = picture.width >> 1;
  const height = picture.height >> 1;
  const out =
    into && into.width === width && into.height === height
      ? into
      : { width, height, data: new Uint8Array(width * height) };
  const { data } = picture;
  for (let y = 0; y < height; y++) {
    let from = 2 * y * picture.width;
    const below = picture.width;
    for (let x = 0; x < width; x++, from += 2)
      out.data[y * width + x] =
        (data[from]! + data[from + 1]! + data[from + below]! + data[from + below + 1]! + 2) >> 2;
  }
  return out;
}
