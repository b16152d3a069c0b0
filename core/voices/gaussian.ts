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

  /** Lower triangular Cholesky factor of the covariance, full rows. @param other what is added to the sums for this once */
  factor(other: VoiceSum | null = null, into = new Float64Array(this.size * this.size)): Float64Array {
    const { size, sums, products } = this;
    const [more, moreProducts] = [other?.sums, other?.products];
    const share = 1 / Math.max(1, this.count + (other?.count ?? 0));
    for (let column = 0; column < size; column++) {
      const columnMean = (sums[column]! + (more ? more[column]! : 0)) * share;
      // Row `column` of the upper triangle begins here.
      const base = column * size - (column * (column - 1)) / 2 - column;
      for (let row = column; row < size; row++) {
        const product = products[base + row]! + (moreProducts ? moreProducts[base + row]! : 0);
        const rowMean = (sums[row]! + (more ? more[row]! : 0)) * share;
        let sum = product * share - rowMean * columnMean;
        if (row === column) sum += leastVariance;
        for (let at = 0; at < column; at++) sum -= into[row * size + at]! * into[column * size + at]!;
        into[row * size + column] =
          row === column ? Math.sqrt(Math.max(sum, leastVariance)) : sum / into[column * size + column]!;
      }
    }
    return into;
  }

  /** Logarithm of the determinant of the covariance; with another sum of it and this one together. */
  spread(other: VoiceSum | null = null): number {
    if (!other && this.known !== null) return this.known;
    const lower = this.factor(other, scratchFor(this.size));
    let sum = 0;
    for (let at = 0; at < this.size; at++) sum += 2 * Math.log(lower[at * this.size + at]!);
    if (!other) this.known = sum;
    return sum;
  }
}
const leastVariance = 1e-4;

/** For factors that nobody keeps: millions of them are made. */
let scratch = new Float64Array(0);
const scratchFor = (size: number): Float64Array<ArrayBuffer> =>
  scratch.length === size * size ? scratch : (scratch = new Float64Array(size * size));

/**
 * How much better two normal distributions tell two voices than one does, less what the second one costs (the Bayesian information
 * criterion; Chen & Gopalakrishnan 1998, “Speaker, environment and channel change detection and clustering via the Bayesian
 * information criterion”). Above zero they are two voices.
 * @param penalty weight of the cost, their λ
 * @param count frames of the whole, which the cost counts by; of the two where it is missing
 */
export function twoVoices(a: VoiceSum, b: VoiceSum, penalty: number, count = a.count + b.count): number {
  const gain = ((a.count + b.count) * a.spread(b) - a.count * a.spread() - b.count * b.spread()) / 2;
  const { size } = a;
  return gain - (penalty / 2) * (size + (size * (size + 1)) / 2) * Math.log(count);
}
