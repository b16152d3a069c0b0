/** Gaussian low-pass; `sigma` in samples. The ends are mirrored, so nothing is pulled to zero. */
export function gaussianSmooth(values: ArrayLike<number>, sigma: number): Float32Array {
  const out = Float32Array.from(values);
  const count = values.length;
  if (sigma <= 0 || count < 2) return out;
  const reach = Math.min(count - 1, Math.ceil(sigma * 3));
  const kernel = new Float64Array(reach + 1);
  let sum = 0;
  for (let offset = 0; offset <= reach; offset++) {
    kernel[offset] = Math.exp(-(offset * offset) / (2 * sigma * sigma));
    sum += offset ? 2 * kernel[offset]! : kernel[offset]!;
  }
  for (let index = 0; index < count; index++) {
    let total = kernel[0]! * values[index]!;
    if (index >= reach && index + reach < count) {
      for (let offset = 1; offset <= reach; offset++)
        total += kernel[offset]! * (values[index - offset]! + values[index + offset]!);
      out[index] = total / sum;
      continue;
    }
    for (let offset = 1; offset <= reach; offset++) {
      const before = index - offset < 0 ? offset - index - 1 : index - offset;
      const after = index + offset >= count ? 2 * count - 1 - index - offset : index + offset;
      total += kernel[offset]! * (values[before]! + values[after]!);
    }
    out[index] = total / sum;
  }
  return out;
}

/** Root of the mean square in a centred window of `half` samples at each side. */
export function slidingRms(values: ArrayLike<number>, half: number): Float32Array {
  const squares = new Float64Array(values.length + 1);
  for (let index = 0; index < values.length; index++) squares[index + 1] = squares[index]! + values[index]! ** 2;
  return Float32Array.from({ length: values.length }, (_, index) => {
    const from = Math.max(0, index - half);
    const to = Math.min(values.length, index + half + 1);
    return Math.sqrt(Math.max(0, squares[to]! - squares[from]!) / (to - from));
  });
}

/** The value below which `share` (0 to 1) of the values lie; 0 for an empty list. */
export function percentile(values: ArrayLike<number>, share: number): number {
  if (values.length === 0) return 0;
  const sorted = Float64Array.from(values).sort();
  const at = share * (sorted.length - 1);
  const low = Math.floor(at);
  return sorted[low]! + (sorted[Math.min(sorted.length - 1, low + 1)]! - sorted[low]!) * (at - low);
}

/** Sums from the start: `out[i]` is the sum of the first i values, so any stretch costs one subtraction. */
export function prefixSums(values: ArrayLike<number>): Float64Array {
  const sums = new Float64Array(values.length + 1);
  for (let index = 0; index < values.length; index++) sums[index + 1] = sums[index]! + values[index]!;
  return sums;
}

/** The value within bounds; 0 to 1 where none are given. */
export const clamp = (value: number, low = 0, high = 1): number => Math.min(high, Math.max(low, value));
