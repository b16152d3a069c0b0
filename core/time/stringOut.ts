import type { Range } from './range';

/** All footage laid end to end and wrapped into lines of equal length, like text. Times in seconds. */
export interface StringItem {
  id: string;
  seconds: number;
  /** Where in the file it begins; 0 when missing. A file may stand in the string with several of its stretches. */
  start?: number;
}

/** A part of a file that stands in one line. `from` and `to` are places in the line, 0 to 1. */
export interface LinePart {
  index: number;
  /** Whether the item begins here. */
  first: boolean;
  start: number;
  end: number;
  from: number;
  to: number;
}

/** Files laid end to end: times of the whole and times of each file, both in seconds. */
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
    return {
      index: low,
      id: this.items[low]!.id,
      seconds: this.startOf(low) + Math.min(held - this.offsets[low]!, this.items[low]!.seconds),
    };
  }

  private startOf(index: number): number {
    return this.items[index]!.start ?? 0;
  }

  /** The item that plays at `time` as a stretch of the string. */
  rangeAt(index: number): Range {
    return { start: this.offsets[index]!, end: this.offsets[index + 1]! };
  }

  /** Time in the string of a time in a file; the ends of the nearest item are held. Null when the file is not in it. */
  timeOf(id: string, seconds: number): number | null {
    let best: { away: number; time: number } | null = null;
    for (const [index, item] of this.items.entries()) {
      if (item.id !== id) continue;
      const into = seconds - this.startOf(index);
      const held = Math.min(Math.max(0, into), item.seconds);
      if (!best || Math.abs(into - held) < best.away)
        best = { away: Math.abs(into - held), time: this.offsets[index]! + held };
    }
    return best && best.time;
  }

  /** The parts of a file's stretch that stand in the string, in the string's time. */
  rangesOf(id: string, range: Range): Range[] {
    return this.items.flatMap((item, index) => {
      if (item.id !== id) return [];
      const from = Math.max(range.start, this.startOf(index));
      const to = Math.min(range.end, this.startOf(index) + item.seconds);
      return to > from + 1e-9
        ? [
            {
              start: this.offsets[index]! + from - this.startOf(index),
              end: this.offsets[index]! + to - this.startOf(index),
            },
          ]
        : [];
    });
  }

  /** A stretch of the string as stretches of files. */
  pieces(range: Range): (Range & { id: string })[] {
    return this.items.flatMap((item, index) => {
      const from = Math.max(range.start, this.offsets[index]!);
      const to = Math.min(range.end, this.offsets[index + 1]!);
      const shift = this.startOf(index) - this.offsets[index]!;
      return to > from + 1e-9 ? [{ id: item.id, start: from + shift, end: to + shift }] : [];
    });
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
        parts.push({
          index,
          first: from === this.offsets[index]!,
          start: from - this.offsets[index]! + this.startOf(index),
          end: to - this.offsets[index]! + this.startOf(index),
          from: (from - start) / secondsPerLine,
          to: (to - start) / secondsPerLine,
        });
    }
    return parts;
  }
}
