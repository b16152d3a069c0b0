/** All footage laid end to end and wrapped into lines of equal length, like text. Times in seconds. */
export interface StringItem {
  id: string;
  seconds: number;
}

/** A part of a file that stands in one line. `from` and `to` are places in the line, 0 to 1. */
export interface LinePart {
  index: number;
  start: number;
  end: number;
  from: number;
  to: number;
}

export class StringOut {
  /** Where each item begins; one more entry holds the total. */
  readonly offsets: number[];

  constructor(readonly items: readonly StringItem[]) {
    this.offsets = [0];
    for (const item of items) this.offsets.push(this.offsets.at(-1)! + item.seconds);
  }

  get total(): number {
    return this.offsets.at(-1)!;
  }

  /** The item that plays at `time` and the time in it; the ends are held. Null when there is no footage. */
  locate(time: number): { index: number; id: string; seconds: number } | null {
    if (this.items.length === 0) return null;
    const held = Math.min(Math.max(0, time), this.total);
    let low = 0;
    let high = this.items.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.offsets[middle]! <= held) low = middle;
      else high = middle - 1;
    }
    return { index: low, id: this.items[low]!.id, seconds: Math.min(held - this.offsets[low]!, this.items[low]!.seconds) };
  }

  /** Time in the string of a time in an item; null when the item is not in it. */
  timeOf(id: string, seconds: number): number | null {
    const index = this.items.findIndex((item) => item.id === id);
    return index < 0 ? null : this.offsets[index]! + Math.min(Math.max(0, seconds), this.items[index]!.seconds);
  }

  lineCount(secondsPerLine: number): number {
    return Math.max(1, Math.ceil(this.total / secondsPerLine - 1e-9));
  }

  /** What stands in line `line`, from left to right. */
  line(line: number, secondsPerLine: number): LinePart[] {
    const start = line * secondsPerLine;
    const end = Math.min(this.total, start + secondsPerLine);
    const parts: LinePart[] = [];
    for (let index = this.locate(start)?.index ?? 0; index < this.items.length && this.offsets[index]! < end; index++) {
      const from = Math.max(start, this.offsets[index]!);
      const to = Math.min(end, this.offsets[index + 1]!);
      if (to > from)
        parts.push({ index, start: from - this.offsets[index]!, end: to - this.offsets[index]!, from: (from - start) / secondsPerLine, to: (to - start) / secondsPerLine });
    }
    return parts;
  }
}
