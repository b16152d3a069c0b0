/** What frames of a voice add up to, from which follows the normal distribution that fits them best. */
export class VoiceSum {
  count = 0;
  private readonly sums: Float64Array;
  /** Upper triangle of the sum of products, row by row. */
  private readonly products: Float64Array;
  private known: number | null = null;

  constructor(readonly size: number) {
    this.sums = new Float64Array(size);
    this.products = new Float64Array((size * (size + 1)) / 2);
  }

  /** @param frames rows of `size` numbers; those from `from` to before `to` are added */
  add(frames: Float32Array, from: number, to: number): this {
    const { size, sums, products } = this;
    for (let frame = from; frame < to; frame++) {
      const base = frame * size;
      let place = 0;
      for (let row = 0; row < size; row++) {
        const value = frames[base + row]!;
        sums[row] = sums[row]! + value;
        for (let column = row; column < size; column++, place++)
          products[place] = products[place]! + value * frames[base + column]!;
      }
    }
    this.count += to - from;
    this.known = null;
    return this;
  }

  /** @param sign -1 takes it away again */
  take(other: VoiceSum, sign: 1 | -1 = 1): this {
    this.count += sign * other.count;
    for (let at = 0; at < this.sums.length; at++) this.sums[at] = this.sums[at]! + sign * other.sums[at]!;
    for (let at = 0; at < this.products.length; at++)
      this.products[at] = this.products[at]! + sign * other.products[at]!;
    this.known = null;
    return this;
  }

  plus(other: VoiceSum): VoiceSum {
    return new VoiceSum(this.size).take(this).take(other);
  }

  mean(): Float64Array {
    return this.sums.map((sum) => sum / Math.max(1, this.count));
  }

  /** Lower triangular Cholesky factor of the covariance, full rows. */
  factor(): Float64Array {
    const { size, count } = this;
    const mean = this.mean();
    const lower = new Float64Array(size * size);
    const covariance = (row: number, column: number) => {
      const place = row * size - (row * (row - 1)) / 2 + (column - row);
      return this.products[place]! / Math.max(1, count) - mean[row]! * mean[column]!;
    };
    for (let row = 0; row < size; row++)
      for (let column = 0; column <= row; column++) {
        let sum = covariance(column, row) + (row === column ? leastVariance : 0);
        for (let at = 0; at < column; at++) sum -= lower[row * size + at]! * lower[column * size + at]!;
        lower[row * size + column] =
          row === column ? Math.sqrt(Math.max(sum, leastVariance)) : sum / lower[column * size + column]!;
      }
    return lower;
  }

  /** Logarithm of the determinant of the covariance. */
  spread(): number {
    if (this.known !== null) return this.known;
    const lower = this.factor();
    let sum = 0;
    for (let at = 0; at < this.size; at++) sum += 2 * Math.log(lower[at * this.size + at]!);
    return (this.known = sum);
  }
}
const leastVariance = 1e-4;

/**
 * How much better two normal distributions tell two voices than one does, less what the second one costs (the Bayesian information
 * criterion; Chen & Gopalakrishnan 1998, “Speaker, environment and channel change detection and clustering via the Bayesian
 * information criterion”). Above zero they are two voices.
 * @param penalty weight of the cost, their λ
 * @param count frames of the whole, which the cost counts by; of the two where it is missing
 */
export function twoVoices(a: VoiceSum, b: VoiceSum, penalty: number, count = a.count + b.count): number {
  const both = a.plus(b);
  const gain = (both.count * both.spread() - a.count * a.spread() - b.count * b.spread()) / 2;
  const { size } = a;
  return gain - (penalty / 2) * (size + (size * (size + 1)) / 2) * Math.log(count);
}
